import type { PlanAnswer } from '@/api/client'
import type { ShownPlan } from '@/domain/question'
import { TARGETS } from '@/domain/targetOf'
import { listed } from '@/quantities/count'

/** Figures in the account's units. */
export interface Units {
  tableText: (mg: number) => string
  totalText: (mg: number) => string
  moneyText: (minor: number) => string
}

/** How jobs, and what is to be met, are called. */
interface Names {
  job: (key: string) => string
  meet: (key: string) => string
}
const plainly = (key: string) => key.replaceAll('_', ' ')

/** The outcome in words with its figures: what the plan does, and how sure that is. */
export function outcomeWords(
  answer: PlanAnswer,
  plan: ShownPlan,
  { target, budget }: { target: number | null; budget: number | null },
  units: Units,
  nameOf: Names = { job: plainly, meet: plainly },
) {
  const { gap_mg, gap_minor } = answer.plan
  const unproved =
    gap_mg == null
      ? null
      : `Not proved: the search was stopped. The best may be up to ${units.tableText(gap_mg)} lighter or ${units.moneyText(gap_minor ?? 0)} cheaper.`
  const down = `Down to ${units.totalText(plan.base_mg)} for ${units.moneyText(plan.net_minor)}`
  switch (plan.outcome) {
    case 'already_met':
      if (target === null)
        return { title: 'What do I buy?', note: 'Set a target at the top to have something to plan for.' }
      return {
        title: 'Already there',
        note: `The ${TARGETS[answer.list.terms.target_of].name} is ${units.totalText(plan.base_mg)}, at or under the target. Nothing needs changing.`,
      }
    case 'target_met':
      return {
        title: down,
        note:
          unproved ??
          'The cheapest set that reaches the target. No other set of these swaps does it for less: proved.',
      }
    case 'over_budget':
      return {
        title: down,
        note:
          unproved ??
          `${units.tableText(plan.short_by_mg)} short of the target. The lightest set within ${units.moneyText(budget ?? 0)}: proved. The target takes ${units.moneyText(plan.more_minor ?? 0)} more.`,
      }
    case 'out_of_reach':
      return {
        title: target === null ? `As light as the money allows: ${units.totalText(plan.base_mg)}` : down,
        note:
          unproved ??
          (target === null
            ? 'Set a target at the top, and the plan becomes the cheapest way to reach it.'
            : `${units.tableText(plan.short_by_mg)} short. At any price, these swaps go down to ${units.totalText(plan.lightest_mg ?? plan.base_mg)}: proved.`),
      }
    case 'pins_clash': {
      const names = listed(answer.plan.pins.map((at) => answer.swaps[at]?.name ?? ''))
      const { least_minor: least, lost_job: job } = answer.plan
      const lost = job == null ? '' : ` They would leave less of “${nameOf.job(job)}” than there is now.`
      return {
        title: 'The pinned swaps clash',
        note:
          least == null
            ? `They can't all be made: ${names}.${lost} Unpin one.`
            : `A set with ${names} costs at least ${units.moneyText(least)}, more than the budget. Unpin one, or raise the budget.`,
      }
    }
    case 'unmet':
      return {
        title: 'These swaps can’t meet it all',
        note: `No set of them leaves nothing short of: ${listed(answer.plan.unmet.map(nameOf.meet))}. Untick some under “Also meet”, or add a swap that helps.`,
      }
    case 'too_dear':
      return {
        title: 'What is to be met costs more than there is',
        note: `The cheapest set that meets it all takes ${units.moneyText(plan.more_minor ?? 0)} more than the budget. Untick some under “Also meet”, or raise the budget.`,
      }
    case 'unaffordable':
      return {
        title: 'Nothing fits this budget',
        note: `The cheapest set costs ${units.moneyText(plan.more_minor ?? 0)} more.`,
      }
    default:
      if (plan.hasPlan)
        return {
          title: target === null ? `As light as the money allows: ${units.totalText(plan.base_mg)}` : down,
          note:
            unproved ??
            (target === null
              ? 'The lightest set within the money: proved. What else there is was not searched to its end.'
              : `${units.tableText(plan.short_by_mg)} short. Whether the target can be reached is not known: the search was stopped.`),
        }
      return {
        title: 'No plan yet',
        note: 'The search was stopped before it found an allowed set. Rule some swaps out, and it has less to search.',
      }
  }
}
