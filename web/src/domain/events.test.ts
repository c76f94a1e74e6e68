import { describe, expect, it } from 'vitest'
import type { Entry, Event } from '@/api/client'
import { entryWords } from './events'

const metric = { tableText: (mg: number) => `${mg / 1000} g` }
const pounds = { tableText: (mg: number) => `${(mg / 28_349.5).toFixed(1)} oz` }
const said = (event: Event, turn: Entry['turn'] = 'done', units = metric) =>
  entryWords({ event, turn }, units)

describe('what the change log tells', () => {
  it('has its masses in the walker’s units', () => {
    const weighed: Event = { code: 'weighed', weighed: 'mug', mass_mg: 98_000 }
    expect(said(weighed)).toBe('mug weighed: 98 g.')
    expect(said(weighed, 'done', pounds)).toBe('mug weighed: 3.5 oz.')
    expect(said({ code: 'thing_reweighed', thing: 'pot', from_mg: null, to_mg: 200_000 })).toBe(
      'Weight of pot: unknown to 200 g.',
    )
  })

  it('says what was undone and done again', () => {
    expect(said({ code: 'swap_done', swap: 'tarp' }, 'undone')).toBe('Undone: tarp done.')
    expect(said({ code: 'sentence', text: 'Joined Coast.' }, 'done_again')).toBe('Done again: Joined Coast.')
  })

  it('lists fields and places as a sentence does', () => {
    expect(said({ code: 'thing_changed', thing: 'cup', fields: ['price', 'kept_at', 'tags'] })).toBe(
      'cup: price, where it is kept and tags changed.',
    )
    const pieces = [
      { place: 'carried', pieces: 2 },
      { place: 'left', pieces: 1 },
    ] as const
    expect(said({ code: 'line_changed', thing: 'socks', list: 'Coast', pieces: [...pieces] })).toBe(
      'socks on Coast: 2 on my back and 1 staying home.',
    )
    expect(said({ code: 'line_changed', thing: 'socks', list: 'Coast', pieces: [] })).toBe(
      'socks on Coast: no pieces.',
    )
    expect(said({ code: 'list_counted_by', list: 'Coast', way: 'all_on_the_back' })).toBe(
      'List Coast counted another way: All on the back.',
    )
    expect(
      said({ code: 'thing_judged', thing: 'quilt', trip: 'Fells', used: true, marks: ['too_cold'] }),
    ).toBe('quilt on Fells: used, too cold.')
  })
})
