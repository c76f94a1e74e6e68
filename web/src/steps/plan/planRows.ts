import type { PlanAnswer } from '@/api/client'
import type { Rows } from '@/controls/rows'
import { TARGETS } from '@/domain/targetOf'
import type { Units } from '@/domain/units'
import { bareMass } from '@/quantities/mass'
import { typedAmount } from '@/quantities/money'

const heads = ({ list }: PlanAnswer, units: Units) => {
  const mass = units.system.value === 'metric' ? 'g' : 'oz'
  return { of: TARGETS[list.terms.target_of].choice.toLowerCase(), mass, money: units.currency.value.code }
}
const names = ({ swaps }: PlanAnswer, of: number[]) => of.map((at) => swaps[at]!.name).join('; ')

/** The descent as rows: each plan that no other beats, the cheapest first, with its swaps. */
export function descentRows(answer: PlanAnswer, units: Units): Rows {
  const { of, mass, money } = heads(answer, units)
  const point = ({ net_minor, base_mg, swaps }: PlanAnswer['frontier'][number]) => [
    typedAmount(net_minor, units.currency.value),
    bareMass(base_mg, units.system.value),
    swaps.length,
    names(answer, swaps),
  ]
  return [[`costs (${money})`, `${of} (${mass})`, 'swaps', 'which'], ...answer.frontier.map(point)]
}

/** A swap of the plan in its place. */
export interface Bought {
  swap: { name: string }
  saving: number | null
  net: number
  base: number | null
  when: string | null
}

/** The plan as rows, in buying order. */
export function chosenRows(answer: PlanAnswer, bought: Bought[], units: Units): Rows {
  const { of, mass, money } = heads(answer, units)
  const row = ({ swap, saving, net, base, when }: Bought, at: number) => [
    at + 1,
    swap.name,
    bareMass(saving, units.system.value),
    typedAmount(net, units.currency.value),
    bareMass(base, units.system.value),
    when,
  ]
  const head = ['order', 'swap', `saves (${mass})`, `costs (${money})`, `${of} after (${mass})`, 'when']
  return [head, ...bought.map(row)]
}
