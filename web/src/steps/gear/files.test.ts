import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, type FileHow } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, refused, used } from '@/tests/mounted'
import { useImport, useRestore } from './files'

const post = vi.spyOn(api, 'POST')
const file = (name: string, text: string) => new File([text], name)
/** A preview that holds what was asked, or guesses the name in the first column. */
const preview = (asked: FileHow) =>
  answered({
    columns: ['Item', 'Weight'].map((header, at) => ({
      header,
      examples: [],
      holds: asked.columns ? asked.columns[at] : at === 0 ? 'name' : null,
    })),
    added: 2,
    changed: 0,
    refused: 0,
    leave: asked.leave ?? [4],
    sums: { carried_mg: 218_000, worn_mg: 0, used_up_mg: 0, unknown: 1 },
  })
/** What is sent: how the file is to be read, and the form that is made of both. */
interface Sent {
  body: { how: FileHow }
  bodySerializer: () => FormData
}
const sent = (call: number) => (post.mock.calls[call] as unknown as [string, Sent])[1]

beforeEach(() => {
  post.mockReset()
  post.mockImplementation((async (_: string, { body }: Sent) => preview(body.how)) as never)
})

describe('reading a gear file', () => {
  it('is looked at as it is chosen, and again with each column that is mapped', async () => {
    const { given: csv } = used(useImport)
    await csv.open(file('list.csv', 'Item;Weight\nmug;118'))
    const form = sent(0).bodySerializer()
    expect(await (form.get('file') as File).text()).toBe('Item;Weight\nmug;118')
    expect(JSON.parse(await (form.get('how') as File).text())).toMatchObject({ columns: null, systems: {} })
    expect(csv.asked.columns).toEqual(['name', null])
    await csv.map(1, 'weight_g')
    expect(csv.asked.columns).toEqual(['name', 'weight_g'])
    // A column of ours is held by one of the file's.
    await csv.map(1, 'name')
    expect(csv.asked.columns).toEqual([null, 'name'])
  })

  it('keeps what was mapped while an earlier look was under way', async () => {
    const { given: csv } = used(useImport)
    await csv.open(file('list.csv', 'Item;Weight'))
    let answerLate: (answer: unknown) => void = () => {}
    post.mockReturnValueOnce(new Promise((resolve) => (answerLate = resolve)) as never)
    const first = csv.map(0, null)
    await csv.map(1, 'weight_g')
    answerLate(preview({ ...csv.asked, columns: [null, null] }))
    await first
    expect(csv.asked.columns).toEqual([null, 'weight_g'])
  })

  it('says why it cannot be read, and forgets that with the next file', async () => {
    post.mockResolvedValueOnce(refused('The file is not text.') as never)
    const { given: csv } = used(useImport)
    await csv.open(file('photo.jpg', 'x'))
    expect([csv.refusal.value, csv.preview.value]).toEqual(['The file is not text.', null])
    await csv.open(file('list.csv', 'Item'))
    expect(csv.refusal.value).toBe('')
    expect(csv.preview.value?.added).toBe(2)
  })

  it('leaves out what is proposed, and any line that is ticked', async () => {
    const { given: csv } = used(useImport)
    await csv.open(file('list.csv', 'Item'))
    await csv.tick(2, false)
    expect(csv.asked.leave).toEqual([2, 4])
    await csv.tick(4, true)
    expect(csv.asked.leave).toEqual([2])
  })

  it('goes onto a new list of the file’s name, or onto one that nothing is on', async () => {
    const list = { id: 'l', isEmpty: false }
    const { given: csv } = used(() => useImport(() => list))
    await csv.open(file('alps 2026.csv', 'Item'))
    expect({ ...csv.onto }).toEqual({ kind: 'new', name: 'alps 2026' })
    list.isEmpty = true
    await csv.open(file('alps.csv', 'Item'))
    expect(csv.onto.kind).toBe('list')
    post.mockResolvedValueOnce(answered({ added: 2, changed: 0, same: 0, refused: 0, list: 'l' }) as never)
    await csv.write()
    expect(sent(post.mock.calls.length - 1).body.how).toMatchObject({ list: 'l', new_list: null })
    expect(csv.read.value).toEqual({ file: 'alps.csv', added: 2, changed: 0, list: 'l', unknown: 1 })
  })

  it('is written as one change that its message undoes', async () => {
    const { given: csv } = used(useImport)
    await csv.open(file('list.csv', 'Item'))
    post.mockResolvedValueOnce(answered({ added: 2, changed: 1, same: 0, refused: 3 }, 'change 9') as never)
    await csv.write()
    await flushPromises()
    const { messages } = useMessages()
    expect(messages.value.at(-1)).toMatchObject({ text: 'list.csv: 2 added, 1 changed, 3 refused.' })
    expect(messages.value.at(-1)?.undo).toBeDefined()
    expect(csv.preview.value).toBeNull()
  })
})

describe('restoring an account', () => {
  it('says what the file holds before anything is replaced', async () => {
    const { given } = used(useRestore)
    await given.open(
      file('kevyt.json', JSON.stringify({ format: 'kevyt-account/1', gear: [{}, {}], lists: [{}] })),
    )
    expect(given.backup.value).toMatchObject({ name: 'kevyt.json', gear: 2, lists: 1 })
    expect(post).not.toHaveBeenCalled()
    post.mockResolvedValueOnce(refused('At gear[0]: -5 is outside what can be taken.') as never)
    await given.restore()
    expect(given.refusal.value).toContain('gear[0]')
    expect(given.backup.value).not.toBeNull()
  })

  it('refuses what is no backup', async () => {
    const { given } = used(useRestore)
    await given.open(file('notes.json', 'not json'))
    expect([given.backup.value, given.refusal.value !== '']).toEqual([null, true])
  })
})
