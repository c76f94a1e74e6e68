import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api, type PlanAnswer, type Year } from '@/api/client'
import EditableCell from '@/controls/EditableCell.vue'
import { massNights } from '@/quantities/mass'
import { moneyPerMassNight } from '@/quantities/money'
import { answered, mounted, textOf } from '@/tests/mounted'
import { differences } from '@/domain/differs'
import { percentOf, yearWords } from './year'
import DiffersCard from '@/domain/DiffersCard.vue'
import YearBuys from './YearBuys.vue'
import YearKeeping from './YearKeeping.vue'
import YearLists from './YearLists.vue'
import YearStep from './YearStep.vue'

const units = {
  tableText: (mg: number) => `${mg / 1_000} g`,
  moneyText: (minor: number) => `${minor / 100} €`,
  massNightsText: (mg: number) => `${mg / 1_000_000} kg nights`,
}
const aList = (
  name: string,
  nights: number,
  target_mg: number | null,
  base_mg: number,
  planned_mg: number,
) => ({
  list: { id: name, version: 1, name, target_mg, year_nights: null, terms: { target_of: 'base' } },
  base_target_mg: target_mg,
  nights,
  trip_nights: nights,
  first_on: '2027-05-21',
  base_mg,
  planned_mg,
  short_by_mg: Math.max(0, planned_mg - (target_mg ?? planned_mg)),
  unknown: 0,
  chance_percent: target_mg === null ? null : 72,
})
const aSwap = (
  name: string,
  list: string,
  acts: boolean[],
  [saves, net]: [mg: number, minor: number],
  loses: object[] = [],
) => ({
  swap: {
    id: name,
    list,
    version: 1,
    name,
    state: 'open',
    kind: 'replace',
    remove: [],
    add: [],
    brings_minor: 0,
  },
  acts,
  savings_mg: acts.map((does) => (does ? saves : 0)),
  saves_mg_nights: acts.reduce((sum, does, at) => sum + (does ? saves * [2, 5, 3][at]! : 0), 0),
  net_minor: net,
  same: [`${name} elsewhere`],
  place: 1,
  loses,
})
const year = {
  lists: [
    aList('Fells', 2, 2_000_000, 2_600_000, 1_700_000),
    aList('Coast', 5, 1_300_000, 2_300_000, 1_400_000),
    aList('Woods', 3, null, 1_900_000, 1_000_000),
  ],
  others: [],
  swaps: [
    aSwap('tarp', 'Fells', [true, true, true], [900_000, 20_000]),
    aSwap('thin quilt', 'Fells', [true, true, false], [300_000, 9_000], [{ list: 1, meet: 'warmth' }]),
  ],
  frontier: [
    { net_minor: 0, base_mg: 22_400_000, swaps: [] },
    { net_minor: 20_000, base_mg: 13_400_000, swaps: [0] },
  ],
  proved: true,
  plan: {
    outcome: 'over_budget',
    has_target: true,
    swaps: [0],
    net_minor: 20_000,
    gram_nights_mg: 13_400_000,
    more_minor: 4_500,
    proved: true,
  },
  gram_nights_mg: 22_400_000,
  budget_minor: 25_000,
  spent_minor: 1_000,
  counting: 'stated',
  holdings: [],
} as unknown as Year
const shaped = (lists: Partial<Year['lists'][number]>[], plan: Partial<Year['plan']>) =>
  ({
    ...year,
    lists: lists.map((list, at) => ({ ...year.lists[at], ...list })),
    plan: { ...year.plan, ...plan },
  }) as Year

describe('what is said of a year', () => {
  it('is how many targets it reaches, for what, and how sure that is', () => {
    expect(yearWords(year, units)).toEqual({
      title: '1 of 2 targets reached for 200 €',
      note: '10 nights in the coming twelve months. All of them take 45 € more. The most that the money takes off: proved.',
    })
    const vague = shaped([{ unknown: 1 }, {}, {}], {})
    expect(yearWords(vague, units).note).toContain('As far as weights are known.')
    const met = shaped([{}, { short_by_mg: 0 }], { outcome: 'target_met' })
    expect(yearWords(met, units).title).toBe('All 2 targets reached for 200 €')
    expect(yearWords(met, units).note).toContain('7 nights')
    expect(yearWords({ ...met, plan: { ...met.plan, proved: false } }, units).note).toContain('Not proved')
    const never = shaped([{}, {}], { outcome: 'out_of_reach', more_minor: null })
    expect(yearWords(never, units).note).toContain('At any price')
    const aimless = shaped([{}], { outcome: 'out_of_reach', has_target: false })
    expect(yearWords(aimless, units).title).toBe('13.4 kg nights for 200 €')
  })

  it('has units of its own', () => {
    expect(massNights(9_040_000, 'metric')).toEqual({ figure: '9.0', unit: 'kg nights' })
    expect(massNights(-233_400_000, 'metric').figure).toBe('−233')
    expect(massNights(453_592_370, 'pounds_and_ounces').figure.replace(/\s/g, '')).toBe('1000')
    const euro = { code: 'EUR', decimals: 2 }
    // 200 € for 9 kg nights.
    expect(moneyPerMassNight(9_000_000, 20_000, euro, 'metric').figure).toBe('22.22')
    expect(moneyPerMassNight(4_535_924, 20_000, euro, 'decimal_pounds').figure).toBe('20.00')
  })
})

describe('a list by itself', () => {
  const alone = (names: string[]) =>
    ({
      list: { id: 'Fells', name: 'Fells' },
      swaps: names.map((name) => ({ id: name.toLowerCase(), name })),
      plan: { swaps: names.map((_, at) => at) },
    }) as unknown as PlanAnswer

  it('differs from the year in what only one of the two buys, with the reason where there is one', () => {
    expect(differences(year, alone(['Thin quilt']))).toEqual({
      onlyAlone: ['Thin quilt'],
      onlyYear: ['tarp'],
      reasons: [{ swap: 'Thin quilt', meet: 'warmth', lists: ['Coast'] }],
    })
    const none = { onlyAlone: [], onlyYear: [], reasons: [] }
    expect(differences(year, alone(['tarp']))).toEqual(none)
    expect(differences(year, alone(['tarp elsewhere'])), 'the same, as this list has it').toEqual(none)
    expect(differences({ ...year, lists: [] }, alone(['tarp'])), 'not of the year').toBeNull()
  })
})

describe('the page of the year', () => {
  const get = vi.spyOn(api, 'GET')
  const page = async (shown: Year) => {
    get.mockImplementation(((path: string) =>
      Promise.resolve(answered(path === '/api/year' ? shown : []))) as never)
    const step = mounted(YearStep, { list: '' })
    await flushPromises()
    return step
  }

  it('asks for nights where there are none, and takes them as they are typed', async () => {
    const others = [{ list: year.lists[0]!.list, nights: 0, trip_nights: 0 }]
    const plan = { ...year.plan, swaps: [] }
    const step = await page({ ...year, lists: [], swaps: [], frontier: [], plan, others } as never)
    expect(textOf(step)).toContain('A year is made of nights')
    const patch = vi.spyOn(api, 'PATCH').mockResolvedValue(answered({}, 'change') as never)
    await step.find('[aria-label^="Nights of Fells"]').trigger('click')
    await step.find('input[aria-label="Nights of Fells"]').setValue('12')
    await step.find('input[aria-label="Nights of Fells"]').trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(patch).toHaveBeenCalledExactlyOnceWith('/api/lists/{id}', {
      params: { path: { id: 'Fells' }, query: { version: 1 } },
      body: { year_nights: 12 },
    })
  })

  it('shows what each purchase takes off which list, what is left, and what stays short', async () => {
    const step = await page(year)
    const row = textOf(step.findAll('table')[1]!.find('tbody tr'))
    expect(row).toMatch(/^1 ?tarp.*−900 ?−900 ?−900/)
    expect(row).toContain('9.0 kg nights')
    expect(row).toContain('22.22 € a kg night')
    expect(textOf(step.find('.sums'))).toContain('40 € left')
    expect(textOf(step)).toContain('Coast: 100 g short')
    expect(textOf(step), 'of which nothing is known').toContain('Fells, Coast and Woods: no trip is said')
    // What is done asks on which other lists it is swapped too; all are ticked.
    await step.find('[aria-label="Done: tarp"]').trigger('click')
    await flushPromises()
    const ticks = [...document.body.querySelectorAll<HTMLInputElement>('.el-dialog input[type=checkbox]')]
    expect(ticks.map(({ value, checked }) => [value, checked])).toEqual([
      ['Coast', true],
      ['Woods', true],
    ])
  })
})

describe('the cards and tables of the year', () => {
  it('say where a list by itself would be planned otherwise, and nothing where it would not', () => {
    const alone = (name: string) =>
      ({ list: { id: 'Fells', name: 'Fells' }, swaps: [{ id: name, name }], plan: { swaps: [0] } }) as never
    const card = mounted(DiffersCard, { year, alone: alone('thin quilt') })
    expect(textOf(card)).toContain('Where Fells alone would differ')
    expect(textOf(card)).toContain(
      'thin quilt by itself leaves Coast shorter than now of: warm enough at night.',
    )
    expect(textOf(card)).toContain('Only over the year: tarp')
    expect(
      mounted(DiffersCard, { year, alone: alone('tarp') })
        .find('section')
        .exists(),
    ).toBe(false)
  })

  it('name the lists that a swap lightens where there are more than columns for them', () => {
    const lists = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((name) =>
      aList(name, 1, null, 2_000_000, 1_000_000),
    )
    const acts = lists.map((_, at) => at % 2 === 0)
    const swaps = [{ ...year.swaps[0]!, acts, savings_mg: acts.map(() => 900_000) }]
    const given = { year: { ...year, lists }, swaps, title: 'Buy in this order', isOrder: true, median: 1 }
    const many = mounted(YearBuys, given)
    expect(many.findAll('th.list')).toHaveLength(0)
    expect(textOf(many.find('.name'))).toContain('a, c, e and g')
    const few = mounted(YearBuys, { ...given, year, swaps: year.swaps, isOrder: false })
    expect(few.findAll('th.list').map(textOf)).toEqual(['Fells', 'Coast', 'Woods'])
    expect(few.findAll('[aria-label^="Done"]'), 'only what is in the plan is done here').toHaveLength(0)
    expect(few.findAll('[aria-label^="Rule out"]')).toHaveLength(2)
  })

  it('show each list from now to planned, where its nights come from, and what is short', async () => {
    const save = vi.fn().mockResolvedValue(undefined)
    const told = mounted(YearLists, { lists: year.lists, save })
    const rows = told.findAll('tbody tr').map(textOf)
    expect(rows[1]).toContain('2.30 kg')
    expect(rows[1]).toContain('1.40 kg')
    expect(rows[1]).toContain('100 g short')
    expect(rows[2]).toContain('none')
    const typed = { ...year.lists[0]!, list: { ...year.lists[0]!.list, year_nights: 12 }, nights: 12 }
    expect(textOf(mounted(YearLists, { lists: [typed], save }))).toContain('set by you; trips say 2')
  })
})

describe('keep, sell or swap', () => {
  const holding = (some: object) => ({
    gear: 'g',
    name: 'Dome',
    system: 'shelter',
    pieces: 1,
    lists: [0, 1],
    said_on: '2027-01-03',
    now_minor: 8_000,
    then_minor: 6_400,
    nights: 7,
    wears_out: false,
    per_night_minor: 229,
    may_go: false,
    swap: { swap: 0, costs_minor: 900, per_night_minor: 129 },
    ...some,
  })
  const keeping = (holdings: object[], saveRates = vi.fn(() => Promise.resolve())) =>
    mounted(YearKeeping, {
      year: { ...year, holdings } as unknown as Year,
      rates: { shelter: 20, comfort: 25 },
      systems: [{ key: 'shelter', name: 'Shelter' }],
      saveRates,
    })

  it('stands side by side, the cheaper one marked', () => {
    const shown = keeping([
      holding({}),
      holding({
        gear: 'h',
        name: 'Chair',
        lists: [],
        nights: 0,
        per_night_minor: null,
        may_go: true,
        swap: null,
      }),
    ])
    const [dome, chair] = shown.findAll('tbody tr')
    expect(textOf(dome!)).toContain('DomeFells, Coast')
    expect(textOf(dome!)).toMatch(/2.29 ?€ ?a night ?needed ?1.29 ?€ ?a night ?900 g lighter/)
    expect(dome!.find('.best').text()).toContain('1.29')
    expect(textOf(chair!)).toContain('on no list of the year')
    expect(textOf(chair!)).toMatch(/16 ?€ ?a year, for no night ?80 ?€ ?before fees ?none to compare/)
  })

  it('counts with shares of one’s own', async () => {
    const save = vi.fn(() => Promise.resolve())
    const shown = keeping([holding({})], save)
    await shown
      .findAll('button')
      .find((one) => one.text().includes('How fast'))!
      .trigger('click')
    await shown.findComponent(EditableCell).props('save')('35 %')
    expect(save).toHaveBeenCalledWith({ shelter: 35, comfort: 25 })
    expect(() => percentOf('120')).toThrow('more than all of it')
    expect(() => percentOf('some')).toThrow('whole number')
  })

  it('says where it comes from while nothing is worth anything', () => {
    expect(textOf(keeping([]))).toContain('what a thing would sell for')
  })
})
