import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ANYWHERE, singleKeys, useKeys } from '@/controls/keys'
import { mounted, textOf, used } from '@/tests/mounted'
import { howItWorks } from './howItWorks'
import FirstVisit from './FirstVisit.vue'
import StepHelp from './StepHelp.vue'

const leave: (() => void)[] = []
beforeEach(() => {
  const keys = () => {
    useKeys(ANYWHERE, [{ key: 'z', does: 'undo the last change', run: vi.fn() }])
    useKeys('Plan', [
      { key: 'ArrowDown', does: 'next swap', run: vi.fn() },
      { key: 'p', does: 'pin it', run: vi.fn() },
    ])
    useKeys('Plan', [{ key: 'Escape', does: 'leave the descent', run: vi.fn() }])
  }
  leave.push(used(keys).leave)
})
afterEach(() => {
  leave.splice(0).forEach((one) => one())
  singleKeys.value = true
  document.body.innerHTML = ''
})

const shown = async (path: string) => {
  mounted(StepHelp, { how: howItWorks(path), modelValue: true })
  await flushPromises()
  return document.querySelector('[role=dialog]')!
}

describe('help for a step', () => {
  it('says how it works, with an example, and its keys before those of every screen', async () => {
    const dialog = await shown('/lists/0198/plan')
    const text = textOf({ element: dialog })
    expect(text).toContain('How Plan works')
    for (const sentence of howItWorks('/lists/0198/plan')!.sentences) expect(text).toContain(sentence)
    const heads = [...dialog.querySelectorAll('h3')].map((head) => head.textContent)
    expect(heads).toEqual(['Plan', 'Anywhere'])
    const keys = [...dialog.querySelectorAll('kbd')].map((key) => key.textContent)
    expect(keys).toEqual(['↓', 'p', 'Esc', 'z'])
  })

  it('is the keys alone where there is no step', async () => {
    const dialog = await shown('/shared/secret')
    expect(textOf({ element: dialog })).toMatch(/^Keys/)
    expect(dialog.querySelector('.how')).toBeNull()
  })

  it('switches single letters off for whoever dictates', async () => {
    const dialog = await shown('/lists/0198/plan')
    dialog.querySelector<HTMLInputElement>('input[type=checkbox]')!.click()
    await flushPromises()
    expect(singleKeys.value).toBe(false)
  })
})

describe('the first visit of a step', () => {
  const visit = async (path: string) => {
    const page = mounted(FirstVisit, { how: howItWorks(path) })
    await flushPromises()
    return page.find('section').exists() ? textOf(page) : ''
  }
  beforeEach(() => localStorage.clear())

  it('is told how it works, once for each account and step', async () => {
    localStorage.setItem('kevyt-opened', JSON.stringify({ bert: ['Plan', 'Pack'] }))
    expect(await visit('/lists/0198/plan')).toContain(howItWorks('/lists/0198/plan')!.example)
    expect(await visit('/lists/0198/plan')).toBe('')
    expect(await visit('/lists/0198/list/trip')).toContain('How Trip works')
    expect(await visit('/shared/secret')).toBe('')
    const kept: unknown = JSON.parse(localStorage.getItem('kevyt-opened')!)
    expect(kept).toEqual({ bert: ['Plan', 'Pack'], anna: ['Plan', 'Trip'] })
  })

  it('is told no longer once it is closed, or another step is opened', async () => {
    const page = mounted(FirstVisit, { how: howItWorks('/lists/0198/gear') })
    await flushPromises()
    await page.setProps({ how: howItWorks('/lists/0198/pack') })
    expect(textOf(page)).toContain('How Pack works')
    await page.find('button').trigger('click')
    expect(page.find('section').exists()).toBe(false)
  })
})
