import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createRouter, createMemoryHistory } from 'vue-router'
import { config } from '@vue/test-utils'
import { api } from '@/api/client'
import SharedList from '@/public/SharedList.vue'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import { LOADED, caution, sheetLine, sheetOf, trip } from '@/tests/sheet'
import TogetherPage from './TogetherPage.vue'
import TripPage from './TripPage.vue'
import TypedField from '@/controls/TypedField.vue'

// A machine with other work on it takes its time over a whole page.
vi.setConfig({ testTimeout: 30_000 })
const patient = { timeout: 15_000 }

const get = vi.spyOn(api, 'GET')
const post = vi.spyOn(api, 'POST')
const patch = vi.spyOn(api, 'PATCH')
const router = createRouter({
  history: createMemoryHistory(),
  routes: [{ path: '/:rest(.*)*', component: {} }],
})
config.global.plugins = [router]

const worked = {
  food_by_carry_mg: [700_000, 700_000],
  food_on_list_mg: 690_000,
  water_ml: 1_000,
  water_held_ml: 500,
  water_ml_per_hour: 500,
  gas_mg: 120_000,
  gas_held_mg: 230_000,
  power_mwh: 0,
  power_held_mwh: 0,
  counted: [{ tag: 'wipes', needed: 6, there: 2 }],
  gas_cover: {
    owned: { pieces: [{ name: 'small can', count: 2 }], mass_mg: 196_000, proved: true },
    with_candidates: { pieces: [{ name: 'tiny can', count: 1 }], mass_mg: 150_000, proved: true },
  },
  power_cover: { owned: null, with_candidates: null },
  days_mg: [9_000_000, 8_000_000],
  heaviest_day: 1,
  heaviest_mg: 9_000_000,
  mean_mg: 8_500_000,
  comfortable_mg: 12_000_000,
  requirements: [
    { job: 'light', amount: 1, why: 'always', by_default: 1, short: 1 },
    { job: 'chair', amount: 0, why: 'own', by_default: 0, short: 0 },
  ],
  shortfalls: { light: 1 },
  cautions: [caution({ id: 'snow', level: 'red' })],
}
const onTrip = () => {
  const sheet = sheetOf([sheetLine('tent', 1_200, { carried: 1 })], { trip: worked as never })
  sheet.list.trip = trip()
  return sheet
}
const walker = (name: string, some = {}) => ({
  id: `id of ${name}`,
  version: 1,
  name,
  body_mg: 70_000_000,
  joined: true,
  shows_prices: false,
  base_mg: 1_000_000,
  pack_mg: 7_000_000,
  everything_mg: 7_100_000,
  apart_mg: 0,
  unknown: 0,
  lacks: [],
  loaded: LOADED,
  ...some,
})
const forTwo = () =>
  sheetOf(
    [
      sheetLine('tent', 1_200, { carried: 1, shared: true }),
      sheetLine('bag', 900, { carried: 1 }),
      sheetLine('her bag', 800, { carried: 1, walker: 1, mine: false }),
    ],
    {
      walkers: [walker('Ilo'), walker('Vesper', { joined: false, lacks: ['first_aid'] })] as never,
      split: { moves: [{ line: 0, walker: 1 }], load_mg: 1, body_mg: 1, proved: true },
    },
  )

let given: Record<string, unknown>
beforeEach(() => {
  for (const method of [get, post, patch]) method.mockReset()
  get.mockImplementation((async (path: string) => answered(given[path] ?? [])) as never)
})
async function page(component: typeof TripPage, sheet: unknown) {
  given = {
    '/api/lists/{id}/sheet': sheet,
    '/api/gear': { items: [], total: 0 },
    '/api/lessons': { trips: [], things: [], wished: [], sleeper: {}, rates: {}, silenced: [] },
    '/api/lists': [{ id: 'list', name: 'Week', version: 4 }],
  }
  const wrapper = mounted(component, { list: 'list' })
  await vi.waitFor(() => expect(wrapper.find('.el-skeleton').exists()).toBe(false), patient)
  await flushPromises()
  return wrapper
}

describe('the trip', () => {
  it('holds what it takes against what the list has, and says why it requires what', async () => {
    const text = textOf(await page(TripPage, onTrip()))
    expect(text).toContain('2 days, low −2 °C, high 12 °C')
    expect(text).toContain('Heaviest on day 1, 9.00 kg; last day 8.00 kg; mean 8.50 kg.')
    expect(text).toContain('In carries of 0.70 kg, 0.70 kg. The list has 0.71 kg less than the trip takes.')
    expect(text).toContain(
      'Lightest you own: 2 × small can, 196 g. A candidate would be lighter: tiny can, 150 g.',
    )
    expect(text).toMatch(/wipes.*6 ?24 short/)
    expect(text).toContain('lightevery tripmissing1')
    expect(text).toContain('chairyou say it is not needed')
    expect(text).toContain('Snow, and no traction')
  })

  it('is begun with mild days where there is none', async () => {
    const wrapper = await page(TripPage, sheetOf([]))
    patch.mockResolvedValue(answered({ id: 'list', version: 5 }, 'c') as never)
    await wrapper
      .findAll('button')
      .find((button) => textOf(button) === 'Set the trip')!
      .trigger('click')
    await vi.waitFor(() => expect(patch).toHaveBeenCalled())
    expect(patch.mock.calls[0]![1]).toMatchObject({
      params: { query: { version: 1 } },
      body: { trip: { days: 3, low_tenth_c: 50 } },
    })
  })

  it('sends a figure once as it is typed, and keeps what is refused with the reason', async () => {
    const save = vi.fn(async () => {})
    const wrapper = mounted(TypedField, { label: 'Lowest', text: '-2', unit: '°C', save })
    const field = wrapper.find('input')
    const type = async (text: string) => {
      await field.setValue(text)
      await field.trigger('change')
      await flushPromises()
    }
    await type('-5,5 °C')
    await type('-5,5 °C')
    expect(save.mock.calls).toEqual([['-5,5 °C']])
    save.mockRejectedValue(new Error('“cold” is not read as a temperature.'))
    await type('cold')
    await vi.waitFor(() => expect(textOf(wrapper)).toContain('“cold” is not read as a temperature.'))
    await wrapper.setProps({ text: '-7' })
    expect(field.element.value).toBe('cold')
    await type('-7')
    await vi.waitFor(() => expect(textOf(wrapper)).not.toContain('not read'))
    expect(save.mock.lastCall).toEqual(['cold'])
  })
})

describe('together', () => {
  it('shows what each carries and would lack, and splits by one key’s button', async () => {
    const wrapper = await page(TogetherPage, forTwo())
    const cards = wrapper.findAll('.walker').map(textOf)
    expect(cards[0]).toMatch(
      /^Ilo you ?Base1.00 kgPack7.00 kgLoaded2.70 kg \(water 1.00 kg\) ?10.0 % of body weight/,
    )
    expect(cards[1]).toContain('Alone Vesper would lack first aid.')
    expect(textOf(wrapper.find('.split'))).toBe('Split evenly e gives Vesper tent')
    post.mockResolvedValue(answered(undefined, 'c') as never)
    await wrapper.find('.split button').trigger('click')
    await vi.waitFor(() => expect(post).toHaveBeenCalled())
    expect(post.mock.calls[0]).toEqual([
      '/api/lists/{id}/carry',
      {
        params: { path: { id: 'list' } },
        body: { moves: [{ line: 'tent', version: 1, shared: true, walker: 'id of Vesper' }] },
      },
    ])
  })

  it('gives by arrow and says what is shared by s', async () => {
    const wrapper = await page(TogetherPage, forTwo())
    post.mockResolvedValue(answered(undefined, 'c') as never)
    const bag = wrapper.findAll('.what').find((one) => textOf(one) === 'bag')!
    await bag.trigger('keydown', { key: 's' })
    await bag.trigger('keydown', { key: 'ArrowRight' })
    await vi.waitFor(() => expect(post).toHaveBeenCalledTimes(2))
    const moves = post.mock.calls.map((call) => (call[1] as { body: { moves: object[] } }).body.moves[0])
    expect(moves).toMatchObject([
      { line: 'bag', shared: true, walker: 'id of Ilo' },
      { line: 'bag', shared: true, walker: 'id of Vesper' },
    ])
  })

  it('makes a link, of which the server tells the secret once', async () => {
    const forMe = forTwo()
    const made = { id: 'l1', shows_prices: false, made_at: '2026-11-29T00:00:00Z' }
    const wrapper = await page(TogetherPage, { ...forMe, links: [made] } as typeof forMe)
    post.mockResolvedValue(answered({ ...made, secret: 'ab'.repeat(32) }, 'c') as never)
    await wrapper
      .findAll('button')
      .find((button) => textOf(button) === 'Make a link to read')!
      .trigger('click')
    await vi.waitFor(() => expect(post).toHaveBeenCalled())
    const { body } = post.mock.calls[0]![1] as { body: object }
    expect(body).toEqual({ shows_prices: false })
    await vi.waitFor(() =>
      expect(wrapper.find<HTMLInputElement>('[data-link]').element.value).toContain(
        `/shared/${'ab'.repeat(32)}`,
      ),
    )
  })
})

describe('a shared list', () => {
  it('is read without an account, in the units of whose it is', async () => {
    const sheet = onTrip()
    given = {
      '/api/shared/{secret}': {
        sheet,
        mass: 'pounds_and_ounces',
        currency: 'USD',
        currency_decimals: 2,
        seat: null,
      },
    }
    const wrapper = mounted(SharedList, { secret: 'a'.repeat(64), account: null })
    await vi.waitFor(() => expect(textOf(wrapper)).toContain('a list of anna’s'))
    expect(textOf(wrapper.find('[data-block]'))).toBe('tent42.3 oz, on my back')
    expect(wrapper.findAll('[data-block]').every((row) => row.attributes('draggable') !== 'true')).toBe(true)
  })

  it('says so where a link opens nothing', async () => {
    get.mockResolvedValue({
      ...refused('There is no such thing.', 'not_found'),
      response: new Response(null, { status: 404 }),
    } as never)
    const wrapper = mounted(SharedList, { secret: 'b'.repeat(64), account: null })
    await vi.waitFor(() => expect(textOf(wrapper)).toContain('This link no longer works'))
  })
})
