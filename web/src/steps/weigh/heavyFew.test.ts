// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api } from '@/api/client'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import HeavyFew from './HeavyFew.vue'

const current = ref<{ id: string } | null>({ id: 'list' })
vi.mock('@/shell/lists', () => ({ useLists: () => ({ current }) }))
const post = vi.spyOn(api, 'POST')
const put = vi.spyOn(api, 'PUT')

beforeEach(() => {
  post.mockReset()
  put.mockReset()
  let id = 0
  post.mockImplementation((async () => answered({ id: `gear ${++id}` })) as never)
  put.mockResolvedValue(answered(undefined) as never)
})

async function entered(weights: string[]) {
  const few = mounted(HeavyFew, {})
  const fields = few.findAll('.row input').filter((_, at) => at % 2 === 1)
  for (const [at, weight] of weights.entries()) await fields[at]!.setValue(weight)
  const enter = async () => {
    await few.find('form').trigger('submit')
    await flushPromises()
  }
  await enter()
  return { few, enter }
}
const sent = () => post.mock.calls.map((call) => (call as unknown as [string, { body: object }])[1].body)

describe('an empty account', () => {
  it('begins with pack, shelter and sleep, of makers’ weights unless said otherwise, on the list', async () => {
    await entered(['1680', '4 lb 3 oz', ''])
    expect(sent()).toEqual([
      { name: 'Pack', system: 'pack', weight: '1680', source: 'maker' },
      { name: 'Shelter', system: 'shelter', weight: '4 lb 3 oz', source: 'maker' },
      { name: 'Sleeping bag or quilt', system: 'sleep', weight: null, source: 'maker' },
    ])
    expect(put).toHaveBeenCalledTimes(3)
    expect(put).toHaveBeenLastCalledWith('/api/lists/{id}/lines/{gear}', {
      params: { path: { id: 'list', gear: 'gear 3' } },
      body: { carried: 1, worn: 0, used_up: 0 },
    })
  })

  it('keeps what was refused beside its field, and adds nothing twice', async () => {
    post.mockResolvedValueOnce(refused('"1,680" can be 1680 g or 1.68 g. Type 1680 or 1.68.') as never)
    put.mockResolvedValueOnce(refused('The list is gone.') as never)
    const { few, enter } = await entered(['1,680', '1900', '1100'])
    expect(few.findAll('[role=alert]').map((alert) => textOf(alert))).toEqual([
      '"1,680" can be 1680 g or 1.68 g. Type 1680 or 1.68.',
      'The list is gone.',
    ])
    await enter()
    // The pack again; the shelter is gear already, only its line is tried again; the bag is done.
    expect(sent().map((body) => (body as { system: string }).system)).toEqual([
      'pack',
      'shelter',
      'sleep',
      'pack',
    ])
    expect(put).toHaveBeenCalledTimes(4)
    expect(few.find('[role=alert]').exists()).toBe(false)
  })
})
