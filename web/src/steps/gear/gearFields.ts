// The fields of a thing as they are typed, and what of them is sent.
import { Problem, type Gear, type GearChange, type JobAmounts } from '@/api/client'
import { typedFacts, type TypedFacts } from '@/domain/facts'
import type { Need, Start } from '@/domain/kinds'
import { typedAmount, type Currency } from '@/quantities/money'

/** A thing's fields as they are typed. */
export interface Fields {
  name: string
  system: string
  status: Gear['status']
  acquired: Gear['acquired']
  weight: string
  claimed: string
  paid: string
  resale: string
  kept_at: string
  note: string
  tags: string
  nights: string
  lasts_nights: string
  provides: JobAmounts
  needs: JobAmounts
  facts: TypedFacts
  need: Need
  keep: boolean
  start: Start | ''
  marks: string[]
  made_hours: string
}
/** What the fields are called. */
export const NAMES: Record<keyof Fields, string> = {
  name: 'Name',
  system: 'System',
  status: 'Status',
  acquired: 'How I got it',
  weight: 'Weight of one',
  claimed: 'Maker’s figure',
  paid: 'Paid for one',
  resale: 'Worth now',
  kept_at: 'Kept at',
  note: 'Note',
  tags: 'Tags',
  nights: 'Nights of use',
  lasts_nights: 'Lasts, in nights',
  provides: 'What it does',
  needs: 'What it needs',
  facts: 'Warmth and gas',
  need: 'Need or want',
  keep: 'Keep',
  start: 'Starts on a list',
  marks: 'Marks',
  made_hours: 'Hours of making',
}

/** The fields of a thing, as they would be typed. */
export function fieldsOf(thing: Gear, currency: Currency): Fields {
  const price = (minor: number | null | undefined) => (minor == null ? '' : typedAmount(minor, currency))
  return {
    name: thing.name,
    system: thing.system,
    status: thing.status,
    acquired: thing.acquired,
    weight: thing.weight?.typed ?? '',
    claimed: thing.claimed?.typed ?? '',
    paid:
      thing.paid_low_minor === thing.paid_high_minor
        ? price(thing.paid_low_minor)
        : `${price(thing.paid_low_minor)}-${price(thing.paid_high_minor)}`,
    resale: price(thing.resale_minor),
    kept_at: thing.kept_at ?? '',
    note: thing.note ?? '',
    tags: (thing.tags ?? []).join(' '),
    nights: String(thing.nights),
    lasts_nights: thing.lasts_nights ? String(thing.lasts_nights) : '',
    provides: { ...thing.provides },
    needs: { ...thing.needs },
    facts: typedFacts(thing.facts),
    need: thing.need,
    keep: thing.keep,
    start: thing.start ?? '',
    marks: [...(thing.marks ?? [])],
    made_hours: thing.made_tenth_hours ? String(thing.made_tenth_hours / 10) : '',
  }
}

const orNull = (typed: string) => (typed.trim() === '' ? null : typed)
function nights(typed: string, field: string) {
  if (/^\d{1,6}$/.test(typed.trim())) return Number(typed)
  throw new Problem(422, 'not_a_number', `“${typed}” is not a number of nights. Type one such as 12.`, field)
}
/** What was changed, as it is sent. */
export function changeOf(before: Fields, now: Fields): GearChange {
  const change: GearChange = {}
  for (const key of Object.keys(now) as (keyof Fields)[]) {
    if (JSON.stringify(now[key]) === JSON.stringify(before[key])) continue
    if (key === 'nights') change.nights = nights(now.nights, key)
    else if (key === 'lasts_nights')
      change.lasts_nights = now[key].trim() === '' ? null : nights(now[key], key)
    else if (key === 'weight' || key === 'claimed' || key === 'paid' || key === 'resale')
      change[key] = orNull(now[key])
    else if (key === 'start') change.start = now.start || null
    else Object.assign(change, { [key]: now[key] })
  }
  return change
}
