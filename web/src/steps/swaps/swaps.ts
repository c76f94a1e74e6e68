import { computed, type MaybeRefOrGetter } from 'vue'
import { api, unwrapChange, type PlanAnswer, type Ranked, type Swap, type SwapDraft } from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { useQuestion } from '@/domain/question'

/** A row of the ranking with its swap. */
export interface Row extends Omit<Ranked, 'swap'> {
  at: number
  swap: Swap
  inPlan: boolean
  /** Choices for the same gear that are beaten, or never the best step: folded under this row. */
  folded: Row[]
}

/** The ranking with the saving that ranks in the place of that of base weight. */
export const rankedOf = ({ ranking, list }: PlanAnswer): Ranked[] =>
  list.terms.rank_by === 'base'
    ? ranking
    : ranking.map((row) => ({ ...row, saving_mg: row.saving_everything_mg }))

/** The ranking of a list and how swaps are changed. */
export function useSwaps(list: MaybeRefOrGetter<string>) {
  const { id, answer, error, refetch, inPlan } = useQuestion(list)
  const cache = useCacheUpdates()
  const { done, failed } = useMessages()

  const rows = computed(() => {
    const rows = new Map<number, Row>()
    for (const ranked of answer.value ? rankedOf(answer.value) : []) {
      const swap = answer.value!.swaps[ranked.swap]!
      rows.set(ranked.swap, {
        ...ranked,
        at: ranked.swap,
        swap,
        inPlan: inPlan.value.has(ranked.swap),
        folded: [],
      })
    }
    for (const group of answer.value?.choices ?? []) {
      const head = rows.get(group.find((choice) => choice.standing === 'step')?.swap ?? -1)
      if (!head) continue
      for (const choice of group) {
        const row = rows.get(choice.swap)
        if (!row || choice.standing === 'step' || row.inPlan || row.swap.state !== 'open') continue
        head.folded.push(row)
        rows.delete(choice.swap)
      }
    }
    return [...rows.values()]
  })

  const sections = computed(() =>
    (['free', 'paid', 'no_saving', 'incomplete'] as const)
      .map((key) => ({ key, rows: rows.value.filter((row) => row.class === key) }))
      .filter((section) => section.rows.length > 0),
  )

  const write = useChange(
    ({ swap, draft, version }: { swap: Swap | null; draft: SwapDraft; version: number }) =>
      swap
        ? unwrapChange(
            api.PUT('/api/swaps/{id}', {
              params: { path: { id: swap.id }, query: { version } },
              body: draft,
            }),
          )
        : unwrapChange(
            api.POST('/api/lists/{id}/swaps', { params: { path: { id: id.value } }, body: draft }),
          ),
    (cache, written) => cache.swap(written.value),
  )
  const remove = useChange((swap: Swap) =>
    unwrapChange(
      api.DELETE('/api/swaps/{id}', { params: { path: { id: swap.id }, query: { version: swap.version } } }),
    ),
  )
  const undo = useUndo()

  return {
    answer,
    error,
    refetch,
    rows,
    sections,
    /** Swaps that can't be made, each with the reason. */
    unavailable: computed(() => answer.value?.unavailable ?? []),
    /** Makes or rewrites a swap, at the version that it was typed over; throws what the server refuses. */
    write: async (swap: Swap | null, draft: SwapDraft, version: number) => {
      const written = await withLock(`swap ${swap?.id ?? 'new'}`, () =>
        write.mutateAsync({ swap, draft, version }),
      )
      done(swap ? `${written.value.name} changed.` : `Swap ${written.value.name} made.`, undo(written))
      return written.value
    },
    removeSwap: async (swap: Swap) => {
      try {
        const gone = await withLock(`swap ${swap.id}`, () => remove.mutateAsync(cache.newestSwap(swap)))
        done(`${swap.name} removed.`, undo(gone))
      } catch (error) {
        failed(error)
      }
    },
  }
}
