import type { FrontierPoint, PlanAnswer } from '@/api/client'

/** A rung: a base weight further down, what it takes in all, and what it takes more than the rung before. */
export interface Rung {
  target: number
  net: number
  more: number
}

/** What each further step of so many milligrams below a weight takes, read off the frontier; as far as it goes. */
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

/** From one set of swaps to another: how much lighter, for how much more, and which swaps come in and go out. */
export interface Step {
  lighter: number
  more: number
  comesIn: string[]
  goesOut: string[]
}

type Stand = Pick<FrontierPoint, 'base_mg' | 'net_minor' | 'swaps'>

function stepFrom(now: Stand, then: Stand, swaps: PlanAnswer['swaps']): Step {
  const without = (some: number[], others: number[]) =>
    some.filter((swap) => !others.includes(swap)).map((swap) => swaps[swap]!.name)
  return {
    lighter: now.base_mg - then.base_mg,
    more: then.net_minor - now.net_minor,
    comesIn: without(then.swaps, now.swaps),
    goesOut: without(now.swaps, then.swaps),
  }
}

/** The step to the point after the plan's own on the frontier. */
export function nextStep({ plan, frontier, swaps }: PlanAnswer): Step | null {
  const next = frontier.find((point) => point.net_minor > plan.net_minor)
  return next && plan.swaps ? stepFrom({ ...plan, swaps: plan.swaps }, next, swaps) : null
}

/** The step to a point of the frontier from the one before; to the first from the list as it stands. */
export function stepTo(
  { base_mg, frontier, swaps }: Pick<PlanAnswer, 'base_mg' | 'frontier' | 'swaps'>,
  at: number,
): Step {
  return stepFrom(frontier[at - 1] ?? { base_mg, net_minor: 0, swaps: [] }, frontier[at]!, swaps)
}

const SOME = 3
const some = (names: string[], what: string) => {
  const [first, more] = [names.slice(0, SOME).join(', '), names.length - SOME]
  return names.length === 0 ? '' : `${first}${more > 0 ? ` and ${more} more` : ''} ${what}`
}

/** Which swaps come in and go out, in words. */
export const changeWords = ({ comesIn, goesOut }: Step) =>
  [some(comesIn, 'in'), some(goesOut, 'out')].filter(Boolean).join('; ')
