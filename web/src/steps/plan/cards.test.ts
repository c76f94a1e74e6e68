import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { monthName } from '@/quantities/dates'
import { mounted, textOf } from '@/tests/mounted'
import CountingCard from './CountingCard.vue'
import MeetCard from './MeetCard.vue'
import NearCard from './NearCard.vue'
import { compared } from './kept'
import { changeWords, ladder, nextStep, stepTo } from '@/domain/ladder'
import { nearMisses, turnOf } from '@/domain/near'

const answer = {
  swaps: [
    { id: 'a', name: 'Shelter' },
    { id: 'b', name: 'Stakes' },
    { id: 'c', name: 'Pillow' },
    { id: 'd', name: 'Tarp' },
  ],
  ranking: [
    { swap: 0, net_minor: 28_900 },
    { swap: 1, net_minor: 1_400 },
    { swap: 2, net_minor: 0 },
    { swap: 3, net_minor: 31_000 },
  ],
  plan: { swaps: [0], net_minor: 28_900, base_mg: 7_290_000, clears: [] },
  near_misses: [
    {
      swap: 'a',
      at_minor: 36_100,
      price_minor: 37_900,
      price_at_minor: 45_100,
      side: 'drop_above',
      why: null,
    },
    { swap: 'b', at_minor: 1_195, price_minor: 140, price_at_minor: 119, side: 'buy_below', why: null },
    { swap: 'c', at_minor: null, side: null, why: 'needed' },
    { swap: 'gone', at_minor: 1, side: 'buy_below', why: null },
    { swap: 'd', at_minor: -20_000, price_minor: 40_000, price_at_minor: -11_000, side: null, why: null },
  ],
  frontier: [
    { net_minor: 0, base_mg: 8_000_000, swaps: [] },
    { net_minor: 28_900, base_mg: 7_290_000, swaps: [0] },
    { net_minor: 30_300, base_mg: 6_700_000, swaps: [1, 3] },
  ],
  list: { terms: { counting: 'expected' } },
} as unknown as PlanAnswer

describe('near misses', () => {
  it('are prices of one piece, the nearest first, and nothing that no price changes', () => {
    const { buyBelow, dropAbove, needed } = nearMisses(answer)
    expect(buyBelow.map(({ swap, now, then }) => [swap.name, now, then])).toEqual([['Stakes', 140, 119]])
    expect(dropAbove.map(({ swap, now, then }) => [swap.name, now, then])).toEqual([
      ['Shelter', 37_900, 45_100],
    ])
    expect(needed).toEqual(['Pillow'])
  })

  it('say the same on every screen, and whether it is the budget that ends there', () => {
    const money = (minor: number) => `${minor / 100} €`
    const words = (by: string) =>
      turnOf(
        { ...answer, near_misses: answer.near_misses.map((one) => ({ ...one, by })) } as PlanAnswer,
        'a',
        money,
      )
    expect(words('others')).toBe('drop above 451 €: another choice is better')
    expect(words('budget')).toBe('drop above 451 €: beyond the budget')
    expect(turnOf(answer, 'b', money)).toBe('buy below 1.19 €')
    expect(turnOf(answer, 'nobody', money)).toBe('')
  })

  it('say when they could not be had, and are asked for again', async () => {
    const none = { ...answer, near_misses: [] }
    expect(mounted(NearCard, { answer: none, error: null }).find('section').exists()).toBe(false)
    const card = mounted(NearCard, { answer: none, error: new Error('The database is away.') })
    expect(textOf(card)).toContain('could not be loaded. The database is away.')
    await card.get('button').trigger('click')
    expect(card.emitted('retry')).toHaveLength(1)
  })
})

describe('going further', () => {
  it('is read off the frontier as far as it goes', () => {
    expect(ladder(answer.frontier, 7_300_000, 500_000)).toEqual([
      { target: 6_800_000, net: 30_300, more: 1_400 },
    ])
    expect(ladder(answer.frontier, 6_000_000, 500_000)).toEqual([])
    expect(nextStep(answer)).toEqual({
      lighter: 590_000,
      more: 1_400,
      comesIn: ['Stakes', 'Tarp'],
      goesOut: ['Shelter'],
    })
  })

  it('says what each step of the descent takes, the first from the list as it stands', () => {
    const longer = { ...answer, base_mg: 8_100_000 }
    expect(stepTo(longer, 0)).toEqual({ lighter: 100_000, more: 0, comesIn: [], goesOut: [] })
    expect(changeWords(stepTo(longer, 2))).toBe('Stakes, Tarp in; Shelter out')
    const many = { lighter: 0, more: 0, comesIn: ['a', 'b', 'c', 'd', 'e'], goesOut: [] }
    expect(changeWords(many)).toBe('a, b, c and 2 more in')
  })

  it('names the month', () => {
    const now = new Date(2026, 10, 26)
    expect([0, 1, 14].map((after) => monthName(after, now))).toEqual(['today', 'December', 'January 2028'])
  })
})

describe('kept plans', () => {
  it('cost what they cost now, and say what is done and what is gone', () => {
    const kept = [{ id: 'k', version: 1, name: 'Light', kept_at: '', swaps: ['b', 'c', 'x', 'y'] }]
    const plans = compared({ ...answer, done: [{ id: 'x' }] } as PlanAnswer, [0], kept)
    expect(plans.map(({ name, swaps, net, done, gone }) => [name, swaps, net, done, gone])).toEqual([
      ['The plan now', ['a'], 28_900, 0, 0],
      ['Light', ['b', 'c'], 1_400, 1, 1],
    ])
  })
})

describe('what a plan counts on', () => {
  it('is chosen among three ways, each with what it leaves', async () => {
    const clears = [
      { counting: 'stated', mg: 7_000 },
      { counting: 'expected', mg: -87_000 },
    ]
    const card = mounted(CountingCard, { answer: { ...answer, plan: { ...answer.plan, clears } } })
    const [stated, expected] = card.findAll<HTMLInputElement>('input[type=radio]')
    expect(textOf(card)).toContain('over the target by 87 g')
    expect([stated!.element.checked, expected!.element.checked]).toEqual([false, true])
    await stated!.setValue()
    expect(card.emitted('count')).toEqual([['stated']])
  })
})

describe('what the plan also meets', () => {
  const card = (short: object[], meet: string[]) =>
    mounted(MeetCard, {
      answer: { short, meet_costs: [], list: { terms: { meet } } } as unknown as PlanAnswer,
    })

  it('says what meeting it costs before it is ticked, and nothing of what is ticked', () => {
    const costs = [
      { meet: 'warmth', outcome: 'target_met', more_minor: 8_300, heavier_mg: 120_000 },
      { meet: 'rain_shell', outcome: 'unmet' },
      { meet: 'light', outcome: 'too_dear', over_minor: 1_250 },
      { meet: 'stake', outcome: 'target_met', more_minor: 0, heavier_mg: 0 },
    ]
    const short = costs.map(({ meet }) => ({ meet, short: 1 }))
    const shown = (meet: string[]) =>
      mounted(MeetCard, {
        answer: { short, meet_costs: costs, list: { terms: { meet } } } as unknown as PlanAnswer,
      })
        .findAll('.rows > div')
        .map((row) => row.find('small'))
        .map((cost) => (cost.exists() ? textOf(cost) : ''))
    expect(shown([])).toEqual([
      '+83 €, 120 g heavier',
      'no plan does it',
      '12.50 € over the budget',
      'costs nothing more',
    ])
    expect(shown(['warmth', 'rain_shell', 'light', 'stake'])).toEqual(['', '', '', ''])
  })

  it('is ticked, unticked, and not there where nothing is short', async () => {
    const wrapper = card(
      [
        { meet: 'warmth', short: 55 },
        { meet: 'rain_shell', short: 1 },
      ],
      ['warmth'],
    )
    expect(textOf(wrapper)).toContain('Warm enough at night5.5 °C short')
    const boxes = wrapper.findAll('input')
    expect(boxes.map((box) => box.element.checked)).toEqual([true, false])
    await boxes[1]!.setValue(true)
    await boxes[0]!.setValue(false)
    expect(wrapper.emitted('meet')).toEqual([[['warmth', 'rain_shell']], [[]]])
    expect(card([], []).find('section').exists()).toBe(false)
  })
})
