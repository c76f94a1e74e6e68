import { computed } from 'vue'
import { api, take, takeChanged, type Ranked, type Swap, type SwapDraft } from '@/api/client'
import { useChange, useUndo } from '@/api/queries'
import { useMessages } from '@/shell/messages'
import { useQuestion } from '@/shell/question'

/** A row of the ranking with its swap. */
export interface Row extends Omit<Ranked, 'swap'> {
  at: number
  swap: Swap
  inPlan: boolean
  /** Choices for the same gear that are beaten, or never the best step: folded under this row. */
  folded: Row[]
}

export const KINDS: Record<Swap['kind'], string> = {
  replace: 'replace',
  leave_out: 'leave out',
  trim: 'trim',
  make: 'make',
  combine: 'combine',
  share: 'share',
  borrow: 'borrow or hire',
  add: 'add',
}

/** The ranking of the list at hand and how swaps are changed. */
export function useSwaps() {
  const { id, answer, error, inPlan } = useQuestion()
  const { done, failed } = useMessages()

  const rows = computed(() => {
    const rows = new Map<number, Row>()
    for (const ranked of answer.value?.ranking ?? []) {
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

  const write = useChange(({ swap, draft }: { swap: Swap | null; draft: SwapDraft }) =>
    swap
      ? take(
          api.PUT('/api/swaps/{id}', {
            params: { path: { id: swap.id }, query: { version: swap.version } },
            body: draft,
          }),
        )
      : take(api.POST('/api/lists/{id}/swaps', { params: { path: { id: id.value } }, body: draft })),
  )
  const remove = useChange((swap: Swap) =>
    takeChanged(
      api.DELETE('/api/swaps/{id}', { params: { path: { id: swap.id }, query: { version: swap.version } } }),
    ),
  )
  const undo = useUndo()

  return {
    answer,
    error,
    rows,
    sections,
    /** Swaps that can't be made, each with the reason. */
    unavailable: computed(() => answer.value?.unavailable ?? []),
    /** Makes or rewrites a swap; throws what the server refuses. */
    write: (swap: Swap | null, draft: SwapDraft) => write.mutateAsync({ swap, draft }),
    removeSwap: async (swap: Swap) => {
      try {
        done(`${swap.name} removed.`, undo(await remove.mutateAsync(swap)))
      } catch (error) {
        if (error instanceof Error) failed(error)
      }
    },
  }
}
