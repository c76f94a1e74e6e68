import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api, type PlanAnswer, type Swap, type SwapDraft } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, refused, used } from '@/tests/mounted'
import { useSwaps } from './swaps'

const question = vi.hoisted(() => ({ current: {} as object }))
vi.mock('@/domain/question', () => ({ useQuestion: () => question.current }))
const { messages, undoLast, drop } = useMessages()

const swap = (name: string, state: Swap['state'] = 'open') => ({ id: name, name, state, version: 2 }) as Swap
const ranked = (at: number, kind: string) => ({ swap: at, class: kind, place: at + 1, missing: [] })
const choice = (at: number, standing: string) => ({ swap: at, standing })

/** Four swaps: three for the same shelter, of which the second is the best step, and one that is free. */
function asked(states: Swap['state'][] = ['open', 'open', 'open', 'open'], inPlan: number[] = [1]) {
  const names = ['tarp', 'pole shelter', 'light tent', 'no pillow']
  const answer = {
    swaps: names.map((name, at) => swap(name, states[at])),
    ranking: [ranked(3, 'free'), ranked(1, 'paid'), ranked(0, 'paid'), ranked(2, 'paid')],
    choices: [[choice(0, 'beaten'), choice(1, 'step'), choice(2, 'never_best')]],
    unavailable: [{ id: 'sewn tent', name: 'sewn tent', unavailable: { code: 'off_list', thing: 'tarp' } }],
    list: { terms: { rank_by: 'base' } },
  } as unknown as PlanAnswer
  question.current = { id: ref('list'), answer: ref(answer), error: ref(null), inPlan: ref(new Set(inPlan)) }
  return used(() => useSwaps('list')).given
}
const shown = (swaps: ReturnType<typeof useSwaps>) =>
  swaps.rows.value.map((row) => [row.swap.name, ...row.folded.map((folded) => folded.swap.name)])

beforeEach(() => {
  vi.restoreAllMocks()
  messages.value.forEach((message) => drop(message.id))
})

describe('the swaps of a list', () => {
  it('fold what is beaten under the best step for the same gear', () => {
    const swaps = asked()
    expect(shown(swaps)).toEqual([['no pillow'], ['pole shelter', 'tarp', 'light tent']])
    expect(swaps.sections.value.map((section) => [section.key, section.rows.length])).toEqual([
      ['free', 1],
      ['paid', 1],
    ])
  })

  it('leave in its place what is in the plan, pinned or ruled out', () => {
    expect(shown(asked(undefined, [2]))).toEqual([['no pillow'], ['pole shelter', 'tarp'], ['light tent']])
    const held = asked(['pinned', 'open', 'ruled_out', 'open'])
    expect(shown(held)).toEqual([['no pillow'], ['pole shelter'], ['tarp'], ['light tent']])
  })

  it('say which can’t be made, beside the ranking and not in it', () => {
    const swaps = asked()
    expect(swaps.unavailable.value.map((swap) => swap.unavailable)).toEqual([
      { code: 'off_list', thing: 'tarp' },
    ])
    expect(shown(swaps).flat()).not.toContain('sewn tent')
  })

  it('are removed at the version that was shown, and come back by the change that it was', async () => {
    const remove = vi.spyOn(api, 'DELETE').mockResolvedValue(answered(undefined, 'change 7') as never)
    const post = vi.spyOn(api, 'POST').mockResolvedValue(answered({}) as never)
    await asked().removeSwap(swap('tarp'))
    expect(remove).toHaveBeenCalledWith('/api/swaps/{id}', {
      params: { path: { id: 'tarp' }, query: { version: 2 } },
    })
    expect(messages.value.map((message) => message.text)).toEqual(['tarp removed.'])
    void undoLast()
    await vi.waitFor(() => expect(post).toHaveBeenCalledOnce())
    expect(post).toHaveBeenCalledWith('/api/changes/{id}/undo', { params: { path: { id: 'change 7' } } })
  })

  it('stay, with the reason, where removing is refused', async () => {
    vi.spyOn(api, 'DELETE').mockResolvedValue(refused('It was changed meanwhile.') as never)
    await asked().removeSwap(swap('tarp'))
    expect(messages.value.map(({ text, kind }) => [text, kind])).toEqual([
      ['It was changed meanwhile.', 'caution'],
    ])
  })

  it('are made on the list at hand, and rewritten where they are', async () => {
    const post = vi.spyOn(api, 'POST').mockResolvedValue(answered({}) as never)
    const put = vi.spyOn(api, 'PUT').mockResolvedValue(refused('1.250 is not clear.') as never)
    const draft = { kind: 'leave_out' } as SwapDraft
    const { write } = asked()
    await write(null, draft, 0)
    expect(post).toHaveBeenCalledWith('/api/lists/{id}/swaps', {
      params: { path: { id: 'list' } },
      body: draft,
    })
    await expect(write(swap('tarp'), draft, 2)).rejects.toThrow('1.250 is not clear.')
    expect(put).toHaveBeenCalledWith('/api/swaps/{id}', {
      params: { path: { id: 'tarp' }, query: { version: 2 } },
      body: draft,
    })
  })
})
