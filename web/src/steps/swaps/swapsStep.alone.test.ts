import { computed, ref } from 'vue'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { answered, mounted, textOf } from '@/tests/mounted'
import SwapsStep from './SwapsStep.vue'
import type { Row } from './swaps'

const row = (name: string, place: number, loses: string[]): Row =>
  ({
    swap: { id: name, name, kind: 'replace', state: 'open', remove: [], add: [], requires: [], excludes: [] },
    class: 'paid',
    place,
    saving_mg: 100_000,
    net_minor: 5_000,
    missing: [],
    folded: [],
    inPlan: false,
    loses,
  }) as unknown as Row

const rows = ref([row('tarp', 1, []), row('thin pad', 2, ['ground']), row('no shell', 3, ['rain_shell'])])
const answer = ref({
  swaps: rows.value.map((one) => one.swap),
  list: { terms: { rank_by: 'base' } },
  base_mg: 1,
  things: 1,
  choices: [],
})
vi.mock('./swaps', () => ({
  useSwaps: () => ({
    answer,
    error: ref(null),
    refetch: vi.fn(),
    rows,
    sections: computed(() => [{ key: 'paid', rows: rows.value }]),
    unavailable: ref([]),
    write: vi.fn(),
    removeSwap: vi.fn(),
  }),
}))
vi.mock('@/domain/question', () => ({
  useQuestion: () => ({ target: ref(null), left: ref(null), askBy: vi.fn() }),
}))
vi.mock('@/domain/swapState', () => ({ useSwapState: () => vi.fn() }))
vi.mock('@/domain/lists', () => ({ stepOf: () => '/' }))

vi.spyOn(api, 'GET').mockResolvedValue(answered([]) as never)

/** The step without what asks a server of its own. */
const step = () => mounted(SwapsStep, { list: '' }, 'metric')

describe('swaps', () => {
  it('say that they belong to a list where there is none', () => {
    expect(textOf(step())).toContain('Swaps belong to a list.')
  })

  it('can be narrowed to those that lose nothing the trip asks; places stay those of all', async () => {
    const wrapper = mounted(SwapsStep, { list: 'list' })
    const names = () => wrapper.findAll('.name b').map((name) => name.text())
    const places = () => wrapper.findAll('tbody td.place').map((place) => place.text())
    expect(names()).toEqual(['tarp', 'thin pad', 'no shell'])
    const texts = wrapper.findAll('.name').map((cell) => textOf(cell))
    expect(texts[1]).toContain('colder from below')
    expect(texts[2]).toContain('short of rain shell')
    const only = wrapper.findAll('label').find((label) => textOf(label).includes('Keeps all the trip asks'))!
    await only.find('input').setValue(true)
    await flushPromises()
    expect([names(), places()]).toEqual([['tarp'], ['1']])
    rows.value = [rows.value[1]!, rows.value[0]!]
    await only.find('input').setValue(false)
    await flushPromises()
    expect(names()).toEqual(['thin pad', 'tarp'])
  })
})
