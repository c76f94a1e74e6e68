// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { Problem, take } from './client'

const answered = (status: number, data?: unknown, error?: unknown) =>
  Promise.resolve({ data, error, response: new Response(null, { status }) })

describe('an answer of the server', () => {
  it('is its value when all is well', async () => {
    expect(await take(answered(200, { total: 3 }))).toEqual({ total: 3 })
  })

  it('is a problem with its field when it was refused', async () => {
    const refused = take(
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
      await expect(take(answered(502, undefined, body))).rejects.toMatchObject({
        status: 502,
        code: 'unexpected',
      })
    }
  })

  it('is said to be missing when nobody answers', async () => {
    const nobody = take(Promise.reject(new TypeError('fetch failed')))
    await expect(nobody).rejects.toMatchObject({ status: 0, code: 'unreachable' })
  })
})
