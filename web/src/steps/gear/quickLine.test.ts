// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api } from '@/api/client'
import { useMessages } from '@/shell/messages'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import QuickLine from './QuickLine.vue'

const current = ref<{ id: string; name: string } | null>({ id: 'list', name: 'Fell week' })
vi.mock('@/shell/lists', () => ({ useLists: () => ({ current }) }))
const post = vi.spyOn(api, 'POST')
const chip = (kind: string, text: string, meaning: string) => ({ kind, text, meaning })

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  post.mockReset()
})
afterEach(() => void vi.useRealTimers())

async function typed(line: string, answer: object) {
  post.mockResolvedValueOnce(answered(answer) as never)
  const quick = mounted(QuickLine, {})
  await quick.find('input').setValue(line)
  await vi.advanceTimersByTimeAsync(150)
  return quick
}
const chips = (quick: { find(css: string): { element: Element } }) => textOf(quick.find('.chips'))

describe('the quick line', () => {
  it('is read back as chips before anything is added', async () => {
    const quick = await typed('mug 118g', {
      ready: true,
      source: 'maker',
      chips: [chip('name', 'mug', 'mug'), chip('mass', '118g', '118 g')],
    })
    expect(chips(quick)).toBe('name mugweight 118 gfrom the maker AltS')
    expect(post).toHaveBeenCalledExactlyOnceWith('/api/gear/read', {
      body: { line: 'mug 118g', source: 'maker' },
    })
  })

  it('says once where typed weights come from, with one key', async () => {
    const patch = vi.spyOn(api, 'PATCH').mockResolvedValue(answered(undefined) as never)
    const quick = await typed('mug 118g', {
      ready: true,
      source: 'maker',
      chips: [chip('mass', '118g', '118 g')],
    })
    await quick.find('input').trigger('keydown', { key: 's', altKey: true })
    await flushPromises()
    expect(patch).toHaveBeenCalledExactlyOnceWith('/api/account', {
      body: { mass: 'metric', currency: 'EUR', version: 1, settings: { typed_weights: 'weighed' } },
    })
  })

  it('underlines what it does not understand, with the reason, and says when the name is missing', async () => {
    const odd = await typed('mug 1,180 g', {
      ready: false,
      chips: [chip('name', 'mug', 'mug'), chip('refused', '1,180 g', 'can be 1180 g or 1.18 g')],
    })
    expect(textOf(odd.find('[role=alert]'))).toBe('1,180 g can be 1180 g or 1.18 g')
    expect(odd.find('[role=alert] u').text()).toBe('1,180 g')
    const nameless = await typed('118g', { ready: false, chips: [chip('mass', '118g', '118 g, weighed')] })
    expect(chips(nameless)).toContain('a name is missing')
  })

  it('shows the newest reading only', async () => {
    let late: (answer: unknown) => void = () => {}
    post.mockReturnValueOnce(new Promise((resolve) => (late = resolve)) as never)
    const quick = mounted(QuickLine, {})
    await quick.find('input').setValue('m')
    await vi.advanceTimersByTimeAsync(150)
    post.mockResolvedValueOnce(answered({ ready: true, chips: [chip('name', 'mug', 'mug')] }) as never)
    await quick.find('input').setValue('mug')
    await vi.advanceTimersByTimeAsync(150)
    late(answered({ ready: true, chips: [chip('name', 'm', 'm')] }))
    await flushPromises()
    expect(chips(quick)).toBe('name mug')
  })

  it('adds onto the list unless told not to, and keeps what was refused', async () => {
    const quick = await typed('mug 118g', { ready: true, chips: [] })
    post.mockResolvedValueOnce(refused('This list has 5000 things on it.') as never)
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect((quick.find('input').element as HTMLInputElement).value).toBe('mug 118g')
    expect(chips(quick)).toContain('This list has 5000 things on it.')

    await quick.find('input[type=checkbox]').setValue(false)
    post.mockResolvedValueOnce(answered({ name: 'mug' }, 'change 1') as never)
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect(post).toHaveBeenLastCalledWith('/api/gear/line', {
      body: { line: 'mug 118g', list: null, source: 'maker' },
    })
    expect((quick.find('input').element as HTMLInputElement).value).toBe('')
    expect(useMessages().messages.value.at(-1)?.text).toBe('mug added.')
  })
})
