import { describe, expect, it } from 'vitest'
import type { Lessons, ThingLesson } from '@/api/client'
import { hint, lessonsOf, ownRates } from './lessons'

const units = {
  tableText: (mg: number) => `${mg / 1000} g`,
  measures: { value: 'metric' as const },
}
const thing = (gear: string, name: string, changes: Partial<ThingLesson> = {}): ThingLesson => ({
  gear,
  name,
  system: 'other',
  used_on: [],
  unused_on: [],
  marks: [],
  never_used: null,
  nights: 0,
  cost_per_night_minor: null,
  slept: null,
  ...changes,
})
const lessons: Lessons = {
  trips: [],
  things: [
    thing('g1', 'Gloves', { marks: [{ mark: 'too_cold', on: ['t1'] }] }),
    thing('g2', 'Chair', { never_used: 3, unused_on: ['t1', 't2', 't3'] }),
    thing('g3', 'Pillow', { marks: [{ mark: 'wished', on: ['t2'] }] }),
    thing('g4', 'Quilt', {
      marks: [{ mark: 'too_cold', on: ['t2'] }],
      slept: {
        comfort_tenth_c: 40,
        comfortable: { tenth_c: 90, trip: 't1' },
        uncomfortable: { tenth_c: -20, trip: 't2' },
      },
    }),
  ],
  wished: [
    { name: 'Mitts', on: ['t1'], is_seen_to: false },
    { name: 'Hood', on: ['t1'], is_seen_to: true },
  ],
  sleeper: {
    more_than: { tenth_c: -20, trip: 't2' },
    at_most: { tenth_c: 50, trip: 't1' },
    estimate_tenth_c: 15,
    is_contradicted: false,
  },
  rates: {
    gas_mg_per_l: { median: 11_250, of: [{ trip: 't1', value: 11_250 }] },
    power_mwh_per_day: { median: 6_200, of: [{ trip: 't1', value: 6_200 }] },
    water_ml_per_hour: {
      median: 446,
      of: [
        { trip: 't1', value: 426 },
        { trip: 't2', value: 467 },
      ],
    },
  },
  silenced: [],
}

describe('what trips teach', () => {
  it('stands with what can be acted on first, each with its trips', () => {
    const told = lessonsOf(lessons, 0, units)
    expect(told.map(({ title, act }) => [title, act?.kind])).toEqual([
      ['Leave out Chair', 'leave_out'],
      ['Missed: Pillow', 'bring'],
      ['Wished for: Mitts', 'wish'],
      ['How cold you sleep: +1.5 °C on a rating', 'offset'],
      ['Too cold: Gloves', undefined],
      ['Cold nights: Quilt', undefined],
    ])
    expect(told[0]).toMatchObject({ why: 'Carried on 3 trips and never used.', on: ['t1', 't2', 't3'] })
    expect(told[3]!.why).toBe(
      'By your nights: too cold 2 °C below comfort, warm enough 5 °C above comfort. Set is 0 °C.',
    )
    expect(told[5]!.why).toBe('Comfort is rated 4 °C; warm enough at 9 °C; too cold at −2 °C.')
  })

  it('is not said again where it is silenced, or set already', () => {
    const silenced = ['unused g2', 'wished mitts', 'slept g4']
    const told = lessonsOf({ ...lessons, silenced }, 15, units)
    expect(told.map(({ key }) => key)).toEqual(['missed g3', 'cold g1'])
  })

  it('stands beside a thing in a few words, and what was missed is no unused thing', () => {
    expect(lessons.things.map(hint)).toEqual(['', 'not used on 3 trips', 'missed on 1 trip', ''])
  })

  it('has rates that can be typed into a trip', () => {
    expect(
      ownRates(lessons, units).map(({ name, figure, typed, shown, median, trips }) => [
        name,
        figure,
        typed(median),
        shown(median),
        trips,
      ]),
    ).toEqual([
      ['Gas that boils a litre', 'gas_per_litre', '11.3 g', '11.25 g', 1],
      ['Water an hour', 'water_per_hour', '446 ml', '0.45 l', 2],
      ['Power a day, out of the bank', 'power_per_day', '6.2 Wh', '6.2 Wh', 1],
    ])
  })
})
