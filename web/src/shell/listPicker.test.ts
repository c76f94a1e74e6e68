import { config, flushPromises } from '@vue/test-utils'
import { ElDropdown } from 'element-plus'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { api } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import { trip } from '@/tests/sheet'
import ListPicker from './ListPicker.vue'

const get = vi.spyOn(api, 'GET')
const post = vi.spyOn(api, 'POST')
const patch = vi.spyOn(api, 'PATCH')
const remove = vi.spyOn(api, 'DELETE')
const router = createRouter({
  history: createMemoryHistory(),
  routes: [{ path: '/:rest(.*)*', component: {} }],
})
config.global.plugins = [router]
const { messages, undoLast, drop } = useMessages()
const texts = () => messages.value.map((message) => message.text)

const list = (id: string, name: string, some = {}) => ({
  id,
  name,
  version: 3,
  note: '',
  trip: null,
  of: null,
  archived: false,
  ...some,
})
const lists = [
  list('week', 'Fell week', { trip: trip({ days: 7, low_tenth_c: -20 }) }),
  list('hut', 'Hut night', { note: 'one night' }),
  list('old', 'Old week', { archived: true }),
  list('hers', 'Mesa loop', { of: 'ilo' }),
]

beforeEach(async () => {
  for (const method of [get, post, patch, remove]) method.mockReset()
  get.mockImplementation((async () => answered(lists)) as never)
  messages.value.forEach((message) => drop(message.id))
  await router.push('/lists/week/list/trip')
})
async function picker(at: string) {
  const wrapper = mounted(ListPicker, { list: at })
  await flushPromises()
  const choose = async (command: string) => {
    wrapper.findComponent(ElDropdown).vm.$emit('command', command)
    await flushPromises()
  }
  const name = async (text: string) => {
    await vi.waitFor(() => expect(document.querySelector('[name="list-name"]')).not.toBeNull())
    const field = wrapper.findComponent({ name: 'ElDialog' }).find('input')
    await field.setValue(text)
    await wrapper.findComponent({ name: 'ElDialog' }).find('form').trigger('submit')
    await flushPromises()
  }
  return { wrapper, choose, name }
}

describe('the list at hand', () => {
  it('is told with its trip in few words, or with the walker’s own', async () => {
    expect(textOf((await picker('week')).wrapper.find('.both'))).toBe('Fell week7 days, low −2 °C')
    expect(textOf((await picker('hut')).wrapper.find('.both'))).toBe('Hut nightone night')
    expect(textOf((await picker('old')).wrapper.find('.both'))).toBe('Old weekno trip yet')
    expect(textOf((await picker('gone')).wrapper.find('.both'))).toBe('No list yetchoose a list')
  })

  it('is another one, at the same page', async () => {
    const { choose } = await picker('week')
    await choose('hers')
    expect(router.currentRoute.value.path).toBe('/lists/hers/list/trip')
  })

  it('is copied under a name, and a name that is refused stays typed', async () => {
    const { wrapper, choose, name } = await picker('week')
    await choose('copy')
    post.mockResolvedValue(refused('There is a list Hut night already.') as never)
    await name('Hut night')
    await vi.waitFor(() => expect(textOf(wrapper)).toContain('There is a list Hut night already.'))
    post.mockResolvedValue(answered(list('new', 'Cold week'), 'c1') as never)
    await name('Cold week')
    expect(post.mock.lastCall).toEqual([
      '/api/lists/{id}/copies',
      { params: { path: { id: 'week' } }, body: { name: 'Cold week' } },
    ])
    expect(router.currentRoute.value.path).toBe('/lists/new/list/trip')
    expect(texts()).toEqual(['List Cold week made.'])
  })

  it('is archived and brought back at the version that is shown', async () => {
    const { choose } = await picker('week')
    patch.mockResolvedValue(answered(list('week', 'Fell week', { archived: true, version: 4 }), 'c') as never)
    await choose('archive')
    patch.mockResolvedValue(answered(list('old', 'Old week'), 'c') as never)
    await (await picker('old')).choose('archive')
    expect(patch.mock.calls.map((call) => call[1])).toEqual([
      { params: { path: { id: 'week' }, query: { version: 3 } }, body: { archived: true } },
      { params: { path: { id: 'old' }, query: { version: 3 } }, body: { archived: false } },
    ])
    expect(texts()).toEqual(['Fell week is archived.', 'Old week is restored.'])
  })

  it('is removed, and comes back by undo with its page', async () => {
    const { choose } = await picker('week')
    remove.mockResolvedValue(answered(undefined, 'c9') as never)
    post.mockResolvedValue(answered({}) as never)
    await choose('remove')
    expect(texts()).toEqual(['List Fell week removed. Its gear stays in your inventory.'])
    expect(router.currentRoute.value.path).toBe('/lists/hut/list/trip')
    void undoLast()
    await vi.waitFor(() => expect(router.currentRoute.value.path).toBe('/lists/week/list/trip'))
    expect(post.mock.lastCall).toEqual(['/api/changes/{id}/undo', { params: { path: { id: 'c9' } } }])
  })
})
