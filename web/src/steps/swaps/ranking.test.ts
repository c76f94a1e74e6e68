import { describe, expect, it } from 'vitest'
import type { ListLine, PlanAnswer, Swap } from '@/api/client'
import { mounted, partsOf, textOf } from '@/tests/mounted'
import ChoiceCard from './ChoiceCard.vue'
import RankingTable from './RankingTable.vue'
import SwapRead from './SwapRead.vue'
import type { Row } from './swaps'

const swap = (name: string, more: Partial<Swap> = {}): Swap => ({
  id: name,
  version: 1,
  list: 'l',
  name,
  kind: 'replace',
  state: 'open',
  remove: [{ line: 'tent line', qty: 1 } as Swap['remove'][number]],
  add: [],
  delivery_minor: 0,
  resale_minor: 0,
  sells_needed: false,
  needed_by: [],
  brings_minor: 0,
  tenth_hours: 0,
  requires: [],
  excludes: [],
  ...more,
})
const row = (at: number, name: string, more: Partial<Row> = {}, of: Partial<Swap> = {}): Row => ({
  at,
  swap: swap(name, of),
  class: 'paid',
  place: at + 1,
  saving_mg: 1_180_000,
  net_minor: 28_900,
  missing: [],
  inPlan: false,
  folded: [],
  ...more,
})
const lines = [{ id: 'tent line', gear: { name: 'two-skin tent' } }] as ListLine[]

function table(rows: Row[], mass?: 'pounds_and_ounces') {
  const keys = [...new Set(rows.map((row) => row.class))]
  const sections = keys.map((key) => ({ key, rows: rows.filter((row) => row.class === key) }))
  const wrapper = mounted(RankingTable, { sections, lines, selected: null }, mass)
  return { wrapper, rows: () => wrapper.findAll('tbody tr:not(.section)') }
}
const told = (rows: Row[], mass?: 'pounds_and_ounces') =>
  table(rows, mass)
    .rows()
    .map((row) => partsOf(row).join(' | '))

describe('the ranking', () => {
  it('says of each swap its place, grams, money, and grams for the money', () => {
    expect(told([row(0, 'pole shelter', { inPlan: true })])).toEqual([
      '1 | pole shelterfor two-skin tent | 1 180 g | 289 € | 4.1 g | in the plan',
    ])
    expect(told([row(0, 'pole shelter')], 'pounds_and_ounces')).toEqual([
      '1 | pole shelterfor two-skin tent | 41.6 oz | 289 € | 1.4 oz',
    ])
  })

  it('says what a swap is where that is not plain', () => {
    const under = (of: Partial<Swap>, more: Partial<Row> = {}) => {
      const wrapper = table([row(0, 'x', more, of)]).wrapper
      return textOf(wrapper.find('td.name .both span'))
    }
    expect(under({ kind: 'leave_out' })).toBe('leave out')
    expect(under({ kind: 'make', tenth_hours: 65 })).toBe('for two-skin tent, make, 6.5 h')
    expect(under({ requires: ['a'] })).toBe('for two-skin tent, only with another swap')
    expect(under({ requires: ['a', 'b'], remove: [] })).toBe('only with other swaps')
    expect(under({}, { class: 'incomplete', missing: ['weight of the mug', 'price of the pot'] })).toBe(
      'missing: weight of the mug and price of the pot',
    )
  })

  it('keeps the four classes apart, and shows no figure that is not known', () => {
    const { wrapper } = table([
      row(0, 'no mug', { class: 'free', net_minor: 0 }),
      row(1, 'shelter'),
      row(2, 'pillow', { class: 'no_saving', saving_mg: -98_000, net_minor: 2_200 }),
      row(3, 'pot', {
        class: 'incomplete',
        place: null,
        saving_mg: null,
        net_minor: null,
        missing: ['price of pot'],
      }),
    ])
    expect(wrapper.findAll('.section').map((section) => textOf(section))).toEqual([
      'Freedo these first',
      'Paidmost weight saved for the money first',
      'No savingkept here to compare',
      'Not rankeda weight or a price is missing',
    ])
    const cells = wrapper.findAll('tbody tr:not(.section)').map((row) => partsOf(row))
    expect(cells[0]!.slice(2)).toEqual(['1 180 g', '0 €'])
    expect(cells[2]!.slice(2)).toEqual(['−98 g', '22 €'])
    expect(cells[3]).toEqual(['potmissing: price of pot'])
  })

  it('opens a swap from its row, and says what became of it', async () => {
    const { wrapper, rows } = table([row(0, 'a'), row(1, 'b', {}, { state: 'ruled_out' })])
    expect(textOf(rows()[1]!.find('.state'))).toBe('ruled out')
    await rows()[0]!.find('td.name button').trigger('click')
    expect((wrapper.emitted('open') as Row[][])[0]![0]!.at).toBe(0)
  })

  it('folds choices for the same gear under the best step, and unfolds them', async () => {
    const folded = [row(1, 'dear shelter'), row(2, 'heavy shelter')]
    const { wrapper, rows } = table([row(0, 'shelter', { folded })])
    expect(rows()).toHaveLength(1)
    const fold = wrapper.find('.fold')
    expect(textOf(fold)).toBe('2 more choices')
    await fold.trigger('click')
    expect(rows().map((row) => textOf(row.find('b')))).toEqual(['shelter', 'dear shelter', 'heavy shelter'])
    expect(fold.attributes('aria-expanded')).toBe('true')
    await fold.trigger('click')
    expect(rows()).toHaveLength(1)
  })
})

describe('choices for the same gear', () => {
  const answer = {
    swaps: [swap('pole shelter'), swap('film shelter'), swap('tarp'), swap('old tent')],
    ranking: [
      { swap: 0, class: 'paid', saving_mg: 1_180_000, net_minor: 28_900, missing: [] },
      { swap: 1, class: 'paid', saving_mg: 1_390_000, net_minor: 59_800, missing: [] },
      { swap: 2, class: 'paid', saving_mg: 1_100_000, net_minor: 29_900, missing: [] },
      { swap: 3, class: 'no_saving', saving_mg: -10_000, net_minor: 100, missing: [] },
    ],
    choices: [
      [
        { swap: 0, standing: 'step', extra_saving_mg: 1_180_000, extra_net_minor: 28_900 },
        { swap: 1, standing: 'step', extra_saving_mg: 210_000, extra_net_minor: 30_900 },
        { swap: 2, standing: 'beaten', by: 0 },
        { swap: 3, standing: 'beaten_by_keeping' },
      ],
    ],
    list: { terms: { rank_by: 'base' } },
  } as unknown as PlanAnswer

  it('say what the extra grams of each step cost, and why the others fall back', () => {
    const card = mounted(ChoiceCard, { answer, lines, selected: 'a' })
    expect(textOf(card.find('h2'))).toBe('two-skin tent: what the extra grams cost')
    const rows = card.findAll('.rows > div').map((row) => textOf(row))
    expect(rows[1]).toContain('1 180 g289 €, 24.49 € for 100 g')
    expect(rows[2]).toContain('210 g more than the step before for 309 € more')
    expect(rows[2]).toContain('147.14 € for 100 g')
    expect(rows[3]).toContain('beaten by pole shelter: saves no more, costs no less')
    expect(rows[4]).toContain('saves no more than keeping what you have')
  })

  it('are not shown where there are none', () => {
    const none = { ...answer, choices: [] } as PlanAnswer
    expect(mounted(ChoiceCard, { answer: none, lines, selected: null }).find('section').exists()).toBe(false)
  })
})

describe('a swap that is read', () => {
  it('has the saving that ranks, with the range of the same', () => {
    const one = swap('trail shoes')
    const answer = (rank_by: string) =>
      ({
        list: { id: 'l', terms: { rank_by } },
        swaps: [one],
        ranking: [
          {
            swap: 0,
            class: 'paid',
            place: 1,
            best_place: 1,
            worst_place: 1,
            saving_mg: -620_000,
            saving_everything_mg: 980_000,
            saving_low_mg: 900_000,
            saving_high_mg: 1_000_000,
            net_minor: 9_000,
            missing: [],
          },
        ],
        plan: { swaps: [] },
        near_misses: [],
      }) as unknown as PlanAnswer
    const read = (rank_by: string) =>
      textOf(mounted(SwapRead, { swap: one, lines, answer: answer(rank_by) }).find('.sums'))
    expect(read('base')).toContain('−620')
    expect(read('everything')).toContain('980')
    expect(read('everything')).toContain('saved, worn and carried')
  })
})
