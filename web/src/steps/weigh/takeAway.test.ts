import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, refused, used } from '@/tests/mounted'
import { useTakeAway } from './takeAway'

const post = vi.spyOn(api, 'POST')
const thing = (name: string, count = 1) => ({ gear: `id of ${name}`, name, count })
/** The server's part: a piece for each drop, and what is left above the container. */
const serve = () =>
  post.mockImplementation((async (_: string, { body }: { body: Asked }) => {
    const readings = body.readings_mg ?? []
    const drops = readings.slice(1).map((mg, at) => readings[at]! - mg)
    if (drops.some((mg) => mg <= 0)) return refused('Nothing was taken off.')
    return answered({ pieces_mg: drops, left_over_mg: readings.at(-1)! - (body.container_mg ?? 0) })
  }) as never)
interface Asked {
  readings_mg?: number[]
  container_mg?: number
}

beforeEach(() => {
  sessionStorage.clear()
  post.mockReset()
  serve()
})

describe('weighing by taking away', () => {
  it('takes everything first, then a piece with each drop', async () => {
    const { given: away } = used(useTakeAway)
    away.start(44_000)
    expect(await away.reading(600_000, 1_000, thing('quilt'))).toBe(true)
    expect(away.draft.value.things).toEqual([])
    expect(away.leftOver.value).toBe(556_000)
    await away.reading(121_000, 1_000, thing('quilt'))
    await away.reading(45_000, 1_000, thing('stakes', 8))
    expect(away.pieces.value).toEqual([479_000, 76_000])
    expect(away.leftOver.value).toBe(1_000)
    expect(away.draft.value.things.map((one) => one.name)).toEqual(['quilt', 'stakes'])
  })

  it('loses nothing to a reading that is refused, and puts the last piece back', async () => {
    const { given: away } = used(useTakeAway)
    away.start(0)
    await away.reading(600_000, 1_000, null)
    await away.reading(121_000, 1_000, thing('quilt'))
    expect(await away.reading(121_000, 1_000, thing('stakes'))).toBe(false)
    expect(away.refusal.value).toBe('Nothing was taken off.')
    expect(away.draft.value.readings_mg).toEqual([600_000, 121_000])
    await away.putBack()
    expect([away.refusal.value, away.draft.value.readings_mg, away.pieces.value]).toEqual(['', [600_000], []])
    expect(away.draft.value.things).toEqual([])
    await away.putBack()
    expect([away.started.value, away.leftOver.value]).toEqual([false, null])
  })

  it('takes up where it was when the page is loaded again', async () => {
    const before = used(useTakeAway)
    before.given.start(0)
    await before.given.reading(600_000, 1_000, null)
    await before.given.reading(121_000, 1_000, thing('quilt'))
    await flushPromises()
    before.leave()
    const { given: after } = used(useTakeAway)
    await flushPromises()
    expect([after.on.value, after.pieces.value, after.leftOver.value]).toEqual([true, [479_000], 121_000])
    expect(after.draft.value.things).toEqual([thing('quilt')])
  })

  it('asks whether what is left on the scale stays there', async () => {
    const { given: away } = used(useTakeAway)
    away.start(0)
    await away.reading(600_000, 1_000, null)
    await away.reading(121_000, 1_000, thing('quilt'))
    expect(away.leftOn.value).toBe(true)
    post.mockResolvedValueOnce(answered([], 'change 8') as never)
    await away.save('kitchen scale', true)
    expect(post.mock.lastCall).toMatchObject([
      '/api/weigh/take-away/weighings',
      { body: { left_mg: 121_000 } },
    ])
  })

  it('is saved as one change, or stays with what was refused', async () => {
    const { given: away } = used(useTakeAway)
    away.start(0)
    await away.reading(600_000, 1_000, null)
    await away.reading(0, 1_000, thing('quilt'))
    post.mockResolvedValueOnce(refused('The quilt is gone.') as never)
    await away.save('kitchen scale')
    expect([away.refusal.value, away.on.value]).toEqual(['The quilt is gone.', true])

    post.mockResolvedValueOnce(answered([], 'change 7') as never)
    await away.save('kitchen scale')
    expect(post).toHaveBeenLastCalledWith('/api/weigh/take-away/weighings', {
      body: {
        weighing: { container_mg: 0, readings_mg: [600_000, 0], step_mg: 1_000 },
        things: [{ gear: 'id of quilt', count: 1 }],
        scale: 'kitchen scale',
        left_mg: null,
      },
    })
    expect(away.on.value).toBe(false)
    const { messages } = useMessages()
    expect(messages.value.at(-1)?.text).toBe('1 thing weighed by taking away.')
    expect(messages.value.at(-1)?.undo).toBeDefined()
  })
})
