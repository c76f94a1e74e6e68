import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, Problem, type Gear } from '@/api/client'
import { answered, mounted } from '@/tests/mounted'
import GearDrawer from './GearDrawer.vue'

const fleece = {
  id: 'f',
  version: 3,
  name: 'Fleece',
  system: 'clothes',
  count: 1,
  weight: { unit_mg: 305_000, typed: '305 g', source: 'maker' },
  paid_low_minor: 6_000,
  paid_high_minor: 6_000,
  acquired: 'new',
  status: 'owned',
  nights: 20,
  provides: {},
  needs: {},
} as unknown as Gear

beforeEach(() => {
  sessionStorage.clear()
  vi.spyOn(api, 'GET').mockResolvedValue(answered([]) as never)
})
afterEach(() => (document.body.innerHTML = ''))

async function opened(change = vi.fn(async (): Promise<unknown> => undefined)) {
  const drawer = mounted(GearDrawer, { thing: fleece, vocabulary: undefined, change })
  await nextTick()
  await flushPromises()
  const field = (name: string) => document.querySelector<HTMLInputElement>(`[name="${name}"]`)!
  const type = async (name: string, text: string) => {
    field(name).value = text
    field(name).dispatchEvent(new Event('input'))
    await nextTick()
  }
  const save = async () => {
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
  }
  const button = (text: string) =>
    [...document.querySelectorAll('button')].find((button) => button.textContent!.includes(text))!
  return { drawer, change, field, type, save, button }
}

const error = () => document.querySelector('.el-form-item__error')?.textContent ?? ''

describe('the drawer of a thing', () => {
  it('sends what was changed and nothing else, at the version that was typed over', async () => {
    const { drawer, change, type, save } = await opened()
    await type('note', 'zip is new')
    await type('resale', '25')
    await type('weight', '')
    await save()
    expect(change).toHaveBeenCalledExactlyOnceWith(
      fleece,
      { note: 'zip is new', resale: '25', weight: null },
      3,
    )
    expect(drawer.emitted('close')).toHaveLength(1)
  })

  it('says beside its field what is refused, and keeps it typed', async () => {
    const refused = async () => {
      throw new Problem(422, 'ambiguous', '"1,305 g" can be 1305 g or 1.305 g.', 'weight')
    }
    const { drawer, change, field, type, save } = await opened(vi.fn(refused))
    await type('weight', '1,305 g')
    await save()
    await vi.waitFor(() => expect(error()).toContain('can be 1305 g'))
    expect([field('weight').value, drawer.emitted('close')]).toEqual(['1,305 g', undefined])
    await type('weight', '305 g')
    await type('nights', 'many')
    await save()
    await vi.waitFor(() => expect(error()).toContain('not a number of nights'))
    expect(change).toHaveBeenCalledOnce()
  })

  it('shows both values where somebody else was quicker, and sends the one that is chosen', async () => {
    const { drawer, change, type, save, button } = await opened()
    await type('resale', '25')
    await drawer.setProps({ thing: { ...fleece, version: 4, resale_minor: 3_000, nights: 21 } })
    await nextTick()
    expect(document.body.textContent).toContain('This was changed somewhere else meanwhile.')
    expect(button('Save').disabled).toBe(true)
    expect([button('Yours').textContent, button('Theirs').textContent].map((text) => text!.trim())).toEqual([
      'Yours: 25',
      'Theirs: 30',
    ])
    button('Yours').click()
    await nextTick()
    await save()
    expect(change).toHaveBeenCalledExactlyOnceWith(expect.anything(), { resale: '25' }, 4)
  })

  it('has what was typed again when it opens next, and lets it go on Cancel', async () => {
    const first = await opened()
    await first.type('kept_at', 'hall')
    first.drawer.unmount()
    document.body.innerHTML = ''
    const next = await opened()
    expect(next.field('kept_at').value).toBe('hall')
    expect(document.body.textContent).toContain('What you typed before is still here, not saved yet.')
    next.button('Discard it').click()
    await nextTick()
    expect(next.field('kept_at').value).toBe('')
  })
})
