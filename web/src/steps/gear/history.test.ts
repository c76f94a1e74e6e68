import { config, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { api } from '@/api/client'
import { answered, mounted } from '@/tests/mounted'
import HistoryPage from './HistoryPage.vue'

const get = vi.spyOn(api, 'GET')
const router = createRouter({
  history: createMemoryHistory(),
  routes: [{ path: '/:rest(.*)*', component: { template: '' } }],
})
const changes = (many: number) =>
  Array.from({ length: many }, (_, at) => ({
    id: `c${at}`,
    entry: { event: { code: 'sentence', text: `Change ${at}.` }, turn: 'done' },
    at: '2026-09-01T10:00:00Z',
    undone_at: null,
  }))
const asked = () =>
  (get.mock.calls as unknown as [string, { params: { query: object } }][])
    .filter(([path]) => path === '/api/changes')
    .map(([, { params }]) => params.query)

beforeEach(() => {
  config.global.plugins = [router]
  get.mockReset()
})
afterEach(() => {
  config.global.plugins = []
  document.body.innerHTML = ''
})

describe('the history', () => {
  it('is asked for as the address says, and goes on where there is more', async () => {
    get.mockImplementation(
      (path) => Promise.resolve(answered(path === '/api/changes' ? changes(100) : [])) as never,
    )
    await router.push('/gear/history?about=settings&of=l1')
    const page = mounted(HistoryPage, { list: 'l1' })
    await flushPromises()
    expect(asked()).toEqual([{ limit: 100, list: 'l1', about: 'settings', before: undefined }])
    expect(page.find('.older').exists()).toBe(true)
    await router.push('/gear/history?about=settings&of=l1&before=c99')
    await flushPromises()
    expect(asked().at(-1)).toEqual({ limit: 100, list: 'l1', about: 'settings', before: 'c99' })
  })

  it('ends where there is no more, and says when nothing is like that', async () => {
    get.mockImplementation((path) => Promise.resolve(answered(path === '/api/changes' ? [] : [])) as never)
    await router.push('/gear/history?about=trips')
    const page = mounted(HistoryPage, { list: '' })
    await flushPromises()
    expect(page.text()).toContain('Nothing like that was done.')
    expect(page.find('.older').exists()).toBe(false)
  })
})
