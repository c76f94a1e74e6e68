import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, orLater, unwrapChange } from './client'
import { markOnline, offlineSince } from './network'
import { drop, insist, openOutbox, sendAll, waiting } from './outbox'

const GEAR = '0190a5f0-0000-7000-8000-000000000001'
const LIST = '0190a5f0-0000-7000-8000-000000000002'
let signedIn = 'anna'
const fetched = vi.spyOn(globalThis, 'fetch')
const away = () => fetched.mockImplementation(() => Promise.reject(new TypeError('fetch failed')))
/** Answers by path; what was sent, in order. */
function answers(of: (path: string) => Response) {
  const sent: { path: string; method?: string; body: unknown; key: string }[] = []
  fetched.mockImplementation((path, init) => {
    if (path === '/api/account') return Promise.resolve(Response.json({ name: signedIn }))
    const headers = init?.headers as Record<string, string> | undefined
    const body: unknown = init?.body ? JSON.parse(init.body as string) : null
    sent.push({ path: String(path), method: init?.method, body, key: headers?.['Idempotency-Key'] ?? '' })
    return Promise.resolve(of(String(path)))
  })
  return sent
}
const whats = () => waiting.value.map(({ what }) => what)
const count = (version: number, body: { count?: number; note?: string }, what = 'spoon') =>
  unwrapChange(
    api.PATCH('/api/gear/{id}', {
      params: { path: { id: GEAR }, query: { version } },
      body,
      ...orLater(what),
    }),
  )
const move = (version: number, carried: number, what: string) =>
  unwrapChange(
    api.PUT('/api/lists/{id}/lines/{gear}', {
      params: { path: { id: LIST, gear: GEAR } },
      body: { carried, version },
      ...orLater(what),
    }),
    { id: 'meanwhile' } as never,
  )

describe('what is done without network', () => {
  beforeEach(() => {
    localStorage.clear()
    openOutbox('anna')
    away()
  })
  afterEach(() => markOnline())

  it('waits on this device, by account, with what stands meanwhile', async () => {
    expect(await move(3, 1, 'Tent: 1 carried')).toEqual({
      value: { id: 'meanwhile' },
      change: null,
      waits: true,
    })
    expect(offlineSince.value).not.toBeNull()
    expect(whats()).toEqual(['Tent: 1 carried'])
    openOutbox('ben')
    expect(whats()).toEqual([])
    openOutbox('anna')
    expect(whats()).toEqual(['Tent: 1 carried'])
  })

  it('is one change where it is of the same fields, and each field is kept', async () => {
    await move(3, 1, 'Tent: 1 carried')
    await count(4, { count: 2 })
    await move(3, 0, 'Tent: at home')
    await count(4, { note: 'bent' }, 'spoon: bent')
    expect(waiting.value.map(({ what, body }) => [what, body])).toEqual([
      ['Tent: at home', { carried: 0, version: 3 }],
      ['spoon: bent', { count: 2, note: 'bent' }],
    ])
  })

  it('is sent in its order, each under a name of its own, before anything newer', async () => {
    for (const line of ['spoon 18g', 'mug 90g'])
      await unwrapChange(api.POST('/api/gear/line', { body: { line }, ...orLater(`Add ${line}`) }))
    markOnline()
    const sent = answers(() => new Response(null, { status: 201 }))
    await count(1, { count: 3 }, 'pot: 3')
    expect(sent).toEqual([])
    await sendAll()
    expect(sent.map(({ path, body }) => [path, body])).toEqual([
      ['/api/gear/line', { line: 'spoon 18g' }],
      ['/api/gear/line', { line: 'mug 90g' }],
      [`/api/gear/${GEAR}?version=1`, { count: 3 }],
    ])
    expect(new Set(sent.map(({ key }) => key)).size).toBe(3)
    expect(waiting.value).toEqual([])
  })

  it('goes on where it was where the network is gone again, under the same name', async () => {
    await move(3, 1, 'Tent: 1 carried')
    const key = waiting.value[0]!.key
    markOnline()
    await sendAll()
    expect(whats()).toEqual(['Tent: 1 carried'])
    markOnline()
    const sent = answers(() => new Response('{}', { status: 200 }))
    await sendAll()
    expect(sent.map((one) => one.key)).toEqual([key])
  })

  it('is asked about where somebody else was quicker, and done all the same where that is wanted', async () => {
    await move(3, 1, 'Tent: 1 carried')
    markOnline()
    const stale = () => Response.json({ detail: 'It was changed.', version_now: 7 }, { status: 409 })
    answers(stale)
    await sendAll()
    expect(waiting.value).toMatchObject([{ what: 'Tent: 1 carried', why: 'It was changed.', versionNow: 7 }])
    const sent = answers(() => new Response('{}', { status: 200 }))
    await insist(waiting.value[0]!)
    expect(sent.map(({ body }) => body)).toEqual([{ carried: 1, version: 7 }])
    expect(waiting.value).toEqual([])
  })

  it('is no surprise where it was this device that changed the thing before', async () => {
    await unwrapChange(
      api.POST('/api/gear/{id}/weighings', {
        params: { path: { id: GEAR } },
        body: { total: '20 g', pieces: 1 },
        ...orLater('spoon weighs 20 g'),
      }),
    )
    await count(4, { count: 2 })
    markOnline()
    const sent = answers((path) =>
      path.endsWith('version=4')
        ? Response.json({ detail: 'It was changed.', version_now: 5 }, { status: 409 })
        : Response.json({ version: 5 }),
    )
    await sendAll()
    expect(sent.map(({ path }) => path.split('/').at(-1))).toEqual([
      'weighings',
      `${GEAR}?version=4`,
      `${GEAR}?version=5`,
    ])
    expect(waiting.value).toEqual([])
  })

  it('is dropped where it is refused and not wanted any more', async () => {
    await unwrapChange(api.POST('/api/gear/line', { body: { line: '18g' }, ...orLater('Add 18g') }))
    markOnline()
    answers(() => Response.json({ detail: 'A name is missing.' }, { status: 422 }))
    await sendAll()
    expect(waiting.value).toMatchObject([{ why: 'A name is missing.' }])
    drop(waiting.value[0]!)
    expect(localStorage.getItem('kevyt-waiting anna')).toBeNull()
  })

  it('is sent to nobody else’s account, whoever was let in by another tab', async () => {
    await move(3, 1, 'Tent: 1 carried')
    markOnline()
    signedIn = 'ben'
    const sent = answers(() => new Response('{}', { status: 200 }))
    await sendAll()
    expect([sent, whats()]).toEqual([[], ['Tent: 1 carried']])
    signedIn = 'anna'
    await sendAll()
    expect([sent.length, whats()]).toEqual([1, []])
  })
})
