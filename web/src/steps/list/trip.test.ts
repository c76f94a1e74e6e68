import { flushPromises } from '@vue/test-utils'
import { ElSelect } from 'element-plus'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, ref } from 'vue'
import { api, type ListChange, type Sheet, type Trip } from '@/api/client'
import { withLock } from '@/api/lock'
import { answered, mounted, refused, textOf, used } from '@/tests/mounted'
import { sheetOf, trip } from '@/tests/sheet'
import ForecastCard from './ForecastCard.vue'
import HeavyFewRow from './HeavyFewRow.vue'
import RequirementsCard from './RequirementsCard.vue'
import { foodKind, useTripChanges, useTripFigures } from './trip'
import TripConditions from './TripConditions.vue'

const get = vi.spyOn(api, 'GET')
const patch = vi.spyOn(api, 'PATCH')
beforeEach(() => {
  get.mockReset()
  patch.mockReset()
})

/** A list whose changes arrive one after the other, each after a moment, as a server's do. */
function slowList(some: Partial<Trip>, requires = {}) {
  const held = sheetOf([])
  Object.assign(held.list, { trip: trip(some), requires })
  const sheet = ref<Sheet>(held)
  const sent: ListChange[] = []
  const change = (body: () => ListChange) =>
    withLock(`list of ${JSON.stringify(some)}`, async () => {
      const asked = body()
      sent.push(asked)
      await new Promise((later) => setTimeout(later, 5))
      const { list } = sheet.value
      const devices = asked.devices?.map(({ name, charge, charges }) => ({
        name,
        mwh: Number.parseFloat(charge) * 1_000,
        charges,
      }))
      const now = { ...list.trip!, ...(asked.trip as Trip | undefined), ...(devices && { devices }) }
      const next = { ...list, trip: now, requires: asked.requires ?? list.requires }
      sheet.value = { ...sheet.value, list: next as Sheet['list'] }
    })
  return { sheet: computed(() => sheet.value), change, sent, now: () => sheet.value.list }
}

describe('changes of a trip', () => {
  it('take what those before them made of it, however fast they come', async () => {
    const list = slowList({ days: 4 })
    const { set, require } = useTripChanges(list as never)
    await Promise.all([
      set({ snow: true }),
      set({ flight: true }),
      require('light', 2),
      require('first_aid', 1),
      require('light', null),
    ])
    expect(list.now()).toMatchObject({
      trip: { days: 4, snow: true, flight: true },
      requires: { first_aid: 1 },
    })
    expect(list.sent.map((one) => one.requires)).toEqual([
      undefined,
      undefined,
      { light: 2 },
      { light: 2, first_aid: 1 },
      { first_aid: 1 },
    ])
  })

  it('add devices, change them, and leave out what is charged no time', async () => {
    const list = slowList({ devices: [{ name: 'phone', mwh: 15_400, charges: 2 }] })
    const { addDevice, device } = useTripChanges(list as never)
    await Promise.all([addDevice(), device(1, { name: 'watch' }), device(0, { charges: 3 })])
    expect(list.now().trip!.devices).toEqual([
      { name: 'phone', mwh: 15_400, charges: 3 },
      { name: 'watch', mwh: 15_000, charges: 1 },
    ])
    await device(0, { charges: 0 })
    expect(list.now().trip!.devices).toEqual([{ name: 'watch', mwh: 15_000, charges: 1 }])
  })

  it('say which count of charges is not read', async () => {
    const list = slowList({ devices: [{ name: 'lamp', mwh: 5_000, charges: 1 }] })
    const wrapper = mounted(TripConditions, {
      sheet: list.sheet.value,
      trip: list.now().trip,
      disabled: false,
      list,
    })
    const charges = wrapper.findAll('.device input')[2]!
    await charges.setValue('twice')
    await charges.trigger('change')
    await vi.waitFor(() =>
      expect(textOf(wrapper)).toContain(
        '“twice” is not read as a count. Type a whole number, or 0 to leave the device out.',
      ),
    )
    expect(list.sent).toEqual([])
    await charges.setValue('2')
    await charges.trigger('change')
    await vi.waitFor(() =>
      expect(list.sent).toEqual([{ devices: [{ name: 'lamp', charge: '5 Wh', charges: 2 }] }]),
    )
  })
})

it('a trip’s figures stand as they could have been typed', () => {
  const { given } = used(useTripFigures)
  expect([
    given.far(9_000),
    given.wet(1_250),
    given.heavy(690_000),
    given.warm(-25),
    given.total(68e6),
  ]).toEqual(['9', '1.25', '690', '-2.5', '68'])
  expect(
    [{ mg_per_day: 1 }, { mg_per_meal: 1 }, { kcal_per_day: 1, kcal_per_100g: 1 }].map((food) =>
      foodKind(trip({ food })),
    ),
  ).toEqual(['weight', 'meals', 'energy'])
})

describe('a forecast', () => {
  const told = {
    low_tenth_c: 20,
    low_from_tenth_c: -10,
    low_to_tenth_c: 50,
    high_tenth_c: 110,
    high_from_tenth_c: 80,
    high_to_tenth_c: 140,
    rain_days: 3,
    wind_km_per_hour: 35,
    light_tenth_hours: 132,
    based_on: 'a model of made-up weather',
  }
  const asked = async () => {
    const save = vi.fn(async () => {})
    const wrapper = mounted(ForecastCard, { trip: trip({ days: 5 }), disabled: false, save })
    const press = (name: string) =>
      wrapper
        .findAll('button')
        .find((button) => textOf(button).startsWith(name))!
        .trigger('click')
    await press('Ask a forecast')
    await wrapper.find('input[aria-label="Place"]').setValue('north fells')
    wrapper.findComponent({ name: 'ElDatePicker' }).vm.$emit('update:modelValue', '2027-09-01')
    await flushPromises()
    await wrapper.find('.forecast button').trigger('click')
    await flushPromises()
    return { wrapper, save, press }
  }

  it('says how wide its spread is, and is taken over at a word', async () => {
    get.mockResolvedValue(answered(told) as never)
    const { wrapper, save, press } = await asked()
    expect(get.mock.lastCall).toEqual([
      '/api/forecast',
      { params: { query: { place: 'north fells', from: '2027-09-01', days: 5 } } },
    ])
    expect(textOf(wrapper)).toContain(
      'Low 2 °C (between −1 °C and 5 °C), high 11 °C (between 8 °C and 14 °C)',
    )
    expect(textOf(wrapper)).toContain('rain on 3 of 5 days')
    await press('Take')
    expect(save.mock.lastCall).toEqual([{ low_tenth_c: -10, high_tenth_c: 140, rain: true }])
  })

  it('leaves the trip as it is where there is none', async () => {
    get.mockResolvedValue(refused('There is no forecast for “north fells”.') as never)
    const { wrapper, save } = await asked()
    expect(textOf(wrapper.find('[role="alert"]'))).toBe(
      'There is no forecast for “north fells”. The trip stays as it is.',
    )
    expect(save).not.toHaveBeenCalled()
  })
})

describe('what a trip requires', () => {
  const requirements = [
    { job: 'light', amount: 1, why: 'always', by_default: 1, short: 0 },
    { job: 'first_aid', amount: 2, why: 'own', by_default: 1, short: 1 },
  ]
  it('is said otherwise, or left to the conditions, and a count that is none is refused', async () => {
    const require = vi.fn(async () => {})
    const wrapper = mounted(RequirementsCard, { worked: { requirements }, disabled: false, require })
    const type = async (text: string) => {
      if (!wrapper.find('td.number input').exists())
        await wrapper.findAll('td.number [data-cell]')[1]!.trigger('click')
      await wrapper.find('td.number input').setValue(text)
      await wrapper.find('td.number input').trigger('keydown', { key: 'Enter' })
      await flushPromises()
    }
    await type('some')
    expect(textOf(wrapper)).toContain('“some” is not read as an amount. Type a whole number,')
    await type('3')
    await type('')
    expect(require.mock.calls).toEqual([
      ['first_aid', 3],
      ['first_aid', null],
    ])
    wrapper.findComponent(ElSelect).vm.$emit('update:modelValue', 'chair')
    wrapper.findComponent(ElSelect).vm.$emit('change', 'chair')
    await flushPromises()
    expect(require.mock.lastCall).toEqual(['chair', 1])
  })
})

it('the heavy few stand with their share and class', () => {
  const row = mounted(HeavyFewRow, { grams: 4_500_000, base: 10_000_000, classAt: 3 })
  expect(textOf(row.find('button'))).toBe('The heavy three4.50 kg, 45 %')
  expect(textOf(row.find('p'))).toContain('Class of base weight')
})

it('the class of base weight ends at round figures', () => {
  const classAt = (at: number) => textOf(mounted(HeavyFewRow, { grams: 1, base: 2, classAt: at }).find('p'))
  expect([0, 1, 3].map(classAt)).toEqual(
    ['under 2.3 kg', 'under 4.5 kg', 'above 9 kg'].map((text) => `Class of base weight${text}`),
  )
})
