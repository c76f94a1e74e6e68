import type { PlanAnswer, Sheet } from '@/api/client'
import type { Span } from './equation'

/** What would be on the back once the plan's swaps are done: what they take off shortened or gone, what they put on in its place. */
export function planned(here: Span[], sheet: Sheet, answer: PlanAnswer): Span[] {
  const left = new Map(here.map((span) => [span.key, span.mg]))
  const added: (Span & { after: string })[] = []
  for (const at of answer.plan.swaps ?? []) {
    const swap = answer.swaps[at]
    if (!swap) continue
    for (const gone of swap.remove.filter((one) => one.from === 'carried')) {
      const unit = sheet.lines.find((line) => line.id === gone.line)?.weight?.unit_mg ?? 0
      left.set(gone.line, (left.get(gone.line) ?? 0) - unit * gone.qty)
    }
    const after = swap.remove[0]?.line ?? ''
    const system = here.find((span) => span.key === after)?.system ?? 'other'
    for (const put of swap.add.filter((one) => one.place === 'carried')) {
      const { name, weight, id } = put.candidate
      added.push({ key: id, name, system, mg: (weight?.unit_mg ?? 0) * put.qty, after })
    }
  }
  const known = new Set(here.map((span) => span.key))
  return [
    ...here.flatMap((span) => [
      { ...span, mg: left.get(span.key) ?? span.mg },
      ...added.filter((one) => one.after === span.key),
    ]),
    ...added.filter((one) => !known.has(one.after)),
  ].filter((span) => span.mg > 0)
}
