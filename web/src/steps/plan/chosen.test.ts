import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { mounted, partsOf } from '@/tests/mounted'
import ChosenTable from './ChosenTable.vue'

const answer = {
  aim_mg: 10_540_000,
  list: { terms: { target_of: 'base' } },
  swaps: [
    { id: 'a', name: 'Leave out mug', state: 'open' },
    { id: 'b', name: 'Pole shelter', state: 'pinned' },
    { id: 'c', name: 'Not chosen', state: 'open' },
  ],
  ranking: [
    { swap: 1, saving_mg: 1_180_000, net_minor: 28_900 },
    { swap: 0, saving_mg: 118_000, net_minor: 0 },
    { swap: 2, saving_mg: 5_000, net_minor: 100 },
  ],
} as unknown as PlanAnswer
const table = (swaps: number[], bases?: number[]) => mounted(ChosenTable, { answer, swaps, bases, median: 1 })

describe('the chosen set', () => {
  it('walks the base weight down, swap by swap, in the order that it is given', () => {
    const rows = (swaps: number[]) =>
      table(swaps)
        .findAll('tbody tr')
        .map((row) => partsOf(row).slice(0, 5))
    expect(rows([0, 1])).toEqual([
      ['1', 'Leave out mug', '118 g', '0 €', '10.42 kg'],
      ['2', 'Pole shelter', '1 180 g', '289 €', '9.24 kg'],
    ])
    expect(rows([1, 0]).map((row) => row[4])).toEqual(['9.36 kg', '9.24 kg'])
    expect(rows([])).toEqual([])
    // Where a kit is broken once for both, the second saves less than it would alone.
    const known = table([0, 1], [10_422_000, 9_251_000]).findAll('tbody tr')
    expect(partsOf(known[1]!).slice(2, 5)).toEqual(['1 171 g', '289 €', '9.25 kg'])
  })

  it('is pinned and ruled out from its rows', async () => {
    const chosen = table([0, 1])
    const [pin, rule] = chosen.findAll('tbody tr')[1]!.findAll('button')
    expect([pin!.text(), pin!.attributes('aria-pressed')]).toEqual(['Unpin', 'true'])
    await pin!.trigger('click')
    await rule!.trigger('click')
    const named = (event: string) =>
      (chosen.emitted(event) as { name: string }[][]).map(([swap]) => swap!.name)
    expect([named('pin'), named('rule')]).toEqual([['Pole shelter'], ['Pole shelter']])
  })
})
