import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import type { Packing } from '@/api/client'
import { useLater, withWaiting } from './later'

const asked: { url: string; body: unknown }[] = []
let isAway = false
beforeEach(() => {
  asked.length = 0
  isAway = false
  localStorage.clear()
  vi.useFakeTimers()
  vi.stubGlobal('fetch', async (request: Request) => {
    if (isAway) throw new TypeError('away')
    const text = await request.text()
    asked.push({ url: new URL(request.url).pathname, body: JSON.parse(text) })
    return new Response(null, { status: 204 })
  })
})

/** What is kept, on a page of its own. */
function kept(account = 'anna') {
  const sent = vi.fn()
  const took = vi.fn()
  const refused = vi.fn()
  let later!: ReturnType<typeof useLater>
  const page = mount(
    defineComponent({
      setup() {
        later = useLater(account, 'l', { took, sent, refused })
        return () => null
      },
    }),
  )
  return { later, sent, took, refused, page }
}
const settle = async () => {
  for (let at = 0; at < 8; at++) {
    await vi.advanceTimersByTimeAsync(1_000)
    await flushPromises()
  }
}

describe('what is said on the floor', () => {
  it('is sent at once, field by field, and forgotten once it is there', async () => {
    const { later, sent, took } = kept()
    later.say(({ lines }) => (lines.a = { is_in: true }))
    await settle()
    expect(asked).toEqual([{ url: '/api/lists/l/packing/a', body: { is_in: true } }])
    expect([later.count.value, sent.mock.calls.length > 0]).toEqual([0, true])
    expect(took.mock.calls).toEqual([['l', { lines: { a: { is_in: true } }, orders: {}, done: {} }]])
  })

  it('is kept while the network is away, whatever is opened meanwhile, and sent when it is back', async () => {
    isAway = true
    const { later, page } = kept()
    later.say(({ lines }) => (lines.a = { is_in: true }))
    later.say(({ lines }) => (lines.a = { ...lines.a, zone: 'top' }))
    later.say(({ orders }) => (orders.top = ['a', 'b']))
    later.say(({ done }) => (done.mitts = true))
    await settle()
    expect([later.count.value, asked]).toEqual([3, []])
    const onDevice = JSON.parse(localStorage.getItem('kevyt-packing anna')!)
    expect(onDevice.l.lines).toEqual({ a: { is_in: true, zone: 'top' } })
    page.unmount()
    // Somebody else on the same device has nothing of it.
    expect(kept('bert').later.count.value).toBe(0)

    isAway = false
    const again = kept()
    expect(again.later.count.value).toBe(3)
    await settle()
    expect(asked).toEqual([
      { url: '/api/lists/l/packing/a', body: { is_in: true, zone: 'top' } },
      { url: '/api/lists/l/packing/zones/top', body: { lines: ['a', 'b'] } },
      { url: '/api/lists/l/packing', body: { to_do: { mitts: { done: true } } } },
    ])
    expect(again.later.count.value).toBe(0)
  })

  it('is shown as if it were there', () => {
    const thing = (line: string, zone: string) => ({ line, zone, is_in: false, proposed: true })
    const packing = {
      things: [thing('a', 'top'), thing('b', 'top'), thing('c', 'bottom')],
      zones: [
        { zone: 'top', things: [0, 1] },
        { zone: 'bottom', things: [2] },
      ],
      noted: [{ id: 'x', done: false }],
      missing: [0, 1],
    } as unknown as Packing
    const shown = withWaiting(packing, {
      lines: { a: { is_in: true }, c: { zone: 'top' } },
      orders: { top: ['b', 'a'] },
      done: { x: true },
    })
    expect(shown.zones.map(({ things }) => things)).toEqual([[1, 0, 2], []])
    expect(shown.things.map(({ is_in, proposed }) => [is_in, proposed])).toEqual([
      [true, true],
      [false, true],
      [false, false],
    ])
    expect([shown.missing, shown.noted[0]!.done]).toEqual([[1], true])
  })
})
