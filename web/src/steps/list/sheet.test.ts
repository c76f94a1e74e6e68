import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, refused, used } from '@/tests/mounted'
import { sheetLine, sheetOf } from '@/tests/sheet'
import { useSheet } from './sheet'

const get = vi.spyOn(api, 'GET')
const put = vi.spyOn(api, 'PUT')
const remove = vi.spyOn(api, 'DELETE')
const post = vi.spyOn(api, 'POST')
const patch = vi.spyOn(api, 'PATCH')
const { messages, undoLast, drop } = useMessages()

const socks = sheetLine('socks', 100, { version: 6, carried: 2, worn: 1 })
const thing = (id: string, count = 1) => ({ id, name: id, system: 'sleep', count })
const answers: Record<string, unknown> = {
  '/api/lists': [{ id: 'list', name: 'Week', version: 3 }],
  '/api/lists/{id}/sheet': sheetOf([socks]),
  '/api/gear': { items: [thing('quilt'), thing('gear of socks', 3), thing('stakes', 8)], total: 3 },
}
async function sheet() {
  const { given } = used(() => useSheet('list'))
  await vi.waitFor(() => expect(given.sheet.value?.lines).toHaveLength(1))
  await flushPromises()
  return given
}
const at = (gear: string) => ({ path: { id: 'list', gear } })
const texts = () => messages.value.map((message) => message.text)

beforeEach(() => {
  for (const method of [get, put, remove, post, patch]) method.mockReset()
  get.mockImplementation((async (path: string) => answered(answers[path])) as never)
  messages.value.forEach((message) => drop(message.id))
})

describe('the list at hand', () => {
  it('keeps on the shelf what is not on it, and puts it on whole', async () => {
    const { shelf, add } = await sheet()
    expect(shelf.value.map((one) => one.name)).toEqual(['quilt', 'stakes'])
    put.mockResolvedValue(answered({ ...socks, id: 'stakes' }, 'change 1') as never)
    await add({ id: 'stakes', name: 'stakes', count: 8 })
    await add({ id: 'quilt', name: 'quilt', count: 1 })
    expect(put.mock.calls.map((call) => (call[1] as { body: unknown }).body)).toEqual([{}, {}])
    expect(texts()).toEqual(['stakes is on the list.', 'quilt is on the list.'])
  })

  it('moves pieces at once, then as the server has them, at the version that is shown', async () => {
    const { sheet: shown, move } = await sheet()
    put.mockResolvedValue(answered({ ...socks, version: 7, carried: 1, worn: 2 }, 'change 2') as never)
    const moving = move(socks, 'carried', 'worn', 1)
    expect(shown.value).toMatchObject({ totals: { base_mg: 1_300_000 }, lines: [{ carried: 1, worn: 2 }] })
    await moving
    expect(put.mock.calls[0]![1]).toMatchObject({
      params: at('gear of socks'),
      body: { version: 6, carried: 1, worn: 2, used_up: 0, apart: 0, left: 0 },
    })
    expect(texts()).toEqual(['socks: on me.'])
    expect(move(socks, 'carried', 'carried', 1)).toBeUndefined()
  })

  it('puts back what the server refuses, and says why', async () => {
    const { sheet: shown, move } = await sheet()
    put.mockResolvedValue(refused('You own 3 of socks.') as never)
    await move(socks, 'carried', 'left', 2)
    expect(shown.value).toMatchObject({ totals: { base_mg: 1_400_000 }, lines: [{ carried: 2, left: 0 }] })
    expect(texts()).toEqual(['You own 3 of socks.'])
  })

  it('takes a line off and undoes it by its change', async () => {
    const { remove: takeOff, before } = await sheet()
    remove.mockResolvedValue(answered(undefined, 'change 4') as never)
    post.mockResolvedValue(answered({}) as never)
    await takeOff(socks)
    expect(remove.mock.calls[0]![1]).toEqual({ params: { ...at('gear of socks'), query: { version: 6 } } })
    expect(before.value).toMatchObject([{ name: 'socks × 2', mg: 200_000 }])
    void undoLast()
    await vi.waitFor(() =>
      expect(post).toHaveBeenCalledWith('/api/changes/{id}/undo', { params: { path: { id: 'change 4' } } }),
    )
  })

  it('counts another way, and changes the trip at the version of the list', async () => {
    const { countBy, change } = await sheet()
    get.mockClear()
    post.mockResolvedValue(answered({ id: 'list', version: 4 }, 'change 5') as never)
    await countBy('usual', 'As most count')
    expect(post.mock.calls[0]![1]).toMatchObject({ params: { path: { id: 'list' } }, body: { way: 'usual' } })
    patch.mockResolvedValue(refused('0 can’t be taken here.') as never)
    await expect(change(() => ({ figures: { days: '0' } }), 'Trip changed.')).rejects.toThrow(
      '0 can’t be taken here.',
    )
    expect(texts()).toEqual(['The list is counted another way: as most count.'])
  })
})
