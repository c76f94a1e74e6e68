import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api, orLater } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import QuickLine from './QuickLine.vue'

const current = ref<{ id: string; name: string } | null>({ id: 'list', name: 'Fell week' })
vi.mock('@/domain/lists', () => ({ useLists: () => ({ current }) }))
const post = vi.spyOn(api, 'POST')
const chip = (kind: string, text: string, meaning: string) => ({ kind, text, meaning })

beforeEach(() => {
  sessionStorage.clear()
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  post.mockReset()
})
afterEach(() => void vi.useRealTimers())

async function typed(line: string, answer: object) {
  post.mockResolvedValueOnce(answered(answer) as never)
  const asked = post.mock.calls.length
  const quick = mounted(QuickLine, { list: 'list' })
  await quick.find('input').setValue(line)
  // However long it waits before it asks: until it has asked, and has been answered.
  await vi.waitFor(async () => {
    await vi.advanceTimersByTimeAsync(50)
    expect(post.mock.calls.length).toBeGreaterThan(asked)
  })
  await flushPromises()
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
    expect(chips(quick)).toBe('name mugweight 118 gsource maker’s AltSiswhat is it?AltK')
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
    await quick.find('input').trigger('keydown', { key: 's', code: 'KeyS', altKey: true })
    await flushPromises()
    expect(patch).toHaveBeenCalledExactlyOnceWith('/api/account', {
      body: {
        mass: 'metric',
        currency: 'EUR',
        version: 1,
        settings: expect.objectContaining({ typed_weights: 'weighed' }) as object,
      },
    })
  })

  it('underlines what it does not understand, with the reason, and says when the name is missing', async () => {
    const odd = await typed('mug 1,180 g', {
      ready: false,
      chips: [chip('name', 'mug', 'mug'), chip('refused', '1,180 g', 'can be 1180 g or 1.18 g')],
    })
    expect(textOf(odd.find('[role=alert]'))).toBe('1,180 g not understood. can be 1180 g or 1.18 g')
    expect(odd.find('[role=alert] u').text()).toBe('1,180 g')
    const nameless = await typed('118g', { ready: false, chips: [chip('mass', '118g', '118 g, weighed')] })
    expect(chips(nameless)).toContain('a name is missing')
  })

  it('shows the newest reading only', async () => {
    let late: (answer: unknown) => void = () => {}
    post.mockReturnValueOnce(new Promise((resolve) => (late = resolve)) as never)
    const quick = mounted(QuickLine, { list: 'list' })
    await quick.find('input').setValue('m')
    await vi.advanceTimersByTimeAsync(150)
    post.mockResolvedValueOnce(answered({ ready: true, chips: [chip('name', 'mug', 'mug')] }) as never)
    await quick.find('input').setValue('mug')
    await vi.advanceTimersByTimeAsync(150)
    late(answered({ ready: true, chips: [chip('name', 'm', 'm')] }))
    await flushPromises()
    expect(chips(quick)).toBe('name mugiswhat is it?AltK')
  })

  it('says what it takes the thing for, and is told otherwise', async () => {
    const kind = { key: 'quilt', name: 'quilt', said: false, brings: ['Sleep', 'sleep insulation'] }
    const body = { ready: true, kind, chips: [chip('name', 'quilt', 'quilt'), chip('kind', 'is:pad', 'pad')] }
    const sent = () => (post.mock.lastCall as unknown as [string, { body: { line: string } }])[1].body.line
    const quick = await typed('quilt', body)
    // What it is stands in a box of its own, never twice.
    expect(chips(quick)).toContain('Sleep · sleep insulation')
    expect(chips(quick)).not.toContain('pad')
    post.mockResolvedValue(answered({ id: 'q', name: 'quilt' }) as never)
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect(sent()).toBe('quilt')

    const other = await typed('quilt', body)
    other.findComponent({ name: 'KindSelect' }).vm.$emit('update:modelValue', 'underquilt')
    await other.find('form').trigger('submit')
    await flushPromises()
    expect(sent()).toBe('quilt is:underquilt')
    // The next line is what its own name says.
    await other.find('input').setValue('mug')
    await other.find('form').trigger('submit')
    await flushPromises()
    expect(sent()).toBe('mug')
  })

  it('frees the field at once, adds each line once, and gives back what was refused', async () => {
    const quick = mounted(QuickLine, { list: 'list' })
    const field = quick.find('input')
    const value = () => field.element.value
    const answers: ((answer: unknown) => void)[] = []
    const isAdd = () => post.mock.calls.filter((call) => String(call[0]) === '/api/gear/line').length
    post.mockImplementation(((path: string) =>
      path === '/api/gear/read'
        ? Promise.resolve(answered({ ready: true, chips: [] }))
        : new Promise((resolve) => answers.push(resolve))) as never)
    await field.setValue('mug 118g')
    await quick.find('form').trigger('submit')
    await quick.find('form').trigger('submit')
    expect(value()).toBe('')
    await field.setValue('pot 9eur')
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect(isAdd()).toBe(1)
    await field.setValue('spoo')
    answers[0]!(answered({ id: 'm', name: 'mug' }, 'change 1'))
    await flushPromises()
    expect([isAdd(), value()]).toEqual([2, 'spoo'])
    answers[1]!(refused('This list has 5000 things on it.'))
    await flushPromises()
    expect(value()).toBe('spoo')
    expect(textOf(quick.find('.returned'))).toContain('pot 9eur This list has 5000 things on it.')
  })

  it('adds onto the list unless told not to, and keeps what was refused', async () => {
    const quick = await typed('mug 118g', { ready: true, chips: [] })
    post.mockResolvedValueOnce(refused('This list has 5000 things on it.') as never)
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect((quick.find('input').element as HTMLInputElement).value).toBe('mug 118g')
    expect(chips(quick)).toContain('This list has 5000 things on it.')

    await quick.find('input[type=checkbox]').setValue(false)
    post.mockResolvedValueOnce(answered({ id: 'm', name: 'mug' }, 'change 1') as never)
    await quick.find('form').trigger('submit')
    await flushPromises()
    expect(post).toHaveBeenLastCalledWith('/api/gear/line', {
      body: { line: 'mug 118g', list: null, source: 'maker' },
      ...orLater('Add “mug 118g”'),
    })
    expect((quick.find('input').element as HTMLInputElement).value).toBe('')
    expect(useMessages().messages.value.at(-1)?.text).toBe('mug added.')
  })
})
