import type { Lessons, Mark, ThingLesson } from '@/api/client'
import { counted } from '@/quantities/count'
import { degrees, energy, temperature, volume, type Measures } from '@/quantities/measures'

/** What is said of a thing beside whether it was used: its name, and the key that says it. */
export const MARKS: Record<Mark, { name: string; key: string }> = {
  wished: { name: 'Wished for', key: 'w' },
  failed: { name: 'Failed', key: 'f' },
  too_cold: { name: 'Too cold', key: 'c' },
  too_heavy: { name: 'Too heavy', key: 'h' },
  lent: { name: 'Lent', key: 'l' },
  lost: { name: 'Lost', key: 'o' },
}
/** Of what came along. */
export const ALONG: Mark[] = ['failed', 'too_cold', 'too_heavy', 'lent', 'lost']

/** Figures in the account's units. */
export interface Units {
  tableText: (mg: number) => string
  measures: { value: Measures }
}

/** A lesson: what it says, the figure behind it, the trips, and what can be done about it. */
export interface Lesson {
  /** What it is silenced by. */
  key: string
  title: string
  why: string
  /** Trips behind it, by their ids. */
  on: string[]
  act?:
    | { kind: 'leave_out'; gear: string; name: string }
    | { kind: 'wish'; name: string }
    | { kind: 'bring'; gear: string; name: string }
    | { kind: 'offset'; tenthC: number }
}

export const onTrips = (many: number) => `on ${counted(many, 'trip')}`

/** What one thing teaches. */
function ofThing(thing: ThingLesson, units: Units): Lesson[] {
  const warm = (tenths: number) => temperature(tenths, units.measures.value)
  const lessons: Lesson[] = []
  const on = (mark: Mark) => thing.marks.find((one) => one.mark === mark)?.on ?? []
  if (thing.never_used != null)
    lessons.push({
      key: `unused ${thing.gear}`,
      title: `Leave out ${thing.name}`,
      why: `Carried ${onTrips(thing.never_used)} and never used.`,
      on: thing.unused_on,
      act: { kind: 'leave_out', gear: thing.gear, name: thing.name },
    })
  if (on('wished').length)
    lessons.push({
      key: `missed ${thing.gear}`,
      title: `Missed: ${thing.name}`,
      why: `Left at home and wished for ${onTrips(on('wished').length)}. It is not proposed for leaving out again.`,
      on: on('wished'),
      act: { kind: 'bring', gear: thing.gear, name: thing.name },
    })
  const { slept } = thing
  if (slept) {
    const parts = [
      slept.comfort_tenth_c != null
        ? `Comfort is rated ${warm(slept.comfort_tenth_c)}`
        : 'Its comfort is not rated',
      slept.comfortable && `warm enough at ${warm(slept.comfortable.tenth_c)}`,
      slept.uncomfortable && `too cold at ${warm(slept.uncomfortable.tenth_c)}`,
    ]
    lessons.push({
      key: `slept ${thing.gear}`,
      title: `${slept.uncomfortable ? 'Cold nights' : 'Warm nights'}: ${thing.name}`,
      why: `${parts.filter(Boolean).join('; ')}.`,
      on: [slept.comfortable, slept.uncomfortable].flatMap((night) => night?.trip ?? []),
    })
  }
  for (const [mark, says] of [
    ['failed', 'Failed'],
    ['too_heavy', 'Too heavy'],
    ['lost', 'Lost'],
  ] as const)
    if (on(mark).length)
      lessons.push({ key: `${mark} ${thing.gear}`, title: `${says}: ${thing.name}`, why: '', on: on(mark) })
  if (on('too_cold').length && !slept)
    lessons.push({
      key: `cold ${thing.gear}`,
      title: `Too cold: ${thing.name}`,
      why: '',
      on: on('too_cold'),
    })
  return lessons
}

/** What trips say of a thing in a few words, to stand beside it; nothing if it is nothing to act on. */
export function hint({ never_used: unused, marks }: ThingLesson): string {
  const missed = marks.find(({ mark }) => mark === 'wished')?.on.length ?? 0
  if (missed) return `missed ${onTrips(missed)}`
  return unused == null ? '' : `not used ${onTrips(unused)}`
}

/** A rate as it is set on a trip: what it is called, the figure as it can be typed, and as it is shown. */
export function ownRates({ rates }: Pick<Lessons, 'rates'>, units: Units) {
  const measures = units.measures.value
  const plain = (mg: number) => `${Number((mg / 1000).toFixed(1))} g`
  const all = [
    {
      key: 'gas',
      name: 'Gas that boils a litre',
      own: rates.gas_mg_per_l,
      figure: 'gas_per_litre',
      typed: plain,
      shown: units.tableText,
    },
    {
      key: 'food',
      name: 'Food a day',
      own: rates.food_mg_per_day,
      figure: 'food_per_day',
      typed: (mg: number) => `${Math.round(mg / 1000)} g`,
      shown: units.tableText,
    },
    {
      key: 'kcal',
      name: 'Energy a day',
      own: rates.kcal_per_day,
      figure: 'kcal_per_day',
      typed: String,
      shown: (kcal: number) => `${kcal} kcal`,
    },
    {
      key: 'water',
      name: 'Water an hour',
      own: rates.water_ml_per_hour,
      figure: 'water_per_hour',
      typed: (ml: number) => `${ml} ml`,
      shown: (ml: number) => volume(ml, measures),
    },
    {
      key: 'power',
      name: 'Power a day, out of the bank',
      own: rates.power_mwh_per_day,
      figure: 'power_per_day',
      typed: energy,
      shown: energy,
    },
  ]
  return all.flatMap(({ own, ...rate }) =>
    own ? [{ ...rate, median: own.median, trips: own.of.length, on: own.of.map(({ trip }) => trip) }] : [],
  )
}

/** What the trips teach, what leads to something first; those that were silenced are left out. */
export function lessonsOf(all: Lessons, offsetTenthC: number, units: Units): Lesson[] {
  const shift = (tenths: number) => `${tenths > 0 ? '+' : ''}${degrees(tenths, units.measures.value)}`
  const { sleeper } = all
  const lessons = all.things.flatMap((thing) => ofThing(thing, units))
  for (const wish of all.wished.filter((one) => !one.is_seen_to))
    lessons.push({
      key: `wished ${wish.name.toLowerCase()}`,
      title: `Wished for: ${wish.name}`,
      why: 'It is not owned yet.',
      on: wish.on,
      act: { kind: 'wish', name: wish.name },
    })
  const estimate = sleeper.estimate_tenth_c
  if (estimate != null && estimate !== offsetTenthC) {
    const from = (tenths: number) =>
      `${degrees(Math.abs(tenths), units.measures.value)} ${tenths < 0 ? 'below' : 'above'} comfort`
    const parts = [
      sleeper.more_than && `too cold ${from(sleeper.more_than.tenth_c)}`,
      sleeper.at_most && `warm enough ${from(sleeper.at_most.tenth_c)}`,
    ].filter(Boolean)
    lessons.push({
      key: 'offset',
      title: `How cold you sleep: ${shift(estimate)} on a rating`,
      why: `By your nights: ${parts.join(', ')}. Set is ${shift(offsetTenthC)}.${estimate < offsetTenthC ? ' With less, cautions of cold come later.' : ''}${sleeper.is_contradicted ? ' The nights contradict each other.' : ''}`,
      on: [sleeper.more_than, sleeper.at_most].flatMap((night) => night?.trip ?? []),
      act: { kind: 'offset', tenthC: estimate },
    })
  }
  // What can be acted on comes first.
  const ACTS = ['leave_out', 'bring', 'wish', 'offset']
  const rank = ({ act }: Lesson) => (act ? ACTS.indexOf(act.kind) : ACTS.length)
  return lessons
    .filter(({ key }) => !all.silenced.includes(key))
    .sort((one, other) => rank(one) - rank(other))
}
