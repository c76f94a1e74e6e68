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
  /** Whether it is planned at the price of a used one. */
  isUsed: boolean
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
    const isUsed = candidate.seen?.sold === 'used'
    const near = answer.near_misses.find((miss) => miss.swap === swap.id && miss.side === 'buy_below')
    const below = near?.price_at_minor
    // At the break-even price itself another choice may be as good.
    const brings = (price: number | null) => price !== null && below != null && price < below
    const comesIn = brings(now) ? 'new' : brings(used) ? 'used' : null
    return [{ followed: one, swap, at: place, name: candidate.name, planned, now, used, isUsed, comesIn }]
  })
  const less = (offer: Offered) => (offer.planned ?? 0) - (priceLike(offer) ?? offer.planned ?? 0)
  const isNews = (offer: Offered) => Number(offer.comesIn !== null || isUsedGone(offer))
  return all.sort((a, b) => isNews(b) - isNews(a) || less(b) - less(a))
}

/** What costs now what it is planned with: a used one beside a used one. */
const priceLike = ({ isUsed, used, now }: Offered) => (isUsed ? used : now)
/** Whether it is planned with a used one, and the shop has none left. */
export const isUsedGone = ({ isUsed, used, followed }: Offered) =>
  isUsed && used === null && !followed.trouble && followed.seen.length > 0

const TROUBLES: Record<NonNullable<Followed['trouble']>, string> = {
  silent: 'The shop does not answer',
  nonsense: 'The shop answers what can’t be an offer',
  gone: 'The shop no longer sells it',
  other_currency: 'The shop’s price is in another currency now',
}

/** What there is to say of it, in words. */
export function offerWords(
  offer: Offered,
  money: (minor: number) => string,
  day: (at: string) => string,
): string {
  const { planned, now, used, comesIn, isUsed } = offer
  const { trouble, seen } = offer.followed
  const last = seen.at(-1)
  const known = last
    ? `last seen at ${money(last.price_minor)} on ${day(last.until)}`
    : 'no price was seen yet'
  if (trouble) return `${TROUBLES[trouble]}; ${known}.`
  if (!last) return 'No price was seen yet.'
  if (comesIn === 'used') return `A used one is ${money(used!)}: at this price the plan buys it.`
  if (isUsedGone(offer)) {
    const instead = now === null ? 'None left new either' : `A new one is ${money(now)}`
    return `The used one that it is planned with is gone. ${instead}.`
  }
  if (now === null && !isUsed) return `None left new; ${known}.`
  const sale = last.was_minor && !isUsed ? `On sale, was ${money(last.was_minor)}. ` : ''
  if (comesIn) return `${sale}At this price the plan buys it.`
  const what = isUsed ? 'Used, ' : ''
  const change = (priceLike(offer) ?? planned ?? 0) - (planned ?? priceLike(offer) ?? 0)
  if (change === 0) return isUsed ? 'Used: as planned.' : `${sale}As planned.`
  return `${sale}${what}${money(Math.abs(change))} ${change < 0 ? 'less' : 'more'} than planned.`
}

const often = (percent: number) =>
  percent === 0 ? 'under one time' : percent === 1 ? 'one time' : `${percent} times`

/** Buy now, or wait below which price, by the prices that were seen; empty where nothing can be said of it. */
export function waitWords(
  { followed: { wait }, now }: Pick<Offered, 'followed' | 'now'>,
  money: (minor: number) => string,
  dayOfTrip: (iso: string) => string,
): string {
  if (!wait || now === null) return ''
  const { buy_below_minor: below, expected_minor: expected, dearer_percent, sold_out_percent } = wait
  const by = dayOfTrip(wait.by)
  const soldOut = sold_out_percent > 0 ? ` It was sold out ${sold_out_percent} % of the time.` : ''
  if (now <= below[0]!)
    return `By the prices seen, buy now: waiting until ${by} comes to ${money(expected)} on average.${soldOut}`
  const later = below.length > 1 ? `below ${money(below[0]!)} now, below ${money(below.at(-1)!)} later, ` : ''
  return (
    `By the prices seen, wait: buy ${later}at any price by ${by}, to try it before the trip. ` +
    `That comes to ${money(expected)} on average, ${money(now - expected)} less than now; ` +
    `${often(dearer_percent)} in 100 it costs more.${soldOut}`
  )
}
