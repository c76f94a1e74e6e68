import { api, take, type Swap, type SwapState } from '@/api/client'
import { useChange } from '@/api/queries'
import { useMessages } from './messages'

const SAID: Record<SwapState, string> = {
  open: 'left to the plan',
  pinned: 'pinned: every plan makes it',
  ruled_out: 'ruled out',
}

// Keys come faster than answers: each change waits for the one before it, and starts from what that one made.
let turn: Promise<unknown> = Promise.resolve()
const newest = new Map<string, Swap>()

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = turn.then(work)
  turn = mine.catch(() => undefined)
  return mine
}

function newestOf(shown: Swap): Swap {
  const known = newest.get(shown.id)
  return known && known.version > shown.version ? known : shown
}

/** Pins a swap or rules it out; asked for the state it has, opens it again. */
export function useHold() {
  const { done, failed } = useMessages()
  const put = useChange(({ swap, state }: { swap: Swap; state: SwapState }) =>
    take(
      api.PUT('/api/swaps/{id}/state', {
        params: { path: { id: swap.id }, query: { version: swap.version } },
        body: { state },
      }),
    ),
  )
  const setState = (shown: Swap, next: (state: SwapState) => SwapState) =>
    inTurn(async () => {
      const swap = newestOf(shown)
      const now = await put.mutateAsync({ swap, state: next(swap.state) })
      newest.set(now.id, now)
      return { before: swap.state, now }
    })
  return async (shown: Swap, wanted: SwapState) => {
    try {
      const { before, now } = await setState(shown, (state) => (state === wanted ? 'open' : wanted))
      done(`${now.name} is ${SAID[now.state]}.`, () => setState(now, () => before))
    } catch (error) {
      if (error instanceof Error) failed(error)
    }
  }
}
