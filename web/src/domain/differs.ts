import type { PlanAnswer, Year } from '@/api/client'

/** Every list's own name for a swap of the year. */
const idsOf = ({ swap, same }: Year['swaps'][number]) => [swap.id, ...same]

/** A list by itself against the year: what only its own plan buys, and what only the year's does, of the swaps that act on it. */
export function differences(year: Year, alone: PlanAnswer) {
  const at = year.lists.findIndex(({ list }) => list.id === alone.list.id)
  if (at < 0 || !year.plan.swaps || !alone.plan.swaps) return null
  const bought = year.plan.swaps.map((swap) => year.swaps[swap]!)
  const own = alone.plan.swaps.map((swap) => alone.swaps[swap]!)
  const [inYear, inOwn] = [new Set(bought.flatMap(idsOf)), new Set(own.map(({ id }) => id))]
  const onlyAlone = own.filter(({ id }) => !inYear.has(id))
  // What it would leave shorter on other lists, each thing once.
  const reasons = onlyAlone.flatMap(({ id, name }) => {
    const found = year.swaps.find((one) => idsOf(one).includes(id))
    const lost = found?.loses.filter(({ list }) => list !== at) ?? []
    return [...new Set(lost.map(({ meet }) => meet))].map((meet) => ({
      swap: name,
      meet,
      lists: lost.filter((one) => one.meet === meet).map(({ list }) => year.lists[list]!.list.name),
    }))
  })
  const onlyYear = bought.filter((one) => one.acts[at] && !idsOf(one).some((id) => inOwn.has(id)))
  return {
    onlyAlone: onlyAlone.map(({ name }) => name),
    onlyYear: onlyYear.map(({ swap }) => swap.name),
    reasons,
  }
}
