import type { FrontierPoint, PlanAnswer } from '@/api/client'

/** A rung: a base weight further down, what it takes in all, and what it takes more than the rung before. */
export interface Rung {
  target: number
  net: number
  more: number
}

/** What each further step of so many milligrams below a weight takes, read off the staircase; as far as it goes. */
export function ladder(frontier: FrontierPoint[], from: number, step: number, most = 5): Rung[] {
  const cheapest = (target: number) => frontier.find((point) => point.base_mg <= target)?.net_minor
  const rungs: Rung[] = []
  let before = cheapest(from)
  for (let at = 1; at <= most && before !== undefined; at += 1) {
    const target = from - at * step
    const net = cheapest(target)
    if (net === undefined) break
    rungs.push({ target, net, more: net - before })
    before = net
  }
  return rungs
}

/** The point after the plan's own on the staircase, and which swaps come in and go out for it. */
export function nextStep(answer: PlanAnswer) {
  const { plan, frontier, swaps } = answer
  const at = frontier.findIndex((point) => point.net_minor > plan.net_minor)
  const next = frontier[at]
  if (!next || !plan.swaps) return null
  const [now, then] = [new Set(plan.swaps), new Set(next.swaps)]
  const names = (some: Set<number>, without: Set<number>) =>
    [...some].filter((swap) => !without.has(swap)).map((swap) => swaps[swap]!.name)
  return {
    lighter: plan.base_mg - next.base_mg,
    more: next.net_minor - plan.net_minor,
    comesIn: names(then, now),
    goesOut: names(now, then),
  }
}
