// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import type { ListLine } from '@/api/client'
import { mounted, partsOf, textOf } from '@/tests/mounted'
import ListTable from './ListTable.vue'

const line = (name: string, unit_mg: number | null, counts: Partial<ListLine> = {}) =>
  ({
    id: name,
    version: 2,
    carried: 0,
    worn: 0,
    used_up: 0,
    gear: {
      id: name,
      name,
      weight: unit_mg === null ? null : { unit_mg, typed: '', source: name === 'bag' ? 'maker' : 'weighed' },
    },
    ...counts,
  }) as ListLine

const lines = [
  line('socks', 62_000, { carried: 2, worn: 1 }),
  line('bag', 1_120_000, { carried: 1 }),
  line('gas', 378_000, { used_up: 1 }),
  line('pouch', null, { carried: 1 }),
]
function table(count = vi.fn(async () => {})) {
  const systems = [{ key: 'all', name: 'All of it', lines }]
  return { wrapper: mounted(ListTable, { systems, count }), count }
}

describe('the list', () => {
  it('adds to the base what is carried, and nothing else', () => {
    const { wrapper } = table()
    expect(wrapper.findAll('tbody tr:not(.section)').map((row) => partsOf(row).join(' | '))).toEqual([
      'socks | 2 | 1 | 62 g | 124 g | ×',
      'bag maker’s | 1 | 1 120 g | 1 120 g | ×',
      'gas | 1 | 378 g | 0 g | ×',
      'pouch | 1 | unknown | 0 g | ×',
    ])
    expect(textOf(wrapper.find('.section'))).toBe('All of it1 244 g')
  })

  it('takes a count for a place, and nothing for none', async () => {
    const { wrapper, count } = table()
    const type = async (label: string, text: string) => {
      await wrapper.find(`[aria-label^="${label}"]`).trigger('click')
      await wrapper.find('input').setValue(text)
      await wrapper.find('input').trigger('keydown', { key: 'Enter' })
      await flushPromises()
    }
    await type('Worn of socks', '')
    await type('Used up of pouch', '1')
    expect(count.mock.calls).toEqual([
      [lines[0], { worn: 0 }],
      [lines[3], { used_up: 1 }],
    ])
    await type('Carried of bag', '1.5')
    expect(textOf(wrapper.find('[role=alert]'))).toContain('"1.5" is not read as a count.')
    expect(count).toHaveBeenCalledTimes(2)
  })

  it('gives things back to the shelf', async () => {
    const { wrapper } = table()
    await wrapper.find('[aria-label="Take gas off the list"]').trigger('click')
    expect(wrapper.emitted('remove')).toEqual([[lines[2]]])
  })
})
