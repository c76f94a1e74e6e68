import { describe, expect, it } from 'vitest'
import type { Job, ListLine, Swap } from '@/api/client'
import { blankAddition, draftOf, lostJobs, sentOf } from './swapDraft'

const euro = { code: 'EUR', decimals: 2 }
const swap: Swap = {
  id: 's',
  version: 3,
  list: 'l',
  name: 'Sewn quilt',
  kind: 'make',
  state: 'pinned',
  remove: [{ line: 'bag', qty: 1, from: 'carried' }],
  add: [
    {
      candidate: {
        id: 'c',
        version: 2,
        name: 'Quilt',
        weight: { unit_mg: 411_068, typed: '14.5 oz', source: 'estimate' },
        price_low_minor: 24_900,
        price_high_minor: 27_550,
        provides: { sleep_insulation: 1 },
        needs: {},
      },
      qty: 1,
      place: 'carried',
    },
  ],
  delivery_minor: 490,
  resale_minor: 0,
  sells_needed: false,
  needed_by: [],
  brings_minor: 0,
  tenth_hours: 85,
  requires: ['other'],
  excludes: [],
}

describe('a swap in the drawer', () => {
  it('has its figures as they were typed', () => {
    const draft = draftOf(swap, euro)
    expect(draft).toMatchObject({
      name: 'Sewn quilt',
      kind: 'make',
      state: 'pinned',
      delivery: '4.90',
      resale: '',
      hours: '8.5',
    })
    expect(draft.add[0]).toMatchObject({
      weight: '14.5 oz',
      source: 'estimate',
      price: '249-275.50',
      candidate: 'c',
    })
    expect(sentOf(draft).add![0]!.candidate).toEqual({ id: 'c', version: 2 })
    expect(draft.requires).toEqual(['other'])
  })

  it('leaves unknown figures empty', () => {
    const candidate = {
      ...swap.add[0]!.candidate,
      weight: null,
      price_low_minor: null,
      price_high_minor: null,
    }
    const draft = draftOf({ ...swap, add: [{ ...swap.add[0]!, candidate }] }, euro)
    expect(draft.add[0]).toMatchObject({ weight: '', price: '' })
  })

  it('is a copy: changing it leaves the swap as it is', () => {
    const draft = draftOf(swap, euro)
    draft.remove[0]!.qty = 9
    draft.add[0]!.provides['sleep_insulation'] = 9
    draft.requires.push('another')
    expect(swap.remove[0]!.qty).toBe(1)
    expect(swap.add[0]!.candidate.provides['sleep_insulation']).toBe(1)
    expect(swap.requires).toEqual(['other'])
  })

  it('starts with one thing to put on when it is new', () => {
    const draft = draftOf(null, euro)
    expect(draft).toMatchObject({ name: '', kind: 'replace', state: 'open', remove: [] })
    expect(draft.add).toHaveLength(1)
  })
})

describe('a safety job that what comes off does', () => {
  const known = [
    { key: 'light', name: 'light', safety: true },
    { key: 'spare_light', name: 'spare light', safety: true },
    { key: 'sitting', name: 'sitting', safety: false },
  ] as Job[]
  const lines = [
    { id: 'lamp', gear: { provides: { light: 1, sitting: 1 } } },
    { id: 'spare', gear: { provides: { spare_light: 1 } } },
  ] as unknown as ListLine[]
  const draft = { ...draftOf(null, euro), remove: [{ line: 'lamp', qty: 1, from: 'carried' as const }] }
  const light = { ...blankAddition(), provides: { light: 1 } }

  it('is lost where nothing new does it', () => {
    expect(lostJobs(draft, lines, known)).toEqual(['light'])
    expect(lostJobs({ ...draft, add: [light] }, lines, known)).toEqual([])
    expect(lostJobs({ ...draft, add: [{ ...light, provides: { light: 0 } }] }, lines, known)).toEqual([
      'light',
    ])
    const both = [...draft.remove, { line: 'spare', qty: 1, from: 'carried' as const }]
    expect(lostJobs({ ...draft, remove: both, add: [light] }, lines, known)).toEqual(['spare light'])
  })

  it('is lost by leaving out, whatever was typed before as new, and never by adding', () => {
    expect(lostJobs({ ...draft, kind: 'leave_out', add: [light] }, lines, known)).toEqual(['light'])
    expect(lostJobs({ ...draft, kind: 'add' }, lines, known)).toEqual([])
  })
})
