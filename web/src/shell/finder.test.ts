import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { answered, mounted } from '@/tests/mounted'
import { found, indexed, type Findable } from './finder'
import Finder from './Finder.vue'

const one = (name: string, words = ''): Findable => ({ name, sort: 'gear', words, go: () => undefined })
const names = (all: Findable[], typed: string, most = 9) =>
  found(indexed(all), typed, most).map(({ name }) => name)

describe('what is found', () => {
  const all = [one('Rain shell'), one('Tent', 'rain fly'), one('Été quilt'), one('Trail rain cap')]

  it('has every word, by name first, however it is written', () => {
    expect(names(all, 'rain')).toEqual(['Rain shell', 'Trail rain cap', 'Tent'])
    expect(names(all, ' RAIN  fly')).toEqual(['Tent'])
    expect(names(all, 'ete')).toEqual(['Été quilt'])
    expect(names(all, 'stove')).toEqual([])
  })

  it('is as it stands where nothing is typed, and no more than fits', () => {
    expect(names(all, '', 2)).toEqual(['Rain shell', 'Tent'])
  })

  it('is chosen by keys, and opened', async () => {
    const gear = [
      { id: 'g1', name: 'Spoon', tags: [], kept_at: '', note: '' },
      { id: 'g2', name: 'Spork', tags: [], kept_at: '', note: '' },
    ]
    vi.spyOn(api, 'GET').mockImplementation(((path: string) =>
      Promise.resolve(
        answered(
          path === '/api/gear' ? { items: gear, total: 2 } : path === '/api/lists' ? [] : { trips: [] },
        ),
      )) as never)
    const shown = mounted(Finder, { list: '', pages: [], modelValue: true, 'onUpdate:modelValue': vi.fn() })
    await flushPromises()
    const field = document.querySelector<HTMLInputElement>(
      '[role=combobox] input, input[role=combobox], input',
    )!
    field.value = 'spo'
    field.dispatchEvent(new Event('input', { bubbles: true }))
    await flushPromises()
    const options = () => [...document.querySelectorAll('[role=option]')].map((one) => one.textContent)
    await vi.waitFor(() => expect(options()).toEqual(['Spoongear', 'Sporkgear']))
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }))
    await flushPromises()
    expect(document.querySelector('[aria-selected=true]')!.textContent).toBe('Sporkgear')
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    await flushPromises()
    const router = shown.vm.$router as { currentRoute: { value: { fullPath: string } } }
    await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe('/gear?thing=g2'))
  })
})
