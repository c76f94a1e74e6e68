import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { answered, mounted, textOf } from '@/tests/mounted'
import ComparePage from './ComparePage.vue'

const replace = vi.fn()
vi.mock('vue-router', async (original) => ({
  ...(await original<object>()),
  useRoute: () => ({ query: { with: 'dear' }, path: '/lists/cheap/list/compare' }),
  useRouter: () => ({ replace }),
}))

const list = (id: string) => ({ id, name: id === 'cheap' ? 'Cheap' : 'Dear', archived: false, trip: {} })
const outfit = (id: string, some: object) => ({
  list: list(id),
  base_mg: 2_200_000,
  unknown: 0,
  costs_minor: 4_000,
  owned_minor: 4_000,
  unpriced: 0,
  nights: 4,
  gram_nights_mg: 8_800_000,
  comfort_tenth_c: 35,
  low_tenth_c: 20,
  water_ml: 2_000,
  heaviest_mg: 3_000_000,
  comfortable_mg: null,
  cautions: [],
  ...some,
})
const outfits = [
  outfit('cheap', { unpriced: 1, cautions: ['cold_night', 'shared_gear', 'shared_gear'] }),
  outfit('dear', { base_mg: 1_500_000, costs_minor: 59_000, owned_minor: 34_000 }),
]
const between = [{ cheaper: 0, dearer: 1, more_minor: 55_000, lighter_mg: 700_000 }]

describe('lists side by side', () => {
  it('are told by weight, money and the rest, with the price of the grams between', async () => {
    vi.spyOn(api, 'GET').mockImplementation(((path: string) =>
      Promise.resolve(
        answered(path === '/api/outfits' ? { outfits, between } : ['cheap', 'dear'].map(list)),
      )) as never)
    const page = mounted(ComparePage, { list: 'cheap' })
    await flushPromises()
    const row = (name: string) =>
      textOf(page.findAll('tbody tr').find((one) => textOf(one).startsWith(name))!)
    expect(row('Base weight')).toBe('Base weight2.20 kg1.50 kg')
    expect(row('Cost of all of it')).toContain('40 €at least: 1 price unknown')
    expect(row('Of that owned')).toContain('340 €')
    expect(row('Carried over the year')).toContain('8.8 kg nights4 nights')
    expect(row('Cautions').match(/shared gear/g), 'each once').toHaveLength(1)
    expect(textOf(page.find('[aria-label="The price of the grams between"]'))).toContain(
      'From Cheap to Dear550 € more and 700 g lighter: 78.57 € for 100 g.',
    )
  })
})
