import { afterEach, describe, expect, it, vi } from 'vitest'
import { Problem, send, unwrap } from './client'
import { ended } from './session'

const answered = (status: number, data?: unknown, error?: unknown) =>
  Promise.resolve({ data, error, response: new Response(null, { status }) })

describe('an answer of the server', () => {
  it('is its value when all is well', async () => {
    expect(await unwrap(answered(200, { total: 3 }))).toEqual({ total: 3 })
  })

  it('is a problem with its field when it was refused', async () => {
    const refused = unwrap(
      answered(422, undefined, { code: 'ambiguous', detail: 'Type 1250 or 1.25.', field: 'weight' }),
    )
    await expect(refused).rejects.toMatchObject({
      status: 422,
      code: 'ambiguous',
      field: 'weight',
      message: 'Type 1250 or 1.25.',
    })
    await expect(refused).rejects.toBeInstanceOf(Problem)
  })

  it('is said to be unreadable when something between answers in its own words', async () => {
    for (const body of [
      '<html>Bad gateway</html>',
      undefined,
      { message: 'no' },
      { detail: 12, code: 'x' },
    ]) {
      await expect(unwrap(answered(502, undefined, body))).rejects.toMatchObject({
        status: 502,
        code: 'unexpected',
      })
    }
  })

  it('is said to be missing when nobody answers', async () => {
    const nobody = unwrap(Promise.reject(new TypeError('fetch failed')))
    await expect(nobody).rejects.toMatchObject({ status: 0, code: 'unreachable' })
  })
})

describe('a request that changes something', () => {
  const ask = (method: string) => new Request('http://localhost/api/gear', { method })
  const fetched = vi.spyOn(globalThis, 'fetch')
  const keysSent = () => fetched.mock.calls.map(([sent]) => (sent as Request).headers.get('Idempotency-Key'))
  afterEach(() => void fetched.mockReset())

  it('is sent again under the same name where nobody knows how it came out', async () => {
    fetched
      .mockRejectedValueOnce(new TypeError('fetch failed'))
      .mockResolvedValueOnce(new Response(null, { status: 503 }))
      .mockResolvedValueOnce(new Response(null, { status: 201 }))
    expect((await send(ask('POST'))).status).toBe(201)
    const [first, ...others] = keysSent()
    expect(first).toMatch(/^[0-9a-f]{32}$/)
    expect(others).toEqual([first, first])
  })

  it('is not sent again once it was answered, and another has another name', async () => {
    fetched.mockResolvedValue(new Response(null, { status: 422 }))
    await send(ask('PATCH'))
    await send(ask('PATCH'))
    expect(new Set(keysSent()).size).toBe(2)
  })

  it('is shown as failed after three tries; reading is tried once', async () => {
    fetched.mockRejectedValue(new TypeError('fetch failed'))
    await expect(send(ask('DELETE'))).rejects.toThrow('fetch failed')
    expect(fetched).toHaveBeenCalledTimes(3)
    await expect(send(ask('GET'))).rejects.toThrow('fetch failed')
    expect(keysSent()[3]).toBeNull()
  })
})

describe('a session that has ended', () => {
  const fetched = vi.spyOn(globalThis, 'fetch')
  afterEach(() => void fetched.mockReset())
  const ask = (path: string, method = 'POST') => new Request(`http://localhost${path}`, { method })
  const ended401 = () => new Response(null, { status: 401 })

  it('is asked for on the spot, once for all that waits, and what waited goes on under its own name', async () => {
    fetched
      .mockResolvedValueOnce(ended401())
      .mockResolvedValueOnce(ended401())
      .mockImplementation(async () => new Response(null, { status: 201 }))
    const both = [send(ask('/api/gear')), send(ask('/api/lists'))]
    await vi.waitFor(() => expect(ended.value).not.toBeNull())
    expect(fetched).toHaveBeenCalledTimes(2)
    ended.value?.(true)
    expect((await Promise.all(both)).map(({ status }) => status)).toEqual([201, 201])
    const named = fetched.mock.calls.map(([sent]) => (sent as Request).headers.get('Idempotency-Key'))
    expect([...new Set(named)].sort()).toEqual([...new Set(named.slice(0, 2))].sort())
    expect(ended.value).toBeNull()
  })

  it('stays ended when nobody answers, and is not asked for at the door', async () => {
    fetched.mockImplementation(async () => ended401())
    const refused = send(ask('/api/gear'))
    await vi.waitFor(() => expect(ended.value).not.toBeNull())
    ended.value?.(false)
    expect((await refused).status).toBe(401)
    expect((await send(ask('/api/session'))).status).toBe(401)
    expect(ended.value).toBeNull()
  })
})
