import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { FrontierPoint, PlanAnswer } from '@/api/client'
import { ladder } from './ladder'
import { costsInOrder } from './parcels'
import { readFrontier } from './question'

// What the browser reads off a frontier, against the answers of the open formats that core is tested with: the two can't drift apart.
const ROOT = '../core/tests/golden'
interface Golden {
  problem: { target_mg: number; budget_minor: number }
  answer: {
    plan: Partial<Record<'net_minor' | 'base_mg' | 'short_by_mg' | 'more_minor' | 'lightest_mg', number>> & {
      outcome: string
      swaps?: string[]
    }
    frontier: { net_minor: number; base_mg: number; swaps: string[] }[]
  }
}
const cases = ['plan', 'plan2'].flatMap((folder) =>
  readdirSync(`${ROOT}/${folder}`)
    .filter((file) => file.endsWith('.json'))
    .map((file) => [file, JSON.parse(readFileSync(`${ROOT}/${folder}/${file}`, 'utf8')) as Golden] as const),
)
const READ = ['target_met', 'over_budget', 'out_of_reach']
const planned = cases.filter(([, { answer }]) => READ.includes(answer.plan.outcome))

describe('what is read off a frontier', () => {
  it.each(planned)('is the plan of %s', (_, { problem, answer }) => {
    const names = [...new Set(answer.frontier.flatMap((point) => point.swaps))]
    const points = answer.frontier.map(
      (point) => ({ ...point, swaps: point.swaps.map((swap) => names.indexOf(swap)) }) as FrontierPoint,
    )
    const read = readFrontier(points, problem.target_mg, problem.budget_minor)!
    const { outcome, net_minor, base_mg, short_by_mg, more_minor = null, lightest_mg = null } = answer.plan
    expect(read).toMatchObject({ outcome, net_minor, base_mg, short_by_mg, more_minor, lightest_mg })
    expect(read.swaps.map((swap) => names[swap])).toEqual(answer.plan.swaps)
    // The first rung below a weight just above the target costs what the plan does that reaches it.
    const [rung] = ladder(points, problem.target_mg + 1, 1, 1)
    if (answer.plan.outcome === 'target_met') expect(rung?.net).toBe(answer.plan.net_minor)
    if (answer.plan.outcome === 'out_of_reach') expect(rung).toBeUndefined()
  })

  it('is tested with answers of each sort', () => {
    expect(new Set(planned.map(([, { answer }]) => answer.plan.outcome))).toEqual(new Set(READ))
  })
})

describe('what each swap of a plan costs', () => {
  interface Parcels {
    problem: { swaps: { id: string; delivery_minor: number; ordered_from?: string }[] }
    answer: {
      ranking: { swap: string; net_minor: number }[]
      frontier: { net_minor: number; swaps: string[] }[]
    }
  }
  const { problem, answer } = JSON.parse(readFileSync('../core/tests/parcels.json', 'utf8')) as Parcels
  const at = (id: string) => problem.swaps.findIndex((swap) => swap.id === id)

  it('comes to what the plan costs, in whatever order', () => {
    const planned = {
      swaps: problem.swaps.map(({ delivery_minor, ordered_from }) => ({
        delivery_minor,
        parcel: ordered_from?.toLowerCase().replace(/\s+/g, ' '),
      })),
      ranking: answer.ranking.map(({ swap, net_minor }) => ({ swap: at(swap), net_minor })),
    } as PlanAnswer
    for (const { net_minor, swaps } of answer.frontier)
      for (const order of [swaps, [...swaps].reverse()]) {
        const costs = costsInOrder(planned, order.map(at))
        expect(costs.reduce((sum, cost) => sum + cost, 0)).toBe(net_minor)
      }
  })
})
