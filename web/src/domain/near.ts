import type { PlanAnswer, Swap } from '@/api/client'

/** What it takes for a swap to come into the plan, or to fall out of it. */
export interface Near {
  swap: Swap
  side: 'buy_below' | 'drop_above'
  /** Now and then: the price of one piece where one thing goes on, else what the whole swap costs. */
  now: number
  then: number
  each: boolean
  /** Whether it is the budget that ends there. */
  byBudget: boolean
}

/** How far a price has to move, as a share of what it is. */
const far = ({ now, then }: Near) => Math.abs(then - now) / Math.max(1, now)

/**
 * Near misses, as prices of the thing where one thing goes on. Those that come in below a price, and those that
 * drop out above one, the nearest first; and the names of what nothing works without.
 */
export function nearMisses(answer: PlanAnswer) {
  const buyBelow: Near[] = []
  const dropAbove: Near[] = []
  const needed: string[] = []
  const places = new Map(answer.swaps.map((swap, at) => [swap.id, at]))
  for (const { swap: id, side, at_minor, by, price_minor, price_at_minor, why } of answer.near_misses) {
    // Near misses of the plan before may name what is gone.
    const at = places.get(id)
    if (at === undefined) continue
    const swap = answer.swaps[at]!
    if (why === 'needed') needed.push(swap.name)
    if (!side || at_minor == null) continue
    const each = price_minor != null && price_at_minor != null
    const now = each ? price_minor : (answer.ranking.find((row) => row.swap === at)?.net_minor ?? 0)
    const then = each ? price_at_minor : at_minor
    const rows = side === 'drop_above' ? dropAbove : buyBelow
    rows.push({ swap, side, now, then, each, byBudget: by === 'budget' })
  }
  const nearest = (all: Near[]) => all.sort((a, b) => far(a) - far(b))
  return { buyBelow: nearest(buyBelow), dropAbove: nearest(dropAbove), needed }
}

/** What a swap may cost to come into the plan or to stay in it, in words; the same on every screen. Nothing where nothing is known. */
export function turnOf(answer: PlanAnswer, swap: string, money: (minor: number) => string): string {
  const { buyBelow, dropAbove } = nearMisses(answer)
  const near = [...buyBelow, ...dropAbove].find((one) => one.swap.id === swap)
  if (!near) return ''
  const at = near.each
    ? money(near.then)
    : near.then < 0
      ? `${money(-near.then)} back`
      : `${money(near.then)} in all`
  if (near.side === 'buy_below') return `buy below ${at}`
  return near.byBudget ? `drop above ${at}: beyond the budget` : `drop above ${at}: another choice is better`
}
