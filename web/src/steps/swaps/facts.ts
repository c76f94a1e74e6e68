import type { Gear, ListLine, Ranked, Swap } from '@/api/client'
import { SOLD, SOURCES } from '@/domain/words'
import { listed } from '@/quantities/count'
import { day } from '@/quantities/dates'
import { degrees, temperature, volume, type Measures } from '@/quantities/measures'

/** A fact of what comes off and of what goes on; empty where nothing is known, or where it is none of theirs. */
export interface Fact {
  name: string
  now: string
  then: string
  /** What is better about it, if that can be said of it. */
  better?: 'now' | 'then'
}

/** Figures in the account's units. */
export interface Shown {
  table: (mg: number) => string
  money: (minor: number) => string
  measures: Measures
}

/** One side of a swap: pieces of things with what is known of them. */
type Side = { qty: number; thing: Pick<Gear, 'name' | 'weight' | 'facts' | 'provides'> }[]

const total = (side: Side) =>
  side.every(({ thing }) => thing.weight)
    ? side.reduce((sum, { qty, thing }) => sum + qty * thing.weight!.unit_mg, 0)
    : null
const provided = (side: Side, job: string) =>
  side.reduce((sum, { qty, thing }) => sum + qty * (thing.provides?.[job] ?? 0), 0)
const sources = (side: Side) =>
  [...new Set(side.map(({ thing }) => (thing.weight ? SOURCES[thing.weight.source] : '')))]
    .filter(Boolean)
    .join(', ')

/** Which other lists need what comes off, in words; empty if none does. */
export function neededByOf({ needed_by }: Pick<Swap, 'needed_by'>): string {
  if (needed_by.length === 0) return ''
  return `${listed(needed_by)} ${needed_by.length === 1 ? 'needs' : 'need'} the old one too`
}

/** Where and when a price was seen: `a fair, 3 Oct 2026, used`. */
export const seenWords = (seen: Swap['add'][number]['candidate']['seen']) =>
  seen
    ? [seen.place, seen.on && day(seen.on), SOLD[seen.sold as keyof typeof SOLD]].filter(Boolean).join(', ')
    : ''

/** What comes off and what goes on, fact by fact: only what one of them has. */
export function factsOf(swap: Swap, lines: ListLine[], shown: Shown): Fact[] {
  const off: Side = swap.remove.flatMap(({ line, qty }) => {
    const gear = lines.find((one) => one.id === line)?.gear
    return gear ? [{ qty, thing: gear }] : []
  })
  const on: Side = swap.add.map(({ candidate, qty }) => ({ qty, thing: candidate as Side[number]['thing'] }))
  const names = (side: Side) =>
    side.map(({ qty, thing }) => (qty > 1 ? `${thing.name} × ${qty}` : thing.name)).join(', ') || 'nothing'
  const facts: Fact[] = [{ name: 'What it is', now: names(off), then: names(on) }]
  const add = (
    name: string,
    now: number | null,
    then: number | null,
    text: (figure: number) => string,
    less: boolean,
  ) => {
    if (!now && !then) return
    const say = (side: Side, figure: number | null) =>
      figure == null ? (side.length ? '?' : '–') : text(figure)
    const better =
      now == null || then == null || now === then ? undefined : then < now === less ? 'then' : 'now'
    facts.push({ name, now: say(off, now), then: say(on, then), better })
  }
  add('Weight', total(off), total(on), shown.table, true)
  if (sources(off) || sources(on))
    facts.push({ name: 'Weight from', now: sources(off) || '–', then: sources(on) || '–' })
  const rated = (side: Side) => side.map(({ thing }) => thing.facts?.rating).find(Boolean)
  if (rated(off) || rated(on)) {
    const say = (side: Side) => {
      const rating = rated(side)
      return rating
        ? `${temperature(rating.tenth_c, shown.measures)} ${rating.kind === 'unknown' ? '' : rating.kind}`.trim()
        : '–'
    }
    facts.push({ name: 'Rated', now: say(off), then: say(on) })
  }
  const warms = (side: Side) => side.reduce((sum, { thing }) => sum + (thing.facts?.warms_tenth_c ?? 0), 0)
  add('Adds warmth', warms(off), warms(on), (tenths) => degrees(tenths, shown.measures), false)
  const job = (name: string, key: string, text: (amount: number) => string) =>
    add(name, provided(off, key), provided(on, key), text, false)
  job('R', 'ground_insulation', (tenths) => (tenths / 10).toFixed(1))
  job('Room', 'room', (ml) => volume(ml, shown.measures))
  job('Carries', 'load', (grams) => shown.table(grams * 1000))
  job('Holds water', 'water_carried', (ml) => volume(ml, shown.measures))
  const price = (candidate: Swap['add'][number]['candidate']) => {
    const { price_low_minor: low, price_high_minor: high } = candidate
    if (low == null || high == null) return '?'
    return low === high ? shown.money(low) : `${shown.money(low)} to ${shown.money(high)}`
  }
  if (swap.add.length) {
    const prices = swap.add.map(({ candidate, qty }) => price(candidate) + (qty > 1 ? ' each' : ''))
    facts.push({ name: 'Price', now: '–', then: prices.join(', ') })
    const seen = swap.add.map(({ candidate }) => seenWords(candidate.seen)).filter(Boolean)
    if (seen.length) facts.push({ name: 'Price seen', now: '–', then: [...new Set(seen)].join('; ') })
  }
  if (swap.delivery_minor) facts.push({ name: 'Delivery', now: '–', then: shown.money(swap.delivery_minor) })
  if (swap.resale_minor) {
    const { resale_minor: price, brings_minor: brings } = swap
    const kept = brings > 0 && brings < price ? `, ${shown.money(brings)} of it kept` : ''
    facts.push({ name: 'Resale', now: `${shown.money(price)}${kept}`, then: '–' })
  }
  if (swap.tenth_hours) facts.push({ name: 'Making', now: '–', then: `${swap.tenth_hours / 10} h` })
  return facts
}

/**
 * From where to where what a swap saves may lie. Makers' figures as one's own scale has found others of theirs can lie to one side of what
 * they state: then the figure that ranks is outside, and why is said.
 */
export function doubtOf(
  { saving_mg: ranks, saving_low_mg: low, saving_high_mg: high }: Partial<Ranked>,
  text: (mg: number) => string,
): string {
  if (ranks == null || low == null || high == null || low === high) return ''
  const range = `${text(low)} to ${text(high)}`
  return ranks < low || ranks > high
    ? `That is as stated; going by makers’ figures that you have weighed, it saves ${range}.`
    : `It saves ${range} as far as the weights are known.`
}
