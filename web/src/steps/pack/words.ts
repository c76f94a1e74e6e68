import type { Packing, Reconciled } from '@/api/client'

/** Figures in the account's units. */
export interface Units {
  tableText: (mg: number) => string
  totalText: (mg: number) => string
  signed: (mg: number) => string
}

const SHOWN = 5
/** A cause that could be less than this share of a difference says nothing of it. */
const WORTH_SAYING = 0.05

const WHY: Record<Reconciled['causes'][number]['why'], string> = {
  unknown: 'never weighed',
  guess: 'a guess',
  maker: 'the maker’s figure',
  weighed: 'weighed',
  not_ticked: 'not ticked',
  supplies: 'as loaded',
}

/** Whether the list's own doubt explains a reading, and what it may be, the likeliest first. */
export function readingWords(found: Reconciled, { things }: Packing, units: Units) {
  const { low_mg: low, high_mg: high } = found.likely
  const likely = `The doubt of the list alone is ${units.signed(low)} to ${units.signed(high)}`
  const verdict = {
    likely: `${likely}, so this can be right.`,
    at_worst: `${likely}: this is more, and would take nearly every weight to be wrong the same way.`,
    by_unknown: `${likely}: this is more, and some things were never weighed.`,
    no: `${likely}, and does not explain it. Something is in that the list does not know, or the other way round.`,
  }[found.explained]
  const says = (could: number | null | undefined) =>
    could == null || could >= Math.abs(found.difference_mg) * WORTH_SAYING
  const causes = found.causes
    .filter(({ could_be_mg: could }) => says(could))
    .slice(0, SHOWN)
    .map(({ of, why, could_be_mg: could }) => ({
      name: of == null ? 'Food and water' : things[of]!.name,
      why: WHY[why],
      could: could == null ? '?' : `up to ${units.tableText(could)}`,
    }))
  return { verdict, causes }
}

/** A row of what is to be done before leaving. */
export interface Task {
  /** What it is noted by once it is done. */
  id: string
  name: string
  what: string
  /** Done as it stands: of other things it is to be done anew. */
  done: boolean
}

/** What tasks of Kevyt's own are noted by. */
const OWN = 'own '
/** As many characters of what is to be done as are kept. */
const KEPT = 120
/** What the walker has written down, without the tasks of Kevyt's own that are done. */
export const written = ({ noted }: Packing) => noted.filter(({ id }) => !id.startsWith(OWN))
/** How it is noted that a task of Kevyt's own is done, or not. */
export const doneAs = ({ id, what }: Task, done: boolean) => ({
  to_do: { [id]: { what: what.slice(0, KEPT), done } },
})

const TASKS = {
  charge: 'Charge',
  fill: 'Fill',
  refill: 'Weigh the can',
  buy: 'Buy',
  weigh: 'Weigh',
  on_the_way: 'On the way',
} as const

/** What is to be done before leaving, task by task. */
export function tasks(
  { to_do, things, noted }: Packing,
  units: Units,
  litres: (ml: number) => string,
): Task[] {
  return (Object.keys(TASKS) as (keyof typeof TASKS)[]).flatMap((task) => {
    const all = to_do.filter((todo) => todo.task === task)
    const names = all.flatMap(({ of }) => (of == null ? [] : [things[of]!.name]))
    const lacking = all.find(({ of }) => of == null)?.amount
    const amount = all.reduce((sum, todo) => sum + (todo.of == null ? 0 : (todo.amount ?? 0)), 0)
    const parts = [...new Set(names)]
    if (lacking != null) parts.push(`${task === 'buy' ? 'food' : 'gas'}, ${units.totalText(lacking)} more`)
    const filled = task === 'fill' && amount > 0 ? `: ${litres(amount)} in all` : ''
    const note = task === 'on_the_way' && parts.length ? '. Gas may not fly, nor go on every train' : filled
    const [id, what] = [OWN + task, parts.join(', ') + note]
    const done = noted.some((one) => one.id === id && one.done && one.what === what.slice(0, KEPT).trim())
    return parts.length ? [{ id, name: TASKS[task], what, done }] : []
  })
}
