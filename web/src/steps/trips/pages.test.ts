import { config } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { api } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { mounted, textOf } from '@/tests/mounted'
import TripPage from './TripPage.vue'
import TripsStep from './TripsStep.vue'

const answered = (data: unknown) => ({ data, response: new Response() })
const patience = { timeout: 10_000 }
const get = vi.spyOn(api, 'GET')
const post = vi.spyOn(api, 'POST')
const patch = vi.spyOn(api, 'PATCH')
config.global.plugins = [
  createRouter({ history: createMemoryHistory(), routes: [{ path: '/:rest(.*)*', component: {} }] }),
]

const trip = (changes = {}) => ({
  id: 't',
  version: 3,
  list: 'l',
  name: 'Fells',
  starts_on: '2026-05-22',
  nights: 3,
  people: '',
  note: '',
  kept_at: '2026-05-22T05:00:00Z',
  base_mg: 10_638_000,
  met: { low_tenth_c: 60, rain: true, stretch_m: null },
  used_up: { gas_taken_mg: 378_000, walked_min: 1_290 },
  boil_ml_per_day: 2_000,
  ...changes,
})
const thing = (id: string, name: string, changes = {}) => ({
  id,
  gear: `gear ${id}`,
  name,
  system: 'other',
  pieces: 1,
  left: 0,
  unit_mg: 100_000,
  source: 'weighed',
  is_in: true,
  used: null,
  marks: [],
  note: '',
  ...changes,
})
const lessons = (changes = {}) => ({
  trips: [{ trip: trip(), things: 2, judged: 1 }],
  things: [
    {
      gear: 'gear b',
      name: 'Chair',
      system: 'comfort',
      used_on: [],
      unused_on: ['t'],
      marks: [],
      never_used: 2,
      nights: 0,
      slept: null,
    },
  ],
  wished: [],
  sleeper: { more_than: null, at_most: null, estimate_tenth_c: null, is_contradicted: false },
  rates: { gas_mg_per_l: { median: 12_000, of: [{ trip: 't', value: 12_000 }] } },
  silenced: [],
  ...changes,
})

let given: Record<string, unknown>
beforeEach(() => {
  for (const method of [get, post, patch]) method.mockReset()
  given = { '/api/gear': { items: [], total: 0 } }
  get.mockImplementation((async (path: string) => answered(given[path] ?? [])) as never)
  patch.mockImplementation((async (_: string, { body }: { body: object }) =>
    answered({ ...things[0], ...body })) as never)
})
const things = [thing('a', 'Quilt'), thing('b', 'Chair'), thing('c', 'Pillow', { pieces: 0, left: 1 })]

describe('a trip that is reviewed', () => {
  const page = async (of = trip()) => {
    given['/api/trips/{id}'] = { trip: of, things }
    const shown = mounted(TripPage, { list: 'l', trip: 't' })
    await vi.waitFor(() => expect(textOf(shown)).toContain(of.name), patience)
    return shown
  }

  it('goes on to the next thing once one is judged, and is shown so at once', async () => {
    patch.mockImplementation((() => new Promise(() => undefined)) as never)
    const shown = await page()
    expect(textOf(shown)).toContain('0 of 2 reviewed')
    const rows = shown.findAll<HTMLElement>('[data-said]')
    expect(rows.map((row) => row.attributes('aria-label'))).toEqual([
      'Quilt, nothing said yet',
      'Chair, nothing said yet',
      'Pillow',
    ])
    rows[0]!.element.focus()
    await rows[0]!.trigger('keydown', { key: 'u' })
    expect(document.activeElement).toBe(rows[1]!.element)
    await vi.waitFor(() => expect(textOf(shown)).toContain('1 of 2 reviewed'), patience)
    await vi.waitFor(
      () =>
        expect(patch.mock.calls[0]).toMatchObject([
          '/api/trips/{id}/things/{thing}',
          { params: { path: { id: 't', thing: 'a' } }, body: { used: true } },
        ]),
      patience,
    )
    shown.unmount()
  })

  it('shows what was met and used up as it can be typed, and what was planned where nothing was', async () => {
    const shown = await page()
    const fields = shown
      .findAll('section[aria-label="Conditions and supplies of the trip"] input:not([type="radio"])')
      .map((field) => (field.element as HTMLInputElement).value || field.attributes('placeholder'))
    expect(fields.slice(0, 5)).toEqual(['6 °C', undefined, '378 g', undefined, 'as planned, 2 l a day'])
    expect(fields[8]).toBe('21:30')
    shown.unmount()
  })

  it('says what was not taken, words and all', async () => {
    patch.mockImplementation((async () => ({
      error: { code: 'away', detail: 'Away.' },
      response: new Response(null, { status: 503 }),
    })) as never)
    const shown = await page()
    shown.findAllComponents({ name: 'SaidRow' })[1]!.vm.$emit('said', { note: 'awake from three' })
    const said = () => useMessages().messages.value.map(({ text }) => text)
    await vi.waitFor(() => expect(said()).toContain('Chair, “awake from three”: Away.'), patience)
    shown.unmount()
  })

  it('refuses nights that are no number, and keeps what was typed', async () => {
    const shown = await page()
    const nights = shown.findAll('input').find((field) => (field.element as HTMLInputElement).value === '3')!
    await nights.setValue('three')
    await nights.trigger('change')
    await vi.waitFor(() => expect(textOf(shown)).toContain('“three” is not read as nights.'), patience)
    expect([(nights.element as HTMLInputElement).value, patch.mock.calls]).toEqual(['three', []])
    shown.unmount()
  })

  it('takes a wish: what is owned by its gear, anything else by its name', async () => {
    post.mockResolvedValue(answered(thing('d', 'Mitts', { pieces: 0 })) as never)
    given['/api/gear'] = { items: [{ id: 'g9', name: 'Pillow' }], total: 1 }
    const shown = await page()
    const field = shown.find('input[name="wish"]')
    for (const [name, body] of [
      ['pillow', { gear: 'g9' }],
      ['Mitts', { name: 'Mitts' }],
    ] as const) {
      await field.setValue(name)
      await shown.find('form.wish').trigger('submit')
      await vi.waitFor(
        () => expect(post.mock.lastCall).toMatchObject(['/api/trips/{id}/things', { body }]),
        patience,
      )
    }
    shown.unmount()
  })

  it('that is to come has nothing to be judged yet', async () => {
    const shown = await page(trip({ kept_at: null, base_mg: null }))
    expect([textOf(shown).includes('Still to come'), shown.findAll('[data-said]').length]).toEqual([true, 0])
    shown.unmount()
  })
})

describe('the trips', () => {
  const line = { id: 'x', gear: 'gear b', name: 'Chair', carried: 1 }
  const page = async (changes = {}) => {
    Object.assign(given, {
      '/api/lessons': lessons(changes),
      '/api/lists/{id}/sheet': {
        list: { id: 'l', name: 'Fells', version: 4, trip: { days: 4 }, terms: { target_of: 'base' } },
        lines: [line],
      },
      '/api/lists/{id}/history': { points: [], promised_mg: 0, shed_mg: 0, net_minor: 0 },
      '/api/lists/{id}/proposals': [
        { key: 'leave Chair', thing: 'Chair', why: { code: 'never_used', trips: 2 }, saving_mg: 1 },
      ],
    })
    const shown = mounted(TripsStep, { list: 'l' })
    await vi.waitFor(() => expect(textOf(shown)).toContain('Make it a swap'), patience)
    return shown
  }
  const press = (
    shown: { findAll: (css: string) => { text: () => string; trigger: (what: string) => unknown }[] },
    text: string,
  ) =>
    shown
      .findAll('button')
      .find((one) => one.text() === text)!
      .trigger('click')

  it('have lessons that become swaps, and rates that are set on the list’s trip', async () => {
    post.mockResolvedValue(answered({}) as never)
    const shown = await page()
    expect(textOf(shown)).toContain('1 of 2 things')
    await press(shown, 'Make it a swap')
    await vi.waitFor(
      () =>
        expect(post.mock.lastCall).toMatchObject([
          '/api/lists/{id}/proposals/take',
          { body: { key: 'leave Chair' } },
        ]),
      patience,
    )
    await press(shown, 'Set on this trip')
    await vi.waitFor(
      () =>
        expect(patch.mock.lastCall).toMatchObject([
          '/api/lists/{id}',
          { params: { query: { version: 4 } }, body: { figures: { gas_per_litre: '12 g' } } },
        ]),
      patience,
    )
    shown.unmount()
  })

  it('silence a lesson by its key', async () => {
    post.mockResolvedValue(answered(undefined) as never)
    const shown = await page()
    await press(shown, 'Dismiss')
    await vi.waitFor(
      () =>
        expect(post.mock.lastCall).toMatchObject([
          '/api/lessons/silence',
          { body: { lesson: 'unused gear b' } },
        ]),
      patience,
    )
    shown.unmount()
  })
})
