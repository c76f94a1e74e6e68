import { api, take, type Swap, type SwapState } from '@/api/client'
import { useChange } from '@/api/queries'
import { useMessages } from './messages'

const SAID: Record<SwapState, string> = {
  open: 'left to the plan',
  pinned: 'pinned: every plan makes it',
  ruled_out: 'ruled out',
}

/** Pins a swap or rules it out; asked for the state it has, opens it again. */
export function useHold() {
  const { done, failed } = useMessages()
  const setState = useChange(({ swap, state }: { swap: Pick<Swap, 'id' | 'version'>; state: SwapState }) =>
    take(
      api.PUT('/api/swaps/{id}/state', {
        params: { path: { id: swap.id }, query: { version: swap.version } },
        body: { state },
      }),
    ),
  )
  return async (swap: Swap, wanted: SwapState) => {
    const state = swap.state === wanted ? 'open' : wanted
    try {
      const now = await setState.mutateAsync({ swap, state })
      done(`${swap.name} is ${SAID[state]}.`, () => setState.mutateAsync({ swap: now, state: swap.state }))
    } catch (error) {
      if (error instanceof Error) failed(error)
    }
  }
}
