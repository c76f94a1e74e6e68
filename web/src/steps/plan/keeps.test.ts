import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api, type PlanAnswer } from '@/api/client'
import { answered, mounted, textOf } from '@/tests/mounted'
import ChangesCard from './ChangesCard.vue'
import CountingCard from './CountingCard.vue'
import KeepsCard from './KeepsCard.vue'
import SureCard from './SureCard.vue'

const kept = (name: string, need: string, costs_minor: number) => ({
  line: name,
  name,
  need,
  mass_mg: 480_000,
  costs_minor,
})

describe('what it costs to bring', () => {
  it('is told of wants first, by the night too, of all but needs on demand', async () => {
    const keeps = [
      kept('chair', 'want', 5_700),
      kept('map', 'need', 900),
      ...['a', 'b', 'c', 'd', 'e'].map((name) => kept(name, 'undecided', 900)),
    ]
    const answer = { keeps, list: { trip: { days: 7 } } } as never
    const card = mounted(KeepsCard, { answer })
    expect(textOf(card.find('.rows > div'))).toContain('chair 480 g want')
    expect(textOf(card.find('.rows > div'))).toContain('57 €, 9.50 € a night')
    expect(card.findAll('.rows > div')).toHaveLength(5)
    await card.find('button').trigger('click')
    expect(card.findAll('.rows > div')).toHaveLength(6)
    expect(card.text()).not.toContain('map')
    const needs = mounted(KeepsCard, { answer: { ...(answer as object), keeps: [kept('map', 'need', 900)] } })
    expect(needs.find('section').exists()).toBe(false)
  })

  it.each([
    [68, '7 in 10'],
    [99.6, 'At least 99 in 100'],
    [97, 'Over 9 in 10'],
    [3, 'Under 1 in 10'],
    [null, null],
  ])('says of a chance of %s in a hundred: %s', (chance_percent, wanted) => {
    const clears = [{ counting: 'stated', mg: 5_000 }]
    const answer = {
      chance_percent,
      plan: { clears },
      list: { terms: { target_of: 'base' } },
    } as unknown as PlanAnswer
    const bold = mounted(CountingCard, { answer }).find('p b')
    expect(bold.exists() ? bold.text() : null).toBe(wanted)
  })
})

describe('what a plan changes', () => {
  it('is told under its figures, and nothing where nothing changes', async () => {
    const plain = {
      base_before_mg: 1,
      base_after_mg: 1,
      names_before: [],
      names_after: [],
      raised: [],
      quieted: [],
    }
    const jobs = [{ job: 'warm_layer', before: 2, after: 1, asked: 1 }]
    const post = vi.spyOn(api, 'POST').mockResolvedValue(answered({ ...plain, jobs }) as never)
    const answer = {
      list: { id: 'l', trip: null },
      swaps: [{ id: 'a' }, { id: 'b' }],
      plan: { swaps: [1] },
    } as never
    const card = mounted(ChangesCard, { answer })
    await flushPromises()
    expect(post.mock.calls[0]![1]).toMatchObject({ body: { swaps: ['b'] } })
    expect(textOf(card.find('section'))).toContain('Less')
    post.mockResolvedValue(answered({ ...plain, jobs: [] }) as never)
    const quiet = mounted(ChangesCard, { answer })
    await flushPromises()
    expect(quiet.find('section').exists()).toBe(false)
  })
})

describe('how sure a plan is', () => {
  const level = (at_least_percent: number | null, net_minor: number, base_mg: number, swaps: number[]) => ({
    at_least_percent,
    net_minor,
    base_mg,
    swaps,
  })
  const sure = {
    points: [],
    levels: [level(50, 10_000, 7_290_000, [0, 1]), level(90, 14_300, 7_120_000, [0, 2])],
    doubts: [{ line: 'l', gear: 'g', name: 'Framed pack', costs_minor: 3_400 }],
  }
  const answer = {
    sure,
    plan: { swaps: [0, 1], net_minor: 10_000 },
    swaps: [{ name: 'tarp' }, { name: 'thin pad' }, { name: 'light quilt' }],
    list: { id: 'x' },
  }
  const rowsOf = (modelValue: number | null, some: object = {}) => {
    const card = mounted(SureCard, { answer: { ...answer, ...some } as never, modelValue })
    return { card, rows: card.findAll('.rows')[0]?.findAll('div').map(textOf) ?? [], text: textOf(card) }
  }

  it('is said for 5, 8 and 9 in 10 and at worst, against the plan', () => {
    const { rows, text } = rowsOf(90)
    expect(rows).toEqual([
      '5 in 107.29 kg, the same money',
      '8 in 10no step is',
      '9 in 107.12 kg, +43 €',
      'even at worstno step is',
    ])
    expect(text).toContain('Against the plan: with light quilt; without thin pad.')
    expect(rowsOf(50).text).not.toContain('Against the plan')
  })

  it('says what not knowing costs, and takes another level', async () => {
    const { card, text } = rowsOf(90)
    expect(text).toContain('Framed pack34 €')
    await card.findAll('input[type=radio]')[3]!.setValue()
    expect(card.emitted('update:modelValue')).toEqual([[null]])
  })

  it('says nothing while nothing is known', () => expect(rowsOf(90, { sure: null }).text).toBe('v-if'))
})
