import type { Gear } from '@/api/client'
import type { Rows } from '@/controls/rows'
import type { Units } from '@/domain/units'
import { bareMass } from '@/quantities/mass'
import { typedAmount } from '@/quantities/money'
import { sourceName } from './gear'

/** What is shown of the inventory as rows. */
export function gearRows(systems: { name: string; things: Gear[] }[], { system, currency }: Units): Rows {
  const unit = system.value === 'metric' ? 'g' : 'oz'
  const money = (minor: number | null | undefined) =>
    minor == null ? '' : typedAmount(minor, currency.value)
  const head = [
    'system',
    'name',
    'count',
    `each (${unit})`,
    'source',
    'paid low',
    'paid high',
    'worth now',
    'nights',
  ]
  const row = (of: string, thing: Gear) => [
    of,
    thing.name,
    thing.count,
    bareMass(thing.weight?.unit_mg, system.value),
    sourceName(thing),
    money(thing.paid_low_minor),
    money(thing.paid_high_minor),
    money(thing.resale_minor),
    thing.nights,
  ]
  return [head, ...systems.flatMap(({ name, things }) => things.map((thing) => row(name, thing)))]
}
