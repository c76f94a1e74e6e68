import type { Year } from '@/api/client'
import { counted, countOf } from '@/quantities/count'

/** Figures in the account's units. */
export interface Written {
  tableText: (mg: number) => string
  moneyText: (minor: number) => string
  massNightsText: (mgNights: number) => string
}

export type YearList = Year['lists'][number]
export type YearSwap = Year['swaps'][number]

/** Lists with a target, and how many of them the plan brings to it. */
const reached = (lists: YearList[]) => {
  const aimed = lists.filter(({ base_target_mg }) => base_target_mg != null)
  return { aimed: aimed.length, met: aimed.filter(({ short_by_mg }) => short_by_mg === 0).length }
}

/** What the plan of the year comes to, and how sure that is. */
export function yearWords({ lists, plan, budget_minor: budget }: Year, units: Written) {
  const nights = lists.reduce((sum, list) => sum + list.nights, 0)
  const known = lists.some(({ unknown }) => unknown > 0) ? ' As far as weights are known.' : ''
  const over = `${counted(nights, 'night')} in the coming twelve months.${known}`
  const { aimed, met } = reached(lists)
  const stopped = 'Not proved: the search was stopped.'
  const money = units.moneyText(plan.net_minor)
  switch (plan.outcome) {
    case 'already_met':
      return {
        title: aimed === 1 ? 'The list is at its target' : `All ${aimed} targets are reached already`,
        note: `${over} Nothing needs buying.`,
      }
    case 'target_met':
      return {
        title: `${aimed === 1 ? 'The list reaches its target' : `All ${counted(aimed, 'target')} reached`} for ${money}`,
        note: `${over} ${plan.proved ? 'No other set does it for less: proved.' : stopped}`,
      }
    case 'over_budget':
    case 'out_of_reach': {
      if (!plan.has_target)
        return {
          title: `${units.massNightsText(plan.gram_nights_mg)} for ${money}`,
          note: `${over} No list has a target, so this is the least that ${budget == null ? 'any money' : 'the money'} makes of it${plan.proved ? ': proved' : ''}.`,
        }
      const more =
        plan.more_minor != null
          ? `All of them take ${units.moneyText(plan.more_minor)} more.`
          : 'At any price, these swaps don’t reach all of them.'
      return {
        title: `${met} of ${counted(aimed, 'target')} reached for ${money}`,
        note: `${over} ${more} ${plan.proved ? 'The most that the money takes off: proved.' : stopped}`,
      }
    }
    case 'pins_clash':
      return {
        title: 'The pinned swaps clash',
        note: 'They can’t all be made, or cost more than the budget. Unpin one, or raise the budget.',
      }
    default:
      return {
        title: 'Not found in time',
        note: `${over} The best set of these swaps isn’t known yet. Rule some out, and ask again.`,
      }
  }
}

export type YearHolding = Year['holdings'][number]

/** The swap that costs least in the place of something: of which list it is, what it is called, and what it takes off. */
export function instead({ swap }: NonNullable<YearHolding['swap']>, year: Year) {
  const of = year.swaps[swap]!
  const savings = of.savings_mg.filter((saving, at) => of.acts[at] && saving != null) as number[]
  return { list: of.swap.list, name: of.swap.name, saving_mg: savings.length ? Math.max(...savings) : 0 }
}

/** A typed share in per cent, as a whole number. */
export const percentOf = (typed: string) => {
  const percent = countOf(typed.replace('%', ''), 'a whole number from 0 to 100, such as 20')
  if (percent > 100) throw new Error(`"${typed}" is more than all of it. Type a whole number from 0 to 100.`)
  return percent
}
