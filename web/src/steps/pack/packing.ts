import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, toValue, type MaybeRefOrGetter } from 'vue'
import { api, take, type PackedThing, type Packing, type Zone } from '@/api/client'
import { keys, packingQuery } from '@/api/queries'
import { inTurn } from '@/api/turn'
import { useMessages } from '@/controls/messages'

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
  const placed = new Map<Zone, Placed[]>(ORDER.map((zone) => [zone, []]))
  things.forEach((thing, at) => {
    if (thing.zone) placed.get(thing.zone)!.push({ thing, todo: todo.get(at) ?? '', over: over.has(at) })
  })
  return placed
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

interface SaidOfThing {
  is_in?: boolean
  zone?: Zone
}

/** The zone before or after another. */
export const beside = (zone: Zone, step: number): Zone =>
  ORDER[(ORDER.indexOf(zone) + step + ORDER.length) % ORDER.length]!

/** A list as it is packed, and how to pack it. */
export function usePacking(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const reading = ref('')
  const ofMe = ref('')
  const { data, error, refetch } = useQuery(
    computed(() => ({
      ...packingQuery(id.value, reading.value, ofMe.value),
      enabled: id.value !== '',
      placeholderData: keepPreviousData,
    })),
  )
  const queries = useQueryClient()
  const { failed, done } = useMessages()
  /** What was said and is on its way: what the server shows meanwhile is older than what is shown. */
  let underWay = 0

  /** Shows it at once; what was asked for before that would show it as it was. */
  async function show(thing: PackedThing, said: SaidOfThing) {
    const key = keys.packing(id.value)
    underWay += 1
    await queries.cancelQueries({ queryKey: key })
    queries.setQueriesData<Packing>(
      { queryKey: key },
      (shown) =>
        shown && {
          ...shown,
          things: shown.things.map((one) =>
            one.line === thing.line
              ? { ...one, ...said, proposed: said.zone === undefined && one.proposed }
              : one,
          ),
        },
    )
  }

  async function send(thing: PackedThing, said: SaidOfThing) {
    try {
      await inTurn(`pack ${thing.line}`, () =>
        take(
          api.PUT('/api/lists/{id}/packing/{line}', {
            params: { path: { id: id.value, line: thing.line } },
            body: said,
          }),
        ),
      )
    } catch (problem) {
      failed(problem)
    }
    underWay -= 1
    if (underWay === 0) await queries.invalidateQueries({ queryKey: keys.packing(id.value) })
  }

  /** Says it here, and to the server behind that; done once it is shown. */
  async function say(thing: PackedThing, said: SaidOfThing) {
    await show(thing, said)
    void send(thing, said)
  }

  return {
    packing: data,
    error,
    refetch,
    reading,
    ofMe,
    tick: (thing: PackedThing, isIn: boolean) => say(thing, { is_in: isIn }),
    move: (thing: PackedThing, zone: Zone) => say(thing, { zone }),
    /** Takes all ticks away; they can be had back. */
    unpack: async () => {
      const ticked = data.value?.things.filter((thing) => thing.is_in) ?? []
      try {
        await take(api.DELETE('/api/lists/{id}/packing', { params: { path: { id: id.value } } }))
        done('Nothing is ticked any more.', () =>
          Promise.all(ticked.map((thing) => say(thing, { is_in: true }))),
        )
      } catch (problem) {
        failed(problem)
      }
      await queries.invalidateQueries({ queryKey: keys.packing(id.value) })
    },
  }
}
