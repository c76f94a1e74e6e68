import { describe, expect, it } from 'vitest'
import type { Packing } from '@/api/client'
import { mounted } from '@/tests/mounted'
import { beside, byZone, notesBefore, progress, reordered } from './packing'
import { doneAs, written, readingWords, tasks } from './words'
import ZoneBox from './ZoneBox.vue'

const thing = (line: string, name: string, changes = {}) => ({
  line,
  name,
  pieces: 1,
  mass_mg: 100_000,
  zone: 'top' as const,
  proposed: true,
  is_in: false,
  ...changes,
})
const packing = {
  list: 'l',
  room_ml: 45_000,
  things: [
    thing('a', 'Messenger', { is_in: true }),
    thing('b', 'Bottle', { zone: 'left_side', pieces: 2, mass_mg: 80_000 }),
    thing('c', 'Pack', { zone: null }),
    thing('d', 'Stuff sacks', { mass_mg: null }),
  ],
  zones: [
    { zone: 'top', holds_ml: 4_500, is_own: false, ml: 5_000, unknown: 1, over: [3], things: [0, 3] },
    { zone: 'left_side', holds_ml: 1_000, is_own: false, ml: 0, unknown: 1, over: [], things: [1] },
  ],
  noted: [],
  forgotten: [],
  reading: '',
  of_me: '',
  to_do: [
    { task: 'charge', of: 0, amount: null },
    { task: 'fill', of: 1, amount: 1_500 },
    { task: 'buy', of: null, amount: 2_100_000 },
    { task: 'weigh', of: 3, amount: null },
    { task: 'on_the_way', of: null, amount: 50_000 },
  ],
  missing: [0],
  reconciled: null,
} as unknown as Packing
const units = {
  tableText: (mg: number) => `${mg / 1000} g`,
  totalText: (mg: number) => `${mg / 1e6} kg`,
  signed: (mg: number) => `${mg > 0 ? '+' : '−'}${Math.abs(mg) / 1000} g`,
}

describe('a list as it is packed', () => {
  it('stands zone by zone, with what is still to be done and what does not fit', () => {
    const placed = byZone(packing)
    expect(placed.get('top')!.map((one) => [one.thing.name, one.todo, one.over])).toEqual([
      ['Messenger', 'charge', false],
      ['Stuff sacks', 'weigh', true],
    ])
    expect(placed.get('left_side')!.map((one) => one.todo)).toEqual(['fill'])
    // The pack is not packed into itself; what nobody weighed weighs nothing here.
    expect(progress(packing)).toEqual({ all: 3, out: 2, outMg: 80_000 })
    expect([beside('top', 1), beside('top', -1), beside('on_me', 1)]).toEqual(['upper_body', 'on_me', 'top'])
    expect(reordered(['a', 'b', 'c'], 'a', 1)).toEqual(['b', 'a', 'c'])
    expect(reordered(['a', 'b', 'c'], 'c', 5)).toEqual(['a', 'b', 'c'])
  })

  it('says what is to be done before leaving, with amounts where they are known', () => {
    expect(tasks(packing, units, (ml) => `${ml / 1000} l`)).toEqual([
      { id: 'own charge', name: 'Charge', what: 'Messenger', done: false },
      { id: 'own fill', name: 'Fill', what: 'Bottle: 1.5 l in all', done: false },
      { id: 'own buy', name: 'Buy', what: 'food, 2.1 kg more', done: false },
      { id: 'own weigh', name: 'Weigh', what: 'Stuff sacks', done: false },
      {
        id: 'own on_the_way',
        name: 'On the way',
        what: 'gas, 0.05 kg more. Gas may not fly, nor go on every train',
        done: false,
      },
    ])
  })

  it('is done once it is ticked, until it is another task', () => {
    const all = (packing: Packing) => tasks(packing, units, (ml) => `${ml / 1000} l`)
    const [charge] = all(packing)
    const { to_do } = doneAs(charge!, true)
    const noted = Object.entries(to_do).map(([id, one]) => ({ id, task: 'other' as const, by: '', ...one }))
    const after = { ...packing, noted: [...packing.noted, ...noted] }
    expect(all(after).map(({ done }) => done)).toEqual([true, false, false, false, false])
    expect(written(after)).toEqual(packing.noted)
    const another = { ...after, things: after.things.map((thing) => ({ ...thing, name: `${thing.name} 2` })) }
    expect(all(another)[0]).toMatchObject({ what: 'Messenger 2', done: false })
  })

  it('says whether the doubt of the list explains a reading, and what says nothing of it is left out', () => {
    const found = {
      listed_mg: 5_000_000,
      listed: { total_mg: 5_000_000, unknown: 0, parts: [] },
      difference_mg: 130_000,
      likely: { low_mg: -60_000, high_mg: 210_000 },
      worst: { low_mg: -90_000, high_mg: 300_000 },
      explained: 'likely' as const,
      causes: [
        { of: 3, why: 'unknown' as const, could_be_mg: null },
        { of: 1, why: 'maker' as const, could_be_mg: 40_000 },
        { of: 0, why: 'weighed' as const, could_be_mg: 1_000 },
        { of: null, why: 'supplies' as const, could_be_mg: 300_000 },
      ],
    }
    const words = readingWords(found, packing, units)
    expect(words.verdict).toBe('The doubt of the list alone is −60 g to +210 g, so this can be right.')
    expect(words.causes).toEqual([
      { name: 'Stuff sacks', why: 'never weighed', could: '?' },
      { name: 'Bottle', why: 'the maker’s figure', could: 'up to 40 g' },
      { name: 'Food and water', why: 'as loaded', could: 'up to 300 g' },
    ])
    expect(readingWords({ ...found, explained: 'no' }, packing, units).verdict).toMatch(/does not explain it/)
  })

  it('is ticked by a click and moved by the arrows', async () => {
    const box = mounted(ZoneBox, {
      zone: packing.zones[0]!,
      placed: byZone(packing).get('top')!,
      mostMl: 4_500,
    })
    expect(box.find('h3').text()).toContain('at least 5 l of 4.5 l')
    const [messenger, sacks] = box.findAll('input')
    await sacks!.setValue(true)
    await messenger!.trigger('keydown', { key: 'ArrowRight' })
    await messenger!.trigger('keydown', { key: 'ArrowLeft' })
    await messenger!.trigger('keydown', { key: 'x' })
    await messenger!.trigger('keydown', { key: 'ArrowDown', shiftKey: true })
    box.findAllComponents({ name: 'ElDropdown' })[1]!.vm.$emit('command', 'bottom')
    box.findAllComponents({ name: 'ElDropdown' })[1]!.vm.$emit('command', -1)
    const said = (event: string) =>
      (box.emitted(event) as [{ name: string }, unknown][]).map(([one, what]) => [one.name, what])
    expect(said('tick')).toEqual([['Stuff sacks', true]])
    expect(said('shift')).toEqual([
      ['Messenger', 1],
      ['Stuff sacks', -1],
    ])
    expect(said('move')).toEqual([
      ['Messenger', 'upper_body'],
      ['Messenger', 'on_me'],
      ['Stuff sacks', 'bottom'],
    ])
  })
})

describe('what was noted before', () => {
  const noted = { id: 't1', task: 'buy', what: 'gas', by: 'Vesper', done: true }
  const own = { zone: 'top', holds_ml: 4_500, is_own: true }
  const before = { ...packing, reading: '13.4', noted: [noted], zones: [own, packing.zones[1]] } as Packing
  it('is what a change of it is undone by, field by field', () => {
    expect(notesBefore(before, { reading: '14', to_do: {} } as never)).toEqual({ reading: '13.4', to_do: {} })
    expect(notesBefore(before, { to_do: { t1: null, new: { what: 'wipes' } } } as never)).toEqual({
      to_do: { t1: { task: 'buy', what: 'gas', by: 'Vesper', done: true }, new: null },
    })
    // What a zone holds of itself is proposed again.
    expect(notesBefore(before, { zones: { top: '5 l', left_side: '1 l' } } as never)).toEqual({
      zones: { top: '4500 ml', left_side: null },
    })
  })
})
