import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api, type BaseHistory, type TripThing } from '@/api/client'
import BaseLine from '@/marks/BaseLine.vue'
import { answered, mounted, textOf } from '@/tests/mounted'
import HistoryCard from './HistoryCard.vue'
import LessonsCard from './LessonsCard.vue'
import SaidRow from './SaidRow.vue'
import { sorted } from './trips'
import { CAUSES } from './words'

const thing = (changes: Partial<TripThing> = {}): TripThing => ({
  id: 'x',
  gear: 'g',
  name: 'Quilt',
  system: 'sleep',
  pieces: 2,
  left: 0,
  unit_mg: 300_000,
  source: 'weighed',
  is_in: true,
  used: null,
  marks: [],
  note: '',
  ...changes,
})

describe('a thing of a trip', () => {
  it('is judged by single keys, and judged again it is taken back', async () => {
    const row = mounted(SaidRow, { thing: thing({ used: true, marks: ['too_cold'] }) })
    const name = row.find('[data-said]')
    expect(name.attributes('aria-label')).toBe('Quilt, used, too cold')
    expect(textOf(name)).toBe('Quilt × 2 600 g')
    for (const key of ['u', 'n', 'c', 'f', 'w', 'x']) await name.trigger('keydown', { key })
    await name.trigger('keydown', { key: 'u', ctrlKey: true })
    expect(row.emitted('said')).toEqual([
      [{ used: null }],
      [{ used: false }],
      [{ marks: { too_cold: false } }],
      [{ marks: { failed: true } }],
    ])
  })

  it('that stayed home can only be wished for', async () => {
    const row = mounted(SaidRow, { thing: thing({ pieces: 0, left: 1 }) })
    const name = row.find('[data-said]')
    for (const key of ['u', 'c', 'w']) await name.trigger('keydown', { key })
    expect(row.emitted('said')).toEqual([[{ marks: { wished: true } }]])
    expect(row.find('[aria-label="Remove Quilt"]').exists()).toBe(false)
  })

  it('takes a line of words with Enter, and gives it up with Escape', async () => {
    const row = mounted(SaidRow, { thing: thing({ note: 'warm' }) })
    await row.find('[data-said]').trigger('keydown', { key: 'Enter' })
    const field = row.find('input')
    await field.setValue('cold at two')
    await field.trigger('keydown', { key: 'Escape' })
    expect(row.emitted('said')).toBeUndefined()
    await row.find('[data-said]').trigger('keydown', { key: 'Enter' })
    await row.find('input').setValue(' cold at two ')
    await row.find('input').trigger('keydown', { key: 'Enter' })
    expect(row.emitted('said')).toEqual([[{ note: 'cold at two' }]])
  })
})

const point = (at: string, base: number, cause: keyof typeof CAUSES, what: string, unknown = 0) => ({
  at,
  base_mg: base * 1_000,
  cause,
  what,
  unknown,
})
const history: BaseHistory = {
  points: [
    point('2026-01-01T12:00:00Z', 10_690, 'added', 'Laid out.', 2),
    point('2026-02-01T12:00:00Z', 10_748, 'weighed', 'Pillow weighed.', 1),
    point('2026-03-01T12:00:00Z', 10_255, 'left_out', 'Chair taken off.'),
  ],
  promised_mg: 500_000,
  shed_mg: 480_000,
  net_minor: 24_000,
}
const trip = (id: string, day: string, kept: boolean) => ({
  trip: {
    id,
    name: id,
    starts_on: day,
    nights: 2,
    kept_at: kept ? day : null,
    base_mg: kept ? 9_000_000 : null,
  },
  things: 1,
  judged: 0,
})
const trips = [
  trip('one', '2026-01-05', true),
  trip('two', '2026-02-05', true),
  trip('next', '2027-01-01', false),
]

describe('base weight over time', () => {
  const card = (some: Partial<BaseHistory> = {}) =>
    mounted(HistoryCard, {
      history: { ...history, ...some },
      trips: trips.map((one) => one.trip),
      target: 8_000_000,
      list: 'Fells',
      listId: 'l',
    })

  it('says what its marks mean, those that are there', async () => {
    const marks = (shown: ReturnType<typeof card>) => shown.findAll('.legend li').map(textOf)
    expect(marks(card())).toEqual(['Added', 'Weighed', 'Left out', 'Filled: lighter'])
    const shown = card({ points: history.points.slice(0, 2) })
    expect(marks(shown)).toEqual(['Added', 'Weighed', 'Filled: lighter'])
    await shown
      .findAll('.top button')
      .find((button) => button.text() === 'As a table')!
      .trigger('click')
    expect(shown.find('.legend').exists()).toBe(false)
  })

  it('takes what a list weighed before, and can take that back', async () => {
    const earlier = {
      at: '2022-08-01T12:00:00Z',
      base_mg: 9_412_000,
      unknown: 0,
      cause: 'earlier',
      what: 'Coast',
    }
    const shown = card({ points: [earlier, ...history.points] as never })
    const put = vi.spyOn(api, 'PUT').mockResolvedValue(answered(undefined) as never)
    await shown
      .findAll('.top button')
      .find((button) => button.text() === 'Earlier …')!
      .trigger('click')
    await flushPromises()
    const field = document.querySelector<HTMLTextAreaElement>('textarea[name=earlier]')!
    expect(field.value, 'to the gram').toBe('2022-08-01; 9412 g; Coast')
    field.value = '2022-08-01; 9.4 kg'
    field.dispatchEvent(new Event('input'))
    field.closest('form')!.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(put.mock.calls.at(-1)![1]).toMatchObject({ body: { text: '2022-08-01; 9.4 kg' } })
  })

  it('says its newest change, and walks along them', async () => {
    const shown = card()
    expect(textOf(shown.find('[role="status"]'))).toMatch(/10\.26 kg, −493 g\. Left out: Chair taken off\.$/)
    shown.findComponent(BaseLine).vm.$emit('choose', 1)
    await shown.vm.$nextTick()
    expect(textOf(shown.find('[role="status"]'))).toMatch(
      /at least 10\.75 kg, \+58 g\. Weighed: Pillow weighed\.$/,
    )
    const keys = shown.find('[role="slider"]')
    for (const [key, at] of [
      ['ArrowLeft', 0],
      ['End', 2],
      ['ArrowRight', 2],
      ['Home', 0],
    ] as const) {
      await keys.trigger('keydown', { key })
      expect(keys.attributes('aria-valuenow')).toBe(String(at + 1))
    }
  })

  it('has a table behind it, and what swaps did for the money', async () => {
    const shown = card()
    expect(textOf(shown.find('.sums'))).toMatch(/took off ?480 g.*promised ?500 g.*They cost ?240 €/)
    await shown
      .findAll('button')
      .find((one) => one.text() === 'As a table')!
      .trigger('click')
    expect(shown.findAll('tbody tr').map((row) => textOf(row.findAll('td')[3]!))).toEqual([
      'Added Laid out.',
      'Weighed Pillow weighed.',
      'Left out Chair taken off.',
    ])
  })

  it('is a sentence while nothing has changed', () => {
    expect(textOf(card({ points: history.points.slice(0, 1) }))).toContain('10.69 kg now.')
  })

  it('stands with the trips that come first, then those behind, the newest first', () => {
    const { walked, coming } = sorted({ trips } as never)
    expect([walked, coming].map((all) => all.map((one) => one.trip.id))).toEqual([['two', 'one'], ['next']])
  })
})

describe('lessons', () => {
  const lesson = {
    key: 'unused g',
    title: 'Leave out Chair',
    why: 'Carried on 2 trips and never used.',
    on: ['a', 'a', 'b'],
    act: { kind: 'leave_out', gear: 'g', name: 'Chair' },
  }
  const card = (can: boolean) =>
    mounted(LessonsCard, {
      lessons: [lesson],
      names: new Map([
        ['a', 'Fells 2025'],
        ['b', 'Fells 2026'],
      ]),
      canAct: () => can,
      hindrance: () => (can ? '' : 'It is not carried on this list.'),
    })

  it('name their trips once, and are taken up or silenced', async () => {
    const shown = card(true)
    expect(textOf(shown)).toContain('Fells 2025, Fells 2026')
    const [act, silence] = shown.findAll('button')
    await act!.trigger('click')
    await silence!.trigger('click')
    expect([shown.emitted('act'), shown.emitted('silence')]).toEqual([[[lesson]], [[lesson]]])
  })

  it('say why they can not be taken up here', () => {
    const shown = card(false)
    expect(textOf(shown)).toContain('It is not carried on this list.')
    expect(shown.findAll('button')).toHaveLength(1)
  })
})
