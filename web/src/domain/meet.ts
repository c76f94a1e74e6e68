import type { PlanAnswer } from '@/api/client'
import { jobIn, jobName } from '@/quantities/jobs'
import { degrees, type Measures } from '@/quantities/measures'

/** Jobs by their keys, as far as their names and units are asked. */
type Jobs = Map<string, { name: string; unit: string }>

/** Something that the plan meets, or could. */
export interface Meeting {
  meet: string
  name: string
  /** By how much it is short today; empty where it is not. */
  short: string
  isAsked: boolean
  /** What the plan would cost that meets it; empty while that is not known. */
  cost: string
}

/** How money and masses are written. */
interface Written {
  money: (minor: number) => string
  mass: (mg: number) => string
}

function costText(
  { outcome, more_minor: more, heavier_mg: heavier, over_minor: over }: PlanAnswer['meet_costs'][number],
  { money, mass }: Written,
  isAlone: boolean,
): string {
  if (outcome === 'unmet') return isAlone ? 'no plan does it' : 'no plan does it beside what is ticked'
  if (over != null) return `${money(over)} over the budget`
  if (more == null) return ''
  const base = heavier ? `${mass(Math.abs(heavier))} ${heavier > 0 ? 'heavier' : 'lighter'}` : ''
  const price =
    more === 0 ? (base ? '' : 'costs nothing more') : `${more > 0 ? '+' : '−'}${money(Math.abs(more))}`
  return [price, base].filter(Boolean).join(', ')
}

/** What something that is to be met is called: `warmth`, `ground`, or a job. */
export function meetName(meet: string, jobs: Jobs): string {
  if (meet === 'warmth') return 'Warm enough at night'
  if (meet === 'ground') return 'Warm enough from below'
  const name = jobName(meet, jobs)
  return name.charAt(0).toUpperCase() + name.slice(1)
}

function shortText(
  { meet, short, hangs }: PlanAnswer['short'][number],
  jobs: Jobs,
  measures: Measures,
): string {
  if (short == null) return 'not rated'
  if (meet === 'warmth' || hangs) return `${degrees(short, measures).replace('+', '')} short`
  if (meet === 'ground') return `R ${(short / 10).toFixed(1)} short`
  const unit = jobs.get(meet)?.unit ?? 'count'
  if (unit === 'count') return short === 1 ? 'missing' : `${short} missing`
  return `${jobIn(meet, '', unit, short, measures).trim()} short`
}

/** What is short today, and what is asked to be met though it is not. */
export function meetings(
  { short, list, meet_costs: costs }: PlanAnswer,
  jobs: Jobs,
  measures: Measures,
  written: Written,
): Meeting[] {
  const asked = list.terms.meet
  const costOf = (meet: string) => {
    const cost = costs.find((one) => one.meet === meet)
    return cost && !asked.includes(meet) ? costText(cost, written, asked.length === 0) : ''
  }
  const found = short.map((one) => ({
    meet: one.meet,
    name: meetName(one.meet, jobs),
    short: shortText(one, jobs, measures),
    isAsked: asked.includes(one.meet),
    cost: costOf(one.meet),
  }))
  const others = asked.filter((meet) => !short.some((one) => one.meet === meet))
  return [
    ...found,
    ...others.map((meet) => ({ meet, name: meetName(meet, jobs), short: '', isAsked: true, cost: '' })),
  ]
}
