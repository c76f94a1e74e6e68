import { beforeEach, describe, expect, it, vi } from 'vitest'
import { used } from '@/tests/mounted'
import { currentKeys, printed, singleKeys, useKeyListener, useKeys } from './keys'

const press = (key: string, target: Element = document.body, more: KeyboardEventInit = {}) =>
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }))

beforeEach(() => {
  document.body.innerHTML = ''
  singleKeys.value = true
})

describe('the keys of a screen', () => {
  it('work as long as the screen stands, and not a moment longer', () => {
    const run = vi.fn()
    const listener = used(useKeyListener)
    const screen = used(() => useKeys('Weigh', [{ key: 'w', does: 'type', run }]))
    press('w')
    screen.leave()
    press('w')
    expect(run).toHaveBeenCalledOnce()
    expect(currentKeys.value).toEqual([])
    listener.leave()
  })

  it('leave text alone, and what belongs to the browser; a checkbox or a plain select keeps none of them', () => {
    const run = vi.fn()
    const listener = used(useKeyListener)
    const screen = used(() => useKeys('Gear', [{ key: 'z', does: 'undo', run }]))
    document.body.innerHTML = '<input id="text"><input id="tick" type="checkbox"><input id="pick" readonly>'
    press('z', document.querySelector('#text')!)
    press('z', document.body, { ctrlKey: true })
    expect(run).not.toHaveBeenCalled()
    press('z', document.querySelector('#tick')!)
    press('z', document.querySelector('#pick')!)
    expect(run).toHaveBeenCalledTimes(2)
    screen.leave()
    listener.leave()
  })

  it('are switched off as far as they are single characters', () => {
    const run = vi.fn()
    const listener = used(useKeyListener)
    const keys = ['x', 'ArrowDown'].map((key) => ({ key, does: key, run: () => run(key) as void }))
    const screen = used(() => useKeys('Weigh', keys))
    singleKeys.value = false
    press('x')
    press('ArrowDown')
    expect(run.mock.calls).toEqual([['ArrowDown']])
    screen.leave()
    listener.leave()
  })

  it('are shown as they are printed', () => {
    expect(['ArrowDown', 'Escape', 'Enter', 'z'].map(printed)).toEqual(['↓', 'Esc', 'Enter', 'z'])
  })
})
