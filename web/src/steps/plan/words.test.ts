import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import type { ShownPlan } from '@/domain/question'
import { outcomeWords, type Units } from './words'

const units: Units = {
  tableText: (mg) => `${mg / 1000} g`,
  totalText: (mg) => `${mg / 1_000_000} kg`,
  moneyText: (minor) => `${minor / 100} €`,
}
const plan = (changes: Partial<ShownPlan>): ShownPlan => ({
  outcome: 'target_met',
  swaps: [0],
  hasPlan: true,
  net_minor: 60_100,
  base_mg: 7_190_000,
  short_by_mg: 0,
  more_minor: null,
  lightest_mg: null,
  ...changes,
})
type Served = Partial<PlanAnswer['plan']>
const answer = (changes: Served = {}) =>
  ({
    plan: { pins: [], gap_mg: null, gap_minor: null, least_minor: null, ...changes },
    swaps: [{ name: 'Pole shelter' }],
    list: { terms: { target_of: 'loaded' } },
  }) as unknown as PlanAnswer
const words = (shown: Partial<ShownPlan>, served: Served = {}, target: number | null = 7_200_000) =>
  outcomeWords(answer(served), plan(shown), { target, budget: 62_000 }, units)

describe('the outcome in words', () => {
  it('says what the plan does and that it is proved', () => {
    const { title, note } = words({})
    expect(title).toBe('Down to 7.19 kg for 601 €')
    expect(note).toMatch(/cheapest set that reaches the target.*proved/)
  })

  it('says what is missing when the money does not reach', () => {
    const { note } = words({ outcome: 'over_budget', short_by_mg: 83_000, more_minor: 1_400 })
    expect(note).toMatch(/^83 g short.*within 620 €: proved.*takes 14 € more/)
  })

  it('says how light it goes when no money would do', () => {
    const { note } = words({ outcome: 'out_of_reach', short_by_mg: 500_000, lightest_mg: 6_700_000 })
    expect(note).toMatch(/^500 g short\. At any price, these swaps go down to 6.7 kg: proved/)
  })

  it('says what no set meets, and what meeting it all costs', () => {
    const unmet = words({ outcome: 'unmet' }, { unmet: ['rain_shell', 'ground'] })
    expect(unmet.note).toMatch(/^No set of them leaves nothing short of: rain shell and ground\./)
    const dear = words({ outcome: 'too_dear', more_minor: 8_300 })
    expect(dear.note).toMatch(/takes 83 € more than the budget/)
  })

  it('asks for a target where there is none', () => {
    expect(words({ outcome: 'out_of_reach' }, {}, null).note).toMatch(/^Set a target/)
  })

  it('names the pins that clash, and the money if it is that', () => {
    expect(words({ outcome: 'pins_clash' }, { pins: [0] }).note).toMatch(
      /all be made: Pole shelter\. Unpin one/,
    )
    expect(words({ outcome: 'pins_clash' }, { pins: [0], lost_job: 'rain_shell' }).note).toBe(
      "They can't all be made: Pole shelter. They would leave less of “rain shell” than there is now. Unpin one.",
    )
    expect(words({ outcome: 'pins_clash' }, { pins: [0], least_minor: 70_000 }).note).toMatch(
      /costs at least 700 €/,
    )
  })

  it('never calls an unproved plan proved', () => {
    for (const outcome of ['target_met', 'over_budget', 'out_of_reach'] as const) {
      const { note } = words({ outcome }, { gap_mg: 12_000, gap_minor: 500 })
      expect(note).toBe(
        'Not proved: the search was stopped. The best may be up to 12 g lighter or 5 € cheaper.',
      )
    }
  })

  it('has nothing to change when the list is there already', () => {
    expect(words({ outcome: 'already_met' }).title).toBe('Already there')
    expect(words({ outcome: 'unresolved', hasPlan: false }).title).toBe('No plan yet')
    expect(words({ outcome: 'unresolved' }).note).toContain('is not known: the search was stopped')
  })
})
