import type { ListLine } from '@/api/client'
import type { Rows } from '@/controls/rows'
import type { Units } from '@/domain/units'
import { KINDS } from '@/domain/words'
import { bareMass } from '@/quantities/mass'
import { typedAmount } from '@/quantities/money'
import type { Row } from './swaps'

/** The ranking as rows: exact figures, the best first, those folded under another behind it. */
export function rankingRows(rows: Row[], lines: ListLine[], units: Units): Rows {
  const { system, currency } = units
  const mass = (mg: number | null | undefined) => bareMass(mg, system.value)
  const money = (minor: number | null | undefined) =>
    minor == null ? '' : typedAmount(minor, currency.value)
  const nameOf = (id: string) => lines.find((line) => line.id === id)?.gear.name ?? ''
  const unit = system.value === 'metric' ? 'g' : 'oz'
  const head = [
    'place',
    'swap',
    'kind',
    'instead of',
    `saves (${unit})`,
    `saves at least (${unit})`,
    `saves at most (${unit})`,
    `costs (${currency.value.code})`,
    'costs low',
    'costs high',
    'in the plan',
  ]
  const row = (row: Row) => [
    row.place,
    row.swap.name,
    KINDS[row.swap.kind],
    row.swap.remove.map(({ line }) => nameOf(line)).join(', '),
    mass(row.saving_mg),
    mass(row.saving_low_mg),
    mass(row.saving_high_mg),
    money(row.net_minor),
    money(row.net_low_minor),
    money(row.net_high_minor),
    row.inPlan ? 'yes' : '',
  ]
  return [head, ...rows.flatMap((one) => [one, ...one.folded]).map(row)]
}
