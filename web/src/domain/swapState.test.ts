import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, type Swap, type SwapState } from '@/api/client'
import { answered, refused, used } from '@/tests/mounted'
import { useSwapState } from '@/domain/swapState'
import { useMessages } from '@/controls/messages'

const put = vi.spyOn(api, 'PUT')
const { messages, undoLast, drop } = useMessages()
const texts = () => messages.value.map((message) => message.text)

/** The server's part: one swap, changed only at the version that it has. */
let kept: Swap
interface Asked {
  params: { path: { id: string }; query: { version: number } }
  body: { state: SwapState }
}
function serve(id: string) {
  kept = { id, name: 'pole shelter', version: 4, state: 'open' } as Swap
  put.mockImplementation((async (_: string, { params, body }: Asked) => {
    await new Promise((resolve) => setTimeout(resolve, 5))
    if (params.path.id !== kept.id || params.query.version !== kept.version) return refused('It was changed.')
    kept = { ...kept, state: body.state, version: kept.version + 1 }
    return answered(kept)
  }) as never)
}

beforeEach(() => {
  put.mockReset()
  messages.value.forEach((message) => drop(message.id))
})

describe('pinning a swap and ruling it out', () => {
  it('counts every press, however fast they come', async () => {
    serve('one')
    const shown = kept
    const { given: hold } = used(useSwapState)
    await Promise.all([hold(shown, 'pinned'), hold(shown, 'pinned'), hold(shown, 'ruled_out')])
    expect(put).toHaveBeenCalledTimes(3)
    expect([kept.state, kept.version]).toEqual(['ruled_out', 7])
    expect(texts()).toEqual([
      'pole shelter is pinned: every plan includes it.',
      'pole shelter is left to the plan.',
      'pole shelter is ruled out.',
    ])
  })

  it('goes back to what it was before, by a key', async () => {
    serve('two')
    const { given: hold } = used(useSwapState)
    await hold(kept, 'pinned')
    await hold(kept, 'ruled_out')
    void undoLast()
    await vi.waitFor(() => expect(kept.state).toBe('pinned'))
    void undoLast()
    await vi.waitFor(() => expect(kept.state).toBe('open'))
  })

  it('says why it was refused, and the next press is made all the same', async () => {
    serve('three')
    const { given: hold } = used(useSwapState)
    const stale = { ...kept, version: 3 }
    await Promise.all([hold(stale, 'pinned'), hold(kept, 'ruled_out')])
    expect(texts()).toEqual(['It was changed.', 'pole shelter is ruled out.'])
    expect(kept.state).toBe('ruled_out')
  })
})
