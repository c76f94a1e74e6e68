import type { PlanAnswer, Swap } from '@/api/client'

/** What it takes for a swap to come into the plan, or to fall out of it. */
export interface Near {
  swap: Swap
  inPlan: boolean
  /** Now and then: the price of one piece where one thing goes on, else what the whole swap costs. */
  now: number
  then: number
  each: boolean
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
  for (const { swap: id, at_minor, price_minor, price_at_minor, why } of answer.near_misses) {
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
    }
    if (near.inPlan) {
      if (more > 0) fallsOut.push(near)
    } else if (more < 0 && (!near.each || near.then > 0)) comesIn.push(near)
  }
  const nearest = (all: Near[]) => all.sort((a, b) => far(a) - far(b))
  return { comesIn: nearest(comesIn), fallsOut: nearest(fallsOut), needed }
}
