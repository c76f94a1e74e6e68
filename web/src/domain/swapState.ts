import { api, unwrapChange, type Swap, type SwapState } from '@/api/client'
import { useChange, useCacheUpdates } from '@/api/changes'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'

const DONE: Record<SwapState, string> = {
  open: 'left to the plan',
  pinned: 'pinned: every plan includes it',
  ruled_out: 'ruled out',
}

/** Pins a swap or rules it out; asked for the state it has, allows it again. */
export function useSwapState() {
  const { done, failed } = useMessages()
  const cache = useCacheUpdates()
  const put = useChange(
    ({ swap, state }: { swap: Swap; state: SwapState }) =>
      unwrapChange(
        api.PUT('/api/swaps/{id}/state', {
          params: { path: { id: swap.id }, query: { version: swap.version } },
          body: { state },
        }),
      ),
    (cache, changed) => cache.swap(changed.value),
  )
  // Keys come faster than answers: each change starts from what the one before it made.
  const known = new Map<string, Swap>()
  const newest = (swap: Swap) => {
    const last = known.get(swap.id)
    const now = cache.newestSwap(swap)
    return last && last.version > now.version ? last : now
  }
  const setState = (swap: Swap, next: (state: SwapState) => SwapState) =>
    withLock(`swap ${swap.id}`, async () => {
      const before = newest(swap)
      const { value } = await put.mutateAsync({ swap: before, state: next(before.state) })
      known.set(value.id, value)
      return { before: before.state, now: value }
    })
  return async (swap: Swap, wanted: SwapState) => {
    try {
      const { before, now } = await setState(swap, (state) => (state === wanted ? 'open' : wanted))
      done(`${now.name} is ${DONE[now.state]}.`, () => setState(now, () => before))
    } catch (error) {
      failed(error)
    }
  }
}
