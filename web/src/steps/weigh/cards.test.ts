import { describe, expect, it } from 'vitest'
import type { Gear, Kit, Queued, ScaleReading, Taken, Weighing } from '@/api/client'
import { mounted, partsOf, textOf } from '@/tests/mounted'
import KitsCard from './KitsCard.vue'
import QueueTable from './QueueTable.vue'
import ReadingCard from './ReadingCard.vue'
import TakeAwayCard from './TakeAwayCard.vue'
import TakenCard from './TakenCard.vue'

const thing = (name: string, weight: Gear['weight']): Gear => ({
  id: name,
  version: 1,
  name,
  system: 'other',
  count: 1,
  weight,
  acquired: 'new',
  status: 'owned',
  nights: 0,
  provides: {},
  needs: {},
  need: 'undecided',
  keep: false,
})
const grams = (g: number, source: 'weighed' | 'maker' | 'estimate' | 'derived') => ({
  unit_mg: g * 1_000,
  typed: `${g} g`,
  source,
})
const queued = (gear: Gear, low: number, high: number, more: Partial<Queued> = {}): Queued => ({
  gear,
  pieces: 1,
  alone: 1,
  low_mg: low,
  high_mg: high,
  weighed_at: null,
  ...more,
})

describe('the queue', () => {
  const rows = (queue: Queued[], marked?: string, costs = new Map<string, string>()) =>
    mounted(QueueTable, { queue, marked, costs })
      .findAll('tbody tr')
      .map((row) => partsOf(row).join(' | '))

  it('says of each thing how it is known and how far', () => {
    expect(
      rows([
        queued(thing('pouch', null), 0, 0),
        queued(thing('night set', grams(310, 'estimate')), -46_500, 46_500),
        queued(thing('jacket', grams(438, 'maker')), -2_400, 26_300),
        queued(thing('socks', grams(62, 'weighed')), -2_000, 2_000, {
          pieces: 2,
          weighed_at: '2025-03-01T10:00:00Z',
        }),
        queued(thing('mug', grams(118, 'weighed')), 0, 0, { alone: 0 }),
        queued(thing('makers run light', grams(1_000, 'maker')), 3_600, 117_000),
      ]),
    ).toEqual([
      'pouch | none | ? | all of it',
      'night set | estimate | 310 g | ±46',
      'jacket | maker’s | 438 g | −2.4 +26',
      'socks × 2 | weighed 2025 | 62 g | ±2',
      'mug | weighed | 118 g | in its kit',
      'makers run light | maker’s | 1 000 g | +3.6 +117',
    ])
  })

  it('says what not knowing a weight costs', () => {
    const night = thing('night set', grams(310, 'estimate'))
    const [row] = rows([queued(night, -46_500, 46_500)], undefined, new Map([[night.id, '34 €']]))
    expect(row).toMatch(/^night set ?not knowing it costs 34 €/)
  })

  it('shows ten, as far as the marked one, or all', async () => {
    const queue = Array.from({ length: 30 }, (_, at) =>
      queued(thing(`thing ${at}`, grams(10, 'weighed')), -1_000, 1_000),
    )
    expect(rows(queue)).toHaveLength(10)
    expect(rows(queue, 'thing 14')).toHaveLength(15)
    const table = mounted(QueueTable, { queue, marked: undefined, costs: new Map() })
    await table.find('.more').trigger('click')
    expect(table.findAll('tbody tr')).toHaveLength(30)
    await table.findAll('tbody tr')[20]!.trigger('click')
    expect(table.emitted('mark')).toEqual([['thing 20']])
  })
})

const weighing = (g: number, more: Partial<Weighing> = {}): Weighing => ({
  id: 'w',
  at: '2026-09-01T10:00:00Z',
  half_width_mg: 1_000,
  pieces: 1,
  scale: 'kitchen scale',
  total_mg: g * 1_000,
  typed: `${g} g`,
  unit_mg: g * 1_000,
  ...more,
})

describe('a kit', () => {
  const part = (name: string, weight: Gear['weight']) => ({ gear: name, name, count: 1, weight })
  const told = (more: Partial<Kit>) => {
    const kit: Kit = {
      id: 'k',
      version: 1,
      name: 'sleep set',
      own: weighing(745),
      own_counts: true,
      parts: [part('quilt', grams(700, 'weighed')), part('sack', grams(40, 'weighed'))],
      parts_mg: 740_000,
      figure_mg: 745_000,
      unknown: 0,
      contradicts: false,
      ...more,
    }
    const card = mounted(KitsCard, { kits: [kit], queue: [], marked: undefined, save: async () => {} })
    return textOf(card.find('li .muted'))
  }

  it('stands against its parts', () => {
    expect(told({ difference_mg: 5_000 })).toBe('parts 740 g, +5 g')
    expect(told({ difference_mg: -5_000, own_counts: false })).toBe(
      'parts 740 g, −5 g, the parts count: they are newer',
    )
    expect(told({ own: null, own_counts: false })).toBe('parts 740 g, not weighed together')
    expect(told({ own: null, unknown: 1, own_counts: false })).toBe(
      'parts at least 740 g, not weighed together',
    )
    const derived = [part('quilt', grams(700, 'weighed')), part('sack', grams(45, 'derived'))]
    expect(told({ parts: derived, unknown: 1 })).toBe('sack calculated: 45 g')
    expect(told({ contradicts: true, unknown: 1 })).toBe('its parts weigh more than it does: weigh it again')
  })
})

describe('a reading', () => {
  const card = (reading: ScaleReading | null, more = {}) =>
    mounted(ReadingCard, {
      title: 'mug',
      known: 'maker 110 g ±6 g',
      reading,
      container: 0,
      pieces: 1,
      scale: 'kitchen scale',
      used: false,
      ...more,
    })
  const state = (reading: ScaleReading | null, more = {}) => textOf(card(reading, more).find('[role=status]'))
  const steady: ScaleReading = { state: 'steady', mass_mg: 118_000, step_mg: 1_000 }

  it('says in words whether it may be taken', () => {
    expect(state(null, { scale: null })).toBe('no scale')
    expect(state(null)).toBe('waiting for the scale')
    expect(state({ state: 'moving', mass_mg: 90_000 })).toBe('moving')
    expect(state({ state: 'drifting', mass_mg: 90_000 })).toContain('a draught')
    expect(state({ state: 'silent' })).toBe('nothing comes from the scale')
    expect(state({ state: 'fault', why: 'It wants calibrating.' })).toBe('It wants calibrating.')
    expect(state(steady)).toBe('steady')
    expect(state(steady, { used: true })).toBe('saved: change what is on the pan')
  })

  it('shows the figure without its container, and divided', () => {
    const divided = card(steady, { container: 38_000, pieces: 8 })
    expect(textOf(divided.find('output'))).toBe('80 g')
    expect(textOf(divided.find('.each'))).toBe('÷ 8 = 10 g each')
    expect(textOf(divided.find('footer'))).toContain(
      '38 g subtracted for the container, 1 g steps, kitchen scale',
    )
    expect(textOf(card(null).find('output'))).toBe('–')
  })
})

describe('what was taken today', () => {
  const taken = (more: Partial<Taken>): Taken => ({
    name: 'mug',
    weighing: weighing(118),
    claimed_mg: null,
    ...more,
  })

  it('stands against the maker’s figure, in the account’s units', () => {
    const row = (one: Taken, mass?: 'pounds_and_ounces') =>
      partsOf(mounted(TakenCard, { taken: [one], correct: async () => {} }, mass).find('li')).join(' | ')
    expect(row(taken({ claimed_mg: 110_000 }))).toBe('mug | maker’s figure 110 g | 118 g | +8 g | ×')
    expect(row(taken({ claimed_mg: 120_000 }))).toBe('mug | maker’s figure 120 g | 118 g | −2 g | ×')
    expect(row(taken({ claimed_mg: 110_000 }), 'pounds_and_ounces')).toBe(
      'mug | maker’s figure 3.9 oz | 4.2 oz | +0.3 oz | ×',
    )
    expect(row(taken({ weighing: weighing(148, { pieces: 10, unit_mg: 14_800 }) }))).toBe(
      'mug | 10 on the pan, 15 g each | 148 g | ×',
    )
  })

  it('is undone with a click', async () => {
    const card = mounted(TakenCard, { taken: [taken({})], correct: async () => {} })
    await card.find('li > button').trigger('click')
    expect(card.emitted('takeBack')).toHaveLength(1)
    expect(textOf(mounted(TakenCard, { taken: [], correct: async () => {} }))).toContain('Nothing yet today.')
  })
})

describe('a take-away weighing', () => {
  const card = (more: object) =>
    mounted(TakeAwayCard, {
      started: true,
      pieces: [479_000],
      things: [{ name: 'quilt', count: 1 }],
      leftOver: 0,
      leftOn: false,
      container: 44_000,
      refusal: '',
      ...more,
    })
  const buttons = (wrapper: ReturnType<typeof card>) =>
    wrapper.findAll('button').map((button) => textOf(button))

  it('is saved as it is once the scale is back at its container', async () => {
    const back = card({})
    expect(buttons(back)[0]).toBe('Save 1 weighing s')
    await back.find('button').trigger('click')
    expect(back.emitted('save')).toEqual([[false]])
  })

  it('says what stays on the scale before it is saved so', async () => {
    const left = card({ leftOver: 77_000, leftOn: true })
    expect(buttons(left)[0]).toBe('Save 1; 77 g stays there')
    await left.find('button').trigger('click')
    expect(left.emitted('save')).toEqual([[true]])
  })

  it('has nothing to save before a piece is taken', () => {
    const nothing = card({ things: [], pieces: [], leftOver: 600_000, leftOn: true })
    expect(nothing.find('button').attributes('disabled')).toBeDefined()
  })
})
