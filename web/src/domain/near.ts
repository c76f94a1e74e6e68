import type { PlanAnswer, Swap } from '@/api/client'

/** What it takes for a swap to come into the plan, or to fall out of it. */
export interface Near {
  swap: Swap
  inPlan: boolean
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
 * Near misses, as prices of the thing where one thing goes on. Those that would come in for less, and those that would
 * fall out for more, the nearest first; and the names of what nothing works without.
 */
export function nearMisses(answer: PlanAnswer) {
  const planned = new Set(answer.plan.swaps ?? [])
  const comesIn: Near[] = []
  const fallsOut: Near[] = []
  const needed: string[] = []
  const places = new Map(answer.swaps.map((swap, at) => [swap.id, at]))
  for (const { swap: id, at_minor, by, price_minor, price_at_minor, why } of answer.near_misses) {
    // Near misses of the plan before may name what is gone.
    const at = places.get(id)
    if (at === undefined) continue
    const swap = answer.swaps[at]!
    const net = answer.ranking.find((row) => row.swap === at)?.net_minor ?? 0
    if (why === 'needed') needed.push(swap.name)
    if (at_minor == null) continue
    const more = at_minor - net
    const each = price_minor != null && price_at_minor != null
    const near = {
      swap,
      inPlan: planned.has(at),
      now: each ? price_minor : net,
      then: each ? price_at_minor : at_minor,
      each,
      byBudget: by === 'budget',
    }
    if (near.inPlan) {
      if (more > 0) fallsOut.push(near)
    } else if (more < 0 && (!near.each || near.then > 0)) comesIn.push(near)
  }
  const nearest = (all: Near[]) => all.sort((a, b) => far(a) - far(b))
  return { comesIn: nearest(comesIn), fallsOut: nearest(fallsOut), needed }
}

/** What a swap may cost to come into the plan or to stay in it, in words; the same on every screen. Nothing where nothing is known. */
export function turnOf(answer: PlanAnswer, swap: string, money: (minor: number) => string): string {
  const { comesIn, fallsOut } = nearMisses(answer)
  const near = [...comesIn, ...fallsOut].find((one) => one.swap.id === swap)
  if (!near) return ''
  const at = near.each
    ? money(near.then)
    : near.then < 0
      ? `${money(-near.then)} back`
      : `${money(near.then)} in all`
  if (!near.inPlan) return `buy below ${at}`
  return near.byBudget ? `drop above ${at}: beyond the budget` : `drop above ${at}: another choice is better`
}
