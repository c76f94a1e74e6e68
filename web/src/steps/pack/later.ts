import { useEventListener } from '@vueuse/core'
import { computed, effectScope, onBeforeUnmount, shallowRef, toValue, type MaybeRefOrGetter } from 'vue'
import { api, Problem, unwrap, type Packing, type Zone } from '@/api/client'
import { withLock } from '@/api/lock'

/** What is said of a line: whether it is in, where it goes. */
export interface LineNote {
  is_in?: boolean
  zone?: Zone
}
/** What was said of a list and has not reached the server yet, field by field: lines, the order of zones, things that are done. */
export interface Waiting {
  lines: Record<string, LineNote>
  orders: Partial<Record<Zone, string[]>>
  done: Record<string, boolean>
}

/** How soon it is tried again where the network is away. */
const AGAIN_MS = 3_000
const nothing = (): Waiting => ({ lines: {}, orders: {}, done: {} })
/** Whether nothing came back: the network is away, or the server. */
const isAway = (error: unknown) => error instanceof Problem && (error.status === 0 || error.status >= 500)

type Kept = Record<string, Waiting>
interface Heard {
  /** The server has this: what was asked of it before is older than that. */
  took: (list: string, said: Waiting) => void
  /** It has all of it. */
  sent: () => void
  refused: (error: unknown) => void
}

/** What waits of an account, list by list, and how it is sent: one for the whole page, which goes on when another step is opened. */
function sender(account: string) {
  const place = `kevyt-packing ${account}`
  const read = (text: string | null): Kept => (text ? (JSON.parse(text) as Kept) : {})
  const kept = shallowRef(read(localStorage.getItem(place)))
  /** Written before anything else happens: a page may be gone the next moment. */
  function keep(next: Kept) {
    kept.value = next
    localStorage.setItem(place, JSON.stringify(next))
  }
  // What another tab says, or has sent.
  useEventListener(window, 'storage', ({ key, newValue }: StorageEvent) => {
    if (key === place) kept.value = read(newValue)
  })
  /** Whoever looks at it now. */
  let heard: Heard | undefined
  let again: ReturnType<typeof setTimeout> | undefined
  let isQueued = false

  async function send() {
    if (isQueued) return
    isQueued = true
    await withLock('packing', async () => {
      isQueued = false
      clearTimeout(again)
      for (const list of Object.keys(kept.value)) await sendAll(list)
    })
  }

  /** One after the other; what was said anew meanwhile is sent after that. */
  async function sendAll(list: string) {
    for (let next = first(list); next; next = first(list)) {
      try {
        await unwrap(next.send() as Promise<{ data?: unknown; response: Response }>)
      } catch (error) {
        if (isAway(error)) {
          again = setTimeout(() => void send(), AGAIN_MS)
          return
        }
        heard?.refused(error)
        next.discard()
        continue
      }
      heard?.took(list, { ...nothing(), ...next.said })
      next.discard()
    }
    const rest = { ...kept.value }
    delete rest[list]
    keep(rest)
    heard?.sent()
  }

  /** The first that waits, how it is sent, and how it is forgotten unless something else was said of it since. */
  function first(list: string) {
    const { lines, orders, done } = kept.value[list] ?? nothing()
    const path = { id: list }
    const discard = (part: keyof Waiting, key: string, said: unknown) => () => {
      const now = kept.value[list]
      if (!now || JSON.stringify(now[part][key as never]) !== JSON.stringify(said)) return
      const left = { ...now, [part]: { ...now[part] } } as Waiting
      delete left[part][key as never]
      keep({ ...kept.value, [list]: left })
    }
    for (const [line, said] of Object.entries(lines))
      return {
        send: () =>
          api.PUT('/api/lists/{id}/packing/{line}', { params: { path: { ...path, line } }, body: said }),
        said: { lines: { [line]: said } },
        discard: discard('lines', line, said),
      }
    for (const [zone, all] of Object.entries(orders) as [Zone, string[]][])
      return {
        send: () =>
          api.PUT('/api/lists/{id}/packing/zones/{zone}', {
            params: { path: { ...path, zone } },
            body: { lines: all },
          }),
        said: { orders: { [zone]: all } },
        discard: discard('orders', zone, all),
      }
    for (const [noted, is] of Object.entries(done))
      return {
        send: () =>
          api.PATCH('/api/lists/{id}/packing', {
            params: { path },
            body: { to_do: { [noted]: { done: is } } },
          }),
        said: { done: { [noted]: is } },
        discard: discard('done', noted, is),
      }
    return undefined
  }

  useEventListener(window, 'online', () => void send())
  return { kept, keep, send, hear: (next: Heard | undefined) => (heard = next) }
}

const senders = new Map<string, ReturnType<typeof sender>>()

/**
 * What is said on the floor, kept on this device until the server has it. The last word counts, field by field, so that what two say of a
 * list while one of them has no network stands side by side.
 */
export function useLater(account: string, list: MaybeRefOrGetter<string>, heard: Heard) {
  const known = senders.get(account) ?? effectScope(true).run(() => sender(account))!
  senders.set(account, known)
  const { kept, keep, send, hear } = known
  hear(heard)
  onBeforeUnmount(() => hear(undefined))
  const waiting = computed(() => kept.value[toValue(list)] ?? nothing())
  const count = computed(() => {
    const { lines, orders, done } = waiting.value
    return Object.keys(lines).length + Object.keys(orders).length + Object.keys(done).length
  })
  void send()
  return {
    waiting,
    count,
    say: (what: (waiting: Waiting) => void) => {
      const said = { ...nothing(), ...plain(waiting.value) }
      what(said)
      keep({ ...kept.value, [toValue(list)]: said })
      void send()
    },
  }
}

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** A list as it is packed once what waits has reached the server. */
export function withWaiting(packing: Packing, { lines, orders, done }: Waiting): Packing {
  const things = packing.things.map((thing) => {
    const said = lines[thing.line]
    return said ? { ...thing, ...said, proposed: said.zone === undefined && thing.proposed } : thing
  })
  const at = new Map(things.map((thing, at) => [thing.line, at]))
  const zones = packing.zones.map((zone) => {
    const order = orders[zone.zone]?.flatMap((line) => at.get(line) ?? [])
    const shown = [...(order ?? []), ...zone.things, ...things.keys()]
    return { ...zone, things: [...new Set(shown)].filter((one) => things[one]!.zone === zone.zone) }
  })
  const noted = packing.noted.map((one) => ({ ...one, done: done[one.id] ?? one.done }))
  const isMissing = (one: number) => !things[one]!.is_in
  return { ...packing, things, zones, noted, missing: packing.missing.filter(isMissing) }
}
