import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api, type SwapLine } from '@/api/client'
import { answered, refused, used } from '@/tests/mounted'
import { draftOf, sentOf, withLine } from '@/domain/swapDraft'
import { useSwapLine } from './swapLine'

const post = vi.spyOn(api, 'POST')
interface Asked {
  body: { line: string }
}
const lines = () => (post.mock.calls as unknown as [string, Asked][]).map(([, { body }]) => body.line)
const read = (more: Partial<SwapLine> = {}): SwapLine => ({
  chips: [],
  gone: ['mummy bag'],
  question: null,
  draft: {
    kind: 'replace',
    remove: [{ line: 'bag', qty: 1 }],
    add: [{ name: 'quilt', qty: 1, weight: '545g' }],
  },
  ...more,
})

beforeEach(() => {
  post.mockReset()
  post.mockImplementation((async () => answered(read())) as never)
})

describe('a swap in one line', () => {
  it('makes the draft that it was read as', async () => {
    const made = vi.fn()
    const line = ref('')
    const { given } = used(() => useSwapLine('list', line, made))
    line.value = ' quilt 545g for mummy bag '
    expect(await given.understand()).toBe(true)
    expect(made).toHaveBeenCalledExactlyOnceWith(expect.objectContaining({ gone: ['mummy bag'] }))
    expect(lines()).toEqual(['quilt 545g for mummy bag'])
    // What was read is not asked again.
    expect([await given.understand(), lines().length]).toEqual([true, 1])
  })

  it('keeps the newest line only, says what is asked, and why it could not be read', async () => {
    const made = vi.fn()
    const line = ref('')
    const { given } = used(() => useSwapLine('list', line, made))
    let late: (answer: unknown) => void = () => {}
    post.mockReturnValueOnce(new Promise((resolve) => (late = resolve)) as never)
    line.value = 'quilt'
    const first = given.understand()
    line.value = 'leave out mug'
    post.mockResolvedValueOnce(answered(read({ question: 'Which mug?' })) as never)
    await given.understand()
    late(answered(read()))
    expect([await first, given.question.value, made.mock.calls.length]).toEqual([false, 'Which mug?', 1])

    post.mockResolvedValueOnce(refused('The line is too long.') as never)
    line.value = 'x'.repeat(401)
    expect(await given.understand()).toBe(false)
    await flushPromises()
    expect(given.trouble.value).toBe('The line is too long.')
    given.forget()
    expect([line.value.length, given.trouble.value]).toEqual([401, ''])
    line.value = ''
    expect(await given.understand()).toBe(false)
  })
})

describe('a draft that came of a line', () => {
  const empty = draftOf(null, { code: 'EUR', decimals: 2 })
  const draftOfLine = (read: SwapLine['draft']) => withLine(empty, read)

  it('keeps what the line does not say when the line is typed anew', () => {
    const first = draftOfLine(read().draft)
    const typed = { ...first, delivery: '4.90', resale: '90', requires: ['other'] }
    typed.add[0]!.seen.place = 'a friend'
    const again = withLine(typed, { ...read().draft, add: [{ name: 'quilt', qty: 1, weight: '500g' }] })
    expect(again).toMatchObject({ delivery: '4.90', resale: '90', requires: ['other'] })
    expect(again.add[0]).toMatchObject({ weight: '500g', seen: { place: 'a friend' } })
  })

  it('has its fields as they are typed, and is sent as it stands', () => {
    const draft = draftOfLine(read().draft)
    expect(draft).toMatchObject({
      kind: 'replace',
      name: '',
      remove: [{ line: 'bag', qty: 1, from: 'carried' }],
    })
    expect(draft.add[0]).toMatchObject({ name: 'quilt', weight: '545g', price: '', place: 'carried' })
    expect(sentOf(draft)).toMatchObject({ name: null, add: [{ candidate: null, name: 'quilt' }] })
  })

  it('puts nothing on for what is left out, whatever was typed before, and what an addition would take off', () => {
    const draft = draftOfLine(read().draft)
    expect(sentOf({ ...draft, kind: 'leave_out', add: [{ ...draft.add[0]!, price: '262' }] }).add).toEqual([])
    expect(sentOf({ ...draft, kind: 'add' }).remove).toEqual([])
  })
})
