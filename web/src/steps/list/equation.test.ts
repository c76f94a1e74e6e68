import { describe, expect, it } from 'vitest'
import type { Sheet, SheetLine } from '@/api/client'
import { blocks, carriedAfter, differences, moved, spans } from './equation'

const line = (id: string, unit: number | null, counts: Partial<SheetLine>, walker = 0) =>
  ({
    id,
    name: id,
    system: 'other',
    walker,
    carried: 0,
    worn: 0,
    used_up: 0,
    apart: 0,
    left: 0,
    weight: unit === null ? null : { unit_mg: unit, typed: '', source: 'weighed' },
    ...counts,
  }) as SheetLine

const sheet = {
  me: 0,
  totals: { base_mg: 1_500, pack_mg: 1_800, everything_mg: 1_900, apart_mg: 0, unknown: 1 },
  lines: [
    line('mug', 100, { carried: 1 }),
    line('socks', 100, { carried: 2, worn: 1 }),
    line('tent', 1_200, { carried: 1 }),
    line('gas', 300, { used_up: 1 }),
    line('pouch', null, { carried: 1 }),
    line('hers', 5_000, { carried: 1 }, 1),
  ],
} as unknown as Sheet

describe('the equation', () => {
  it('stands heaviest first, what nobody has weighed at the end, or as the list has it', () => {
    const names = (order: 'heaviest' | 'system') =>
      blocks(sheet.lines.slice(0, 5), 'carried', order).map((block) => `${block.line.name} ${block.mg}`)
    expect(names('heaviest')).toEqual(['tent 1200', 'socks 200', 'mug 100', 'pouch null'])
    expect(names('system')).toEqual(['mug 100', 'socks 200', 'tent 1200', 'pouch null'])
  })

  it('moves pieces and the sums with them', () => {
    const one = moved(sheet, 'socks', 'carried', 'worn', 1)
    expect(one.lines[1]).toMatchObject({ carried: 1, worn: 2 })
    expect(one.totals).toMatchObject({ base_mg: 1_400, pack_mg: 1_700, everything_mg: 1_900 })
    const home = moved(sheet, 'tent', 'carried', 'left', 1)
    expect(home.totals).toMatchObject({ base_mg: 300, pack_mg: 600, everything_mg: 700 })
    expect(moved(sheet, 'gas', 'used_up', 'apart', 1).totals).toMatchObject({
      base_mg: 1_500,
      pack_mg: 1_500,
      apart_mg: 300,
    })
    // What another carries is in no sum of mine; what weighs nothing known moves all the same.
    expect(moved(sheet, 'hers', 'carried', 'left', 1).totals).toEqual(sheet.totals)
    expect(moved(sheet, 'pouch', 'carried', 'worn', 1).lines[4]).toMatchObject({ carried: 0, worn: 1 })
  })

  it('names what differs from another list, the largest difference first', () => {
    const here = spans(sheet.lines, 0)
    expect(here.map((span) => span.name)).toEqual(['mug', 'socks × 2', 'tent'])
    const there = spans(
      [
        line('mug', 60, { carried: 1 }),
        line('socks', 100, { carried: 2 }),
        line('tarp', 400, { carried: 1 }),
      ],
      0,
    )
    expect(differences(here, there)).toEqual([
      { name: 'tent', here: 1_200, there: null },
      { name: 'tarp', here: null, there: 400 },
      { name: 'mug', here: 100, there: 60 },
    ])
  })

  it('lays out what is carried after a plan, as the server says it', () => {
    const carried = [
      { id: 'a', name: 'mug', system: 'kitchen', pieces: 1, mg: 100 },
      { id: 'c', name: 'socks', system: 'clothing', pieces: 2, mg: 200 },
      { id: 'u', name: 'tarp', system: 'shelter', pieces: 1, mg: null },
    ]
    expect(carriedAfter({ carried }).map((span) => `${span.name} ${span.mg}`)).toEqual([
      'mug 100',
      'socks × 2 200',
    ])
  })
})
