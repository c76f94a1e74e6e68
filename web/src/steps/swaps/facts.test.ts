import { describe, expect, it } from 'vitest'
import type { ListLine, Swap } from '@/api/client'
import { doubtOf, factsOf, neededByOf } from './facts'

const shown = {
  table: (mg: number) => `${mg / 1000} g`,
  money: (minor: number) => `${minor / 100} €`,
  measures: 'metric' as const,
}
const weight = (mg: number, source: string) => ({ unit_mg: mg, typed: '', source })
const lines = [
  {
    id: 'l1',
    gear: {
      name: 'bag',
      weight: weight(1_120_000, 'weighed'),
      facts: { rating: { kind: 'comfort', tenth_c: 40 } },
      provides: { sleep_insulation: 1 },
    },
  },
  { id: 'l2', gear: { name: 'pad', weight: null, provides: { ground_insulation: 21 } } },
] as unknown as ListLine[]
const swap = (some: Partial<Swap>) =>
  ({
    remove: [],
    add: [],
    delivery_minor: 0,
    resale_minor: 0,
    brings_minor: 0,
    tenth_hours: 0,
    ...some,
  }) as unknown as Swap
const on = (candidate: object, qty = 1) => ({
  candidate: { provides: {}, ...candidate },
  qty,
  place: 'carried',
})

describe('who needs what comes off', () => {
  it.each([
    [[], ''],
    [['Winter'], 'Winter needs the old one too'],
    [['Alps', 'Fells', 'Winter'], 'Alps, Fells and Winter need the old one too'],
  ])('%j', (needed_by, words) => {
    expect(neededByOf({ needed_by })).toBe(words)
  })
})

describe('a swap fact by fact', () => {
  it('sets what comes off beside what goes on, and says which is better', () => {
    const quilt = {
      name: 'quilt',
      weight: weight(575_000, 'maker'),
      facts: { rating: { kind: 'comfort', tenth_c: -20 } },
      price_low_minor: 24_900,
      price_high_minor: 27_500,
    }
    const facts = factsOf(
      swap({
        remove: [{ line: 'l1', qty: 1, from: 'carried' }],
        add: [on(quilt)],
        resale_minor: 9_000,
        brings_minor: 7_600,
      } as never),
      lines,
      shown,
    )
    expect(facts.map(({ name, now, then, better }) => [name, now, then, better])).toEqual([
      ['What it is', 'bag', 'quilt', undefined],
      ['Weight', '1120 g', '575 g', 'then'],
      ['Weight from', 'weighed', 'maker’s', undefined],
      ['Rated', '4 °C comfort', '−2 °C comfort', undefined],
      ['Price', '–', '249 € to 275 €', undefined],
      ['Resale', '90 €, 76 € of it kept', '–', undefined],
    ])
  })

  it('leaves open what nobody knows, and adds up pieces', () => {
    const two = { name: 'foam', weight: weight(100_000, 'maker'), provides: { ground_insulation: 14 } }
    const facts = factsOf(
      swap({
        remove: [{ line: 'l2', qty: 1, from: 'carried' }],
        add: [on(two, 2)],
        tenth_hours: 25,
      } as never),
      lines,
      shown,
    )
    expect(facts.map(({ name, now, then, better }) => [name, now, then, better])).toEqual([
      ['What it is', 'pad', 'foam × 2', undefined],
      ['Weight', '?', '200 g', undefined],
      ['Weight from', '–', 'maker’s', undefined],
      ['R', '2.1', '2.8', 'then'],
      ['Price', '–', '? each', undefined],
      ['Making', '–', '2.5 h', undefined],
    ])
  })
})

describe('the doubt of what is saved', () => {
  it.each([
    [
      913_000,
      865_000,
      909_000,
      'That is as stated; going by makers’ figures that you have weighed, it saves 865 g to 909 g.',
    ],
    [900_000, 865_000, 909_000, 'It saves 865 g to 909 g as far as the weights are known.'],
    [900_000, 900_000, 900_000, ''],
    [900_000, null, null, ''],
  ])('%j between %j and %j', (saving_mg, saving_low_mg, saving_high_mg, words) => {
    expect(doubtOf({ saving_mg, saving_low_mg, saving_high_mg }, shown.table)).toBe(words)
  })
})
