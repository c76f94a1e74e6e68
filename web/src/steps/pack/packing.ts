import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, unwrap, type PackedThing, type Packing, type PackingNotes, type Zone } from '@/api/client'
import { accountQuery, keys, packingQuery } from '@/api/queries'
import { thereAndBack, useMessages } from '@/controls/messages'
import { withLock } from '@/api/lock'
import { useLater, withWaiting } from './later'

/** A zone's name, and what it is for. */
export const ZONES: Record<Zone, [name: string, use: string]> = {
  top: ['Top', 'while walking'],
  upper_body: ['Upper body', 'first at camp'],
  lower_body: ['Lower body, in the liner', 'stays dry'],
  bottom: ['Bottom', 'out last'],
  front_pocket: ['Front pocket', 'wet things'],
  left_side: ['Left side', ''],
  right_side: ['Right side', ''],
  belt: ['Belt and straps', 'in reach'],
  on_me: ['On me', 'worn, in a pocket'],
}
/** From the top of the pack down, then its pockets, then the walker. */
export const ORDER = Object.keys(ZONES) as Zone[]
/** So many of them are inside the pack. */
export const INSIDE = 4

/** What is still to be done with a thing, beside it. */
const BESIDE = { charge: 'charge', fill: 'fill', refill: 'weigh the can', weigh: 'weigh' } as const

/** A thing in its zone. */
export interface Placed {
  thing: PackedThing
  /** What is still to be done with it. */
  todo: string
  /** Whether the zone has no room left for it. */
  over: boolean
}

/** The things of each zone, in their order. */
export function byZone({ things, zones, to_do }: Packing): Map<Zone, Placed[]> {
  const over = new Set(zones.flatMap((zone) => zone.over))
  const todo = new Map<number, string>()
  for (const { of, task } of to_do)
    if (of != null && task in BESIDE && !todo.has(of)) todo.set(of, BESIDE[task as keyof typeof BESIDE])
  const placed = (at: number) => ({ thing: things[at]!, todo: todo.get(at) ?? '', over: over.has(at) })
  return new Map(zones.map((zone) => [zone.zone, zone.things.map(placed)]))
}

/** How many of the things that go somewhere are in. */
export function progress({ things }: Packing) {
  const all = things.filter((thing) => thing.zone)
  const out = all.filter((thing) => !thing.is_in)
  return {
    all: all.length,
    out: out.length,
    outMg: out.reduce((sum, thing) => sum + (thing.mass_mg ?? 0), 0),
  }
}

/** The zone before or after another. */
export const beside = (zone: Zone, step: number): Zone =>
  ORDER[(ORDER.indexOf(zone) + step + ORDER.length) % ORDER.length]!

/** Lines of a zone with one of them moved by so many places. */
export function reordered(lines: string[], line: string, by: number): string[] {
  const at = lines.indexOf(line)
  const to = Math.min(Math.max(0, at + by), lines.length - 1)
  const rest = lines.filter((other) => other !== line)
  return [...rest.slice(0, to), line, ...rest.slice(to)]
}

/** What was noted before something is noted otherwise. */
export function notesBefore(packing: Packing, notes: PackingNotes): PackingNotes {
  const { reading, of_me, zones, to_do } = notes
  const holds = (zone: string) => {
    const known = packing.zones.find((one) => one.zone === zone)
    return known?.is_own && known.holds_ml != null ? `${known.holds_ml} ml` : null
  }
  const task = (id: string) => packing.noted.find((one) => one.id === id)
  const said = (id: string) => {
    const known = task(id)
    return known ? { task: known.task, what: known.what, by: known.by, done: known.done } : null
  }
  const each = <T>(of: object | null | undefined, before: (key: string) => T) =>
    Object.fromEntries(Object.keys(of ?? {}).map((key) => [key, before(key)]))
  return {
    ...(reading != null && { reading: packing.reading }),
    ...(of_me != null && { of_me: packing.of_me }),
    ...(zones && { zones: each(zones, holds) }),
    ...(to_do && { to_do: each(to_do, said) }),
  } as PackingNotes
}

/** A list as it is packed, and how to pack it. */
export function usePacking(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const queries = useQueryClient()
  const { failed, done, did } = useMessages()
  /** Asks anew. What is asked for already, even for the first time, may be older than what was just said. */
  async function again() {
    const queryKey = keys.packing(id.value)
    await queries.cancelQueries({ queryKey })
    await queries.invalidateQueries({ queryKey })
  }
  const { data: account } = useQuery(accountQuery)
  const { waiting, count, say } = useLater(account.value?.name ?? '', id, {
    took: (list, said) =>
      queries.setQueryData<Packing>(keys.packing(list), (shown) => shown && withWaiting(shown, said)),
    sent: () => void again(),
    refused: failed,
  })
  const { data, error, refetch } = useQuery(
    computed(() => ({ ...packingQuery(id.value), enabled: id.value !== '' })),
  )
  const packing = computed(() => data.value && withWaiting(data.value, waiting.value))
  const linesOf = (zone: Zone) =>
    packing.value?.zones
      .find((one) => one.zone === zone)
      ?.things.map((at) => packing.value!.things[at]!.line) ?? []

  async function send(notes: PackingNotes) {
    await unwrap(api.PATCH('/api/lists/{id}/packing', { params: { path: { id: id.value } }, body: notes }))
    await again()
  }
  /** Says something of the packing and waits until the server has taken it: what can't be read is refused where it was typed. */
  async function note(notes: PackingNotes, report = '') {
    const before = packing.value && notesBefore(packing.value, notes)
    await send(notes)
    if (!before) return
    const [there, back] = [() => send(notes), () => send(before)]
    if (report) done(report, thereAndBack(there, back))
    else did('What was noted of the pack changed.', there, back)
  }
  const setIn = (thing: PackedThing, isIn: boolean) =>
    say(({ lines }) => (lines[thing.line] = { ...lines[thing.line], is_in: isIn }))
  const setOrder = (zone: Zone, order: string[]) => say(({ orders }) => (orders[zone] = order))
  const setDone = (noted: string, isDone: boolean) => say(({ done }) => (done[noted] = isDone))
  const setZone = (thing: PackedThing, zone: Zone) =>
    say(({ lines, orders }) => {
      lines[thing.line] = { ...lines[thing.line], zone }
      for (const order of Object.values(orders))
        if (order.includes(thing.line)) order.splice(order.indexOf(thing.line), 1)
    })

  return {
    packing,
    error,
    refetch,
    /** So many words that have not reached the server. */
    waiting: count,
    tick: (thing: PackedThing, isIn: boolean) => {
      setIn(thing, isIn)
      const [there, back] = [isIn, !isIn].map((is) => () => setIn(thing, is)) as [() => void, () => void]
      did(`${thing.name} ${isIn ? 'ticked in' : 'ticked out'}.`, there, back)
    },
    move: (thing: PackedThing, zone: Zone) => {
      const [from, order] = [thing.zone, thing.zone ? linesOf(thing.zone) : []]
      setZone(thing, zone)
      const back = () => {
        if (!from) return
        setZone(thing, from)
        setOrder(from, order)
      }
      did(`${thing.name} moved to ${ZONES[zone][0]}.`, () => setZone(thing, zone), back)
    },
    shift: (thing: PackedThing, by: number) => {
      const [zone, order] = [thing.zone!, linesOf(thing.zone!)]
      const moved = reordered(order, thing.line, by)
      setOrder(zone, moved)
      did(
        `${thing.name} moved within ${ZONES[zone][0]}.`,
        () => setOrder(zone, moved),
        () => setOrder(zone, order),
      )
    },
    setDone: (noted: string, isDone: boolean) => {
      const what = packing.value?.noted.find(({ id }) => id === noted)?.what ?? 'A task'
      setDone(noted, isDone)
      did(
        `${what} ${isDone ? 'done' : 'open again'}.`,
        () => setDone(noted, isDone),
        () => setDone(noted, !isDone),
      )
    },
    note,
    /** Takes all ticks away; they can be had back. */
    unpack: async () => {
      const ticked = packing.value?.things.filter((thing) => thing.is_in) ?? []
      try {
        // What is ticked and still waits is not ticked any more either, and what is under way comes first.
        say(({ lines }) => {
          for (const line of Object.keys(lines)) {
            delete lines[line]!.is_in
            if (Object.keys(lines[line]!).length === 0) delete lines[line]
          }
        })
        const path = { id: id.value }
        await withLock('packing', () => unwrap(api.DELETE('/api/lists/{id}/packing', { params: { path } })))
        done('Nothing is ticked any more.', async () => {
          for (const thing of ticked) setIn(thing, true)
        })
      } catch (problem) {
        failed(problem)
      }
      await again()
    },
  }
}
