import type { Followed, PlanAnswer, Swap } from '@/api/client'

/** A thing whose price is followed, and what there is to say of it. */
export interface Offered {
  followed: Followed
  swap: Swap
  /** Which of the things that the swap puts on. */
  at: number
  name: string
  /** Its price in the swap, in the shop now, and of a used one there; null if there is none. */
  planned: number | null
  now: number | null
  used: number | null
  /** Whether the swap comes into the plan at what a new one costs now, or else a used one. */
  comesIn: 'new' | 'used' | null
}

/** What is followed for a plan: first what comes into it at what it costs now, then what costs less than planned. */
export function offered(answer: PlanAnswer, followed: Followed[]): Offered[] {
  const all = followed.flatMap((one): Offered[] => {
    const at = answer.swaps.findIndex((swap) => swap.id === one.swap)
    const swap = answer.swaps[at]
    const place = swap?.add.findIndex(({ candidate }) => candidate.id === one.candidate) ?? -1
    const candidate = swap?.add[place]?.candidate
    if (!swap || !candidate) return []
    const planned = candidate.price_minor ?? null
    const last = one.trouble ? undefined : one.seen.at(-1)
    const now = last && last.stock > 0 ? last.price_minor : null
    const used = last?.used_minor ?? null
    const near = answer.near_misses.find((miss) => miss.swap === swap.id)?.price_at_minor
    const inPlan = answer.plan.swaps?.includes(at) ?? false
    const brings = (price: number | null) =>
      !inPlan && price !== null && near != null && price <= near && (planned === null || price < planned)
    const comesIn = brings(now) ? 'new' : brings(used) ? 'used' : null
    return [{ followed: one, swap, at: place, name: candidate.name, planned, now, used, comesIn }]
  })
  const less = ({ planned, now }: Offered) => (planned ?? 0) - (now ?? planned ?? 0)
  const isNews = ({ comesIn }: Offered) => Number(comesIn !== null)
  return all.sort((a, b) => isNews(b) - isNews(a) || less(b) - less(a))
}

const TROUBLES: Record<NonNullable<Followed['trouble']>, string> = {
  silent: 'The shop does not answer',
  nonsense: 'The shop answers what can’t be an offer',
  gone: 'The shop has it no more',
  other_currency: 'The shop’s price is in another currency now',
}

/** What there is to say of it, in words. */
export function offerWords(
  { followed: { trouble, seen }, planned, now, used, comesIn }: Offered,
  money: (minor: number) => string,
  day: (at: string) => string,
): string {
  const last = seen.at(-1)
  const known = last
    ? `last seen at ${money(last.price_minor)} on ${day(last.until)}`
    : 'no price was seen yet'
  if (trouble) return `${TROUBLES[trouble]}; ${known}.`
  if (!last) return 'No price was seen yet.'
  if (comesIn === 'used') return `A used one is ${money(used!)}: at this price it comes into the plan.`
  if (now === null) return `None left new; ${known}.`
  const sale = last.was_minor ? `On sale, was ${money(last.was_minor)}. ` : ''
  if (comesIn) return `${sale}At this price it comes into the plan.`
  const change = now - (planned ?? now)
  if (change === 0) return `${sale}As planned.`
  return `${sale}${money(Math.abs(change))} ${change < 0 ? 'less' : 'more'} than planned.`
}
