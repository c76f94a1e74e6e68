import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Problem, type FrontierPoint } from '@/api/client'
import { step, vGrid } from '@/controls/grid'
import { useMessages } from '@/controls/messages'
import { readFrontier } from '@/domain/question'
import { answered, mounted, textOf } from '@/tests/mounted'
import Beam from './Beam.vue'

describe('a plan read off the frontier while a line is dragged', () => {
  const point = (net_minor: number, base_mg: number, ...swaps: number[]): FrontierPoint => ({
    net_minor,
    base_mg,
    swaps,
  })
  const frontier = [
    point(-500, 9_000, 0),
    point(0, 8_500, 0, 1),
    point(10_000, 7_000, 0, 2),
    point(40_000, 6_000, 0, 1, 2),
  ]

  it('is the cheapest point at the target, if the money is there', () => {
    const plan = readFrontier(frontier, 7_000, 10_000)
    expect(plan).toMatchObject({
      outcome: 'target_met',
      net_minor: 10_000,
      base_mg: 7_000,
      short_by_mg: 0,
      swaps: [0, 2],
    })
    expect(readFrontier(frontier, 7_500, 99_999)).toMatchObject({ outcome: 'target_met', net_minor: 10_000 })
  })

  it('is the lightest within the money otherwise, and says what is missing', () => {
    const plan = readFrontier(frontier, 6_500, 12_000)
    expect(plan).toMatchObject({
      outcome: 'over_budget',
      net_minor: 10_000,
      short_by_mg: 500,
      more_minor: 28_000,
      lightest_mg: null,
    })
  })

  it('says how light the swaps go when none reaches the target', () => {
    const plan = readFrontier(frontier, 5_000, 0)
    expect(plan).toMatchObject({
      outcome: 'out_of_reach',
      net_minor: 0,
      short_by_mg: 3_500,
      lightest_mg: 6_000,
    })
  })

  it('is none when even the cheapest costs more than there is', () => {
    expect(readFrontier(frontier, 7_000, -600)).toMatchObject({
      outcome: 'unaffordable',
      hasPlan: false,
      more_minor: 100,
    })
    expect(readFrontier([], 7_000, 100)).toBeNull()
    // What is known in part says nothing of the rest.
    expect(readFrontier(frontier, 5_000, 0, false)).toMatchObject({ outcome: 'unresolved', net_minor: 0 })
    expect(readFrontier(frontier, 7_000, -600, false)).toMatchObject({ outcome: 'unresolved' })
  })
})

describe('a table walked with arrows', () => {
  const cell = (id: string) => document.getElementById(id)!
  const press = (key: string) => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })
    document.activeElement!.dispatchEvent(event)
    return event
  }

  beforeEach(() => {
    const td = (id: string) => `<td><button id="${id}" data-cell>${id}</button></td>`
    document.body.innerHTML = `<table><tr><th>head</th></tr><tr>${td('a1')}${td('a2')}</tr>
      <tr><th colspan="2">section</th></tr><tr>${td('b1')}</tr></table>`
    ;(vGrid as { mounted: (grid: HTMLElement) => void }).mounted(document.querySelector('table')!)
    cell('a2').focus()
  })

  it('passes heads by and stops at the edges', () => {
    press('ArrowDown')
    expect(document.activeElement).toBe(cell('b1'))
    press('ArrowDown')
    press('ArrowRight')
    expect(document.activeElement).toBe(cell('b1'))
    press('ArrowUp')
    press('ArrowLeft')
    press('ArrowUp')
    expect(document.activeElement).toBe(cell('a1'))
  })

  it('is one stop of the Tab key, where it was left', () => {
    const stops = () => [...document.querySelectorAll<HTMLElement>('[data-cell]')].map((at) => at.tabIndex)
    expect(stops()).toEqual([-1, 0, -1])
    press('ArrowDown')
    expect(stops()).toEqual([-1, -1, 0])
    press('Home')
    press('PageUp')
    expect(stops()).toEqual([0, -1, -1])
  })

  it('leaves other keys alone', () => {
    expect(press('x').defaultPrevented).toBe(false)
    expect(document.activeElement).toBe(cell('a2'))
    step(cell('a2'), 0, -1)
    expect(document.activeElement).toBe(cell('a1'))
  })
})

describe('messages', () => {
  it('are undone newest first, done again, and say when that fails', async () => {
    const { messages, done, undoLast, redoLast, drop } = useMessages()
    const [did, texts] = [[] as string[], () => messages.value.map(({ text }) => text)]
    const clear = () => [...messages.value].forEach(({ id }) => drop(id))
    const takenBack = (what: string) => () => {
      did.push(`undo ${what}`)
      return Promise.resolve(() => Promise.resolve(did.push(`redo ${what}`)))
    }
    done('Mug removed.', takenBack('mug'))
    done('Tent removed.', takenBack('tent'))
    await undoLast()
    await undoLast()
    await redoLast()
    expect(did).toEqual(['undo tent', 'undo mug', 'redo mug'])
    expect(texts()).toEqual(['Undone: Tent removed.', 'Undone: Mug removed.', 'Done again: Mug removed.'])
    // What is done anew ends what could be done again.
    done('Pot removed.', takenBack('pot'))
    await redoLast()
    expect(texts().at(-1)).toBe('There is nothing to do again.')
    await undoLast()
    await undoLast()
    expect(texts().at(-1)).toContain('nothing to undo')
    clear()

    done('Lamp removed.', () => Promise.reject(new Error('It was changed somewhere else.')))
    await undoLast()
    expect(messages.value.map(({ kind, text }) => [kind, text])).toEqual([
      ['caution', 'Not undone: Lamp removed. It was changed somewhere else.'],
    ])
    clear()
    // Without an answer nobody knows: it can be tried again.
    const undo = vi.fn(() => Promise.reject(new Problem(0, 'unreachable', 'No network.')))
    done('Cup removed.', undo)
    await undoLast()
    await undoLast()
    expect(undo).toHaveBeenCalledTimes(2)
    clear()
    expect(messages.value).toEqual([])
  })
})

describe('the beam', () => {
  const list = { id: 'l', name: 'Mesa loop', target_mg: 6_350_293, budget_minor: 45_000, terms: { meet: [] } }
  const plan = { outcome: 'target_met', swaps: [], net_minor: 0, base_mg: 6_300_000, short_by_mg: 0 }
  const answer = {
    list,
    aim_mg: 10_489_319,
    unknown: 0,
    frontier: [],
    swaps: [],
    plan,
    spent_minor: 0,
    revision: 1,
  }
  const beam = async (width: number) => {
    vi.stubGlobal('innerWidth', width)
    vi.spyOn(api, 'GET').mockImplementation(((path: string) =>
      Promise.resolve(
        answered(path === '/api/lists' ? [list] : path.endsWith('/plan') ? answer : { near_misses: [] }),
      )) as never)
    const shown = mounted(Beam, { list: 'l' }, 'pounds_and_ounces')
    await flushPromises()
    return shown.findAll('.stack, .editable').map(textOf)
  }
  afterEach(() => {
    vi.unstubAllGlobals()
    vi.restoreAllMocks()
  })

  it('has pounds and ounces on one line, and their captions under them', async () => {
    const [now, planned, target] = await beam(1_280)
    expect(now).toBe('23 lb 2.0 oz now')
    expect(planned).toBe('13 lb 14.2 ozplanned')
    expect(target).toBe('target14 lb 0.0 oz target')
  })

  it('has decimal pounds on a phone, where there is no room for both', async () => {
    const [now, planned] = await beam(390)
    expect(now).toBe('23.12lb now')
    expect(planned).toBe('13.89planned')
  })
})
