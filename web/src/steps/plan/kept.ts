import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, unwrapChange, type KeptPlan, type PlanAnswer } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { keptPlansQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { costsInOrder } from '@/domain/parcels'

/** A plan to be compared: the one that stands, or one that was kept. */
export interface Compared {
  key: string
  name: string
  /** Its swaps that are still there, by id. */
  swaps: string[]
  /** What they cost. */
  net: number
  /** Swaps of it that are done since, and those that are gone or can't be made any more. */
  done: number
  gone: number
  kept: KeptPlan | null
}

/** The plan as it stands and those that were kept, each with what its swaps cost now. */
export function compared(answer: PlanAnswer, planned: number[], kept: KeptPlan[]): Compared[] {
  const at = new Map(answer.swaps.map((swap, index) => [swap.id, index]))
  const done = new Set(answer.done.map((swap) => swap.id))
  const cost = (swaps: string[]) => {
    const order = swaps.map((id) => at.get(id)).filter((index) => index !== undefined)
    return costsInOrder(answer, order).reduce((sum, cost) => sum + cost, 0)
  }
  const now = planned.map((index) => answer.swaps[index]!.id)
  return [
    { key: 'now', name: 'The plan now', swaps: now, net: cost(now), done: 0, gone: 0, kept: null },
    ...kept.map((plan) => {
      const there = plan.swaps.filter((id) => at.has(id))
      return {
        key: plan.id,
        name: plan.name,
        swaps: there,
        net: cost(there),
        done: plan.swaps.filter((id) => done.has(id)).length,
        gone: plan.swaps.filter((id) => !at.has(id) && !done.has(id)).length,
        kept: plan,
      }
    }),
  ]
}

/** The kept plans of a list. */
export function useKept(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const { data } = useQuery(computed(() => ({ ...keptPlansQuery(id.value), enabled: id.value !== '' })))
  const { done, failed } = useMessages()
  const undo = useUndo()
  const keep = useChange((plan: { name: string; swaps: string[] }) =>
    unwrapChange(api.POST('/api/lists/{id}/kept-plans', { params: { path: { id: id.value } }, body: plan })),
  )
  const remove = useChange(({ id, version }: KeptPlan) =>
    unwrapChange(api.DELETE('/api/kept-plans/{id}', { params: { path: { id }, query: { version } } })),
  )
  return {
    kept: computed(() => data.value ?? []),
    /** Keeps a plan by name; throws what the server refuses. */
    keep: async (name: string, swaps: string[]) => {
      const written = await withLock(`plans ${id.value}`, () => keep.mutateAsync({ name, swaps }))
      done(`Plan ${written.value.name} kept.`, undo(written))
    },
    remove: async (plan: KeptPlan) => {
      try {
        const gone = await withLock(`plans ${id.value}`, () => remove.mutateAsync(plan))
        done(`Plan ${plan.name} removed.`, undo(gone))
      } catch (error) {
        failed(error)
      }
    },
  }
}
