// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, type ListLine } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, refused, used } from '@/tests/mounted'
import { useList } from './list'

const get = vi.spyOn(api, 'GET')
const put = vi.spyOn(api, 'PUT')
const remove = vi.spyOn(api, 'DELETE')
const post = vi.spyOn(api, 'POST')
const { messages, undoLast, drop } = useMessages()

const thing = (id: string, count = 1) => ({ id, name: id, system: 'sleep', count })
const onList = { id: 'l1', version: 6, carried: 2, worn: 1, used_up: 0, gear: thing('socks', 3) }
const answers: Record<string, unknown> = {
  '/api/lists': [{ id: 'list', name: 'Week', version: 3 }],
  '/api/lists/{id}': { list: { id: 'list', name: 'Week', version: 3 }, lines: [onList] },
  '/api/gear': { items: [thing('quilt', 1), thing('socks', 3), thing('stakes', 8)], total: 3 },
}

async function list() {
  const { given } = used(() => useList('list'))
  await vi.waitFor(() => expect(given.lines.value).toHaveLength(1))
  await flushPromises()
  return given
}
const line = onList as unknown as ListLine
const at = (gear: string) => ({ path: { id: 'list', gear } })

beforeEach(() => {
  for (const method of [get, put, remove, post]) method.mockReset()
  get.mockImplementation((async (path: string) => answered(answers[path])) as never)
  messages.value.forEach((message) => drop(message.id))
})

describe('the list at hand', () => {
  it('keeps on the shelf what is not on it, and puts it on whole', async () => {
    const { shelf, add } = await list()
    expect(shelf.value.map((thing) => thing.name)).toEqual(['quilt', 'stakes'])
    put.mockResolvedValue(answered({ ...onList, id: 'l2', gear: thing('stakes', 8) }) as never)
    await add({ id: 'stakes', name: 'stakes', count: 8 })
    await add({ id: 'quilt', name: 'quilt', count: 1 }, 'worn')
    const none = { carried: 0, worn: 0, used_up: 0 }
    expect(put.mock.calls.map((call) => call[1] as unknown)).toEqual([
      { params: { path: at('stakes').path }, body: { ...none, carried: 8 } },
      { params: { path: at('quilt').path }, body: { ...none, worn: 1 } },
    ])
  })

  it('changes one count of a line at the version that is shown, and says what is refused where it is typed', async () => {
    const { count } = await list()
    put.mockResolvedValue(refused('You own 3 of socks.') as never)
    await expect(count(line, { carried: 9 })).rejects.toThrow('You own 3 of socks.')
    expect(put.mock.calls[0]![1]).toEqual({
      params: { path: at('socks').path },
      body: { version: 6, carried: 9, worn: 1, used_up: 0 },
    })
    expect(messages.value).toEqual([])
  })

  it('takes a line off and undoes it by its change', async () => {
    const { remove: takeOff } = await list()
    remove.mockResolvedValue(answered(undefined, 'change 4') as never)
    post.mockResolvedValue(answered({}) as never)
    await takeOff(line)
    expect(remove.mock.calls[0]![1]).toEqual({ params: { ...at('socks'), query: { version: 6 } } })
    expect(messages.value.map((message) => message.text)).toEqual(['socks taken off Week.'])
    undoLast()
    await vi.waitFor(() =>
      expect(post).toHaveBeenCalledWith('/api/changes/{id}/undo', { params: { path: { id: 'change 4' } } }),
    )
  })
})
