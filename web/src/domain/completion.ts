import { api, unwrapChange, type Completion, type Swap } from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { listed } from '@/quantities/count'

/** Completion swaps for good, and taking that back. */
export function useCompletion() {
  const { done, failed } = useMessages()
  const cache = useCacheUpdates()
  const undo = useUndo()
  const at = (swap: Swap) => ({ path: { id: swap.id }, query: { version: cache.newestSwap(swap).version } })
  const put = useChange(({ swap, doing }: { swap: Swap; doing: Completion }) =>
    unwrapChange(api.POST('/api/swaps/{id}/done', { params: at(swap), body: doing })),
  )
  const takeBack = useChange((swap: Swap) =>
    unwrapChange(
      api.DELETE('/api/swaps/{id}/done', {
        params: { path: { id: swap.id }, query: { version: swap.version } },
      }),
    ),
  )
  return {
    /** Does a swap; throws what the server refuses. */
    doIt: async (swap: Swap, doing: Completion) => {
      const written = await withLock(`swap ${swap.id}`, () => put.mutateAsync({ swap, doing }))
      const came = written.value.add.map((one) => one.candidate.name)
      const next = came.length && swap.kind !== 'trim' ? ` ${listed(came)}: weigh it in step 1.` : ''
      done(`${swap.name} is done.${next}`, undo(written))
    },
    undoIt: async (swap: Swap) => {
      try {
        const written = await withLock(`swap ${swap.id}`, () => takeBack.mutateAsync(swap))
        done(`${swap.name} is no longer done. What came off is on the list again.`, undo(written))
      } catch (error) {
        failed(error)
      }
    },
  }
}
