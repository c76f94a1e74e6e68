import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import {
  api,
  orLater,
  unwrapChange,
  type Lessons,
  type ListChange,
  type TripChange,
  type TripLine,
  type TripSaid,
  type TripThing,
} from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { historyQuery, proposalsQuery, lessonsQuery, sheetQuery, tripQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { reason, useMessages } from '@/controls/messages'
import { useKeepTrip } from '@/domain/keepTrip'
import type { Lesson } from '@/domain/lessons'
import { useSettings } from '@/domain/settings'

/** Says what was done, with its undo, or why it was not. */
function useSaying() {
  const { done, failed } = useMessages()
  const undo = useUndo()
  return async (text: string, work: () => Promise<{ change: string | null }>) => {
    try {
      done(text, undo(await work()))
      return true
    } catch (error) {
      failed(error)
      return false
    }
  }
}

/** The trips of the account, what they teach, how a list's base weight came to be, and what can be done about it. */
export function useTrips(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const { data: lessons, error, refetch } = useQuery(lessonsQuery)
  const { data: history } = useQuery(
    computed(() => ({ ...historyQuery(id.value), enabled: id.value !== '' })),
  )
  const { data: sheet } = useQuery(computed(() => ({ ...sheetQuery(id.value), enabled: id.value !== '' })))
  const { data: proposals } = useQuery(
    computed(() => ({ ...proposalsQuery(id.value), enabled: id.value !== '' })),
  )
  const { settings, set } = useSettings()
  const cache = useCacheUpdates()
  const say = useSaying()
  const { failed } = useMessages()

  const changed = <Input>(ask: (input: Input) => Promise<{ change: string | null }>) =>
    useChange<Input, { change: string | null }>(ask).mutateAsync
  const silence = changed((lesson: string) =>
    unwrapChange(api.POST('/api/lessons/silence', { body: { lesson } })),
  )
  const leaveOut = changed((name: string) =>
    unwrapChange(
      api.POST('/api/lists/{id}/proposals/take', {
        params: { path: { id: id.value } },
        body: { key: `leave ${name}` },
      }),
    ),
  )
  const wish = changed((name: string) =>
    unwrapChange(
      api.POST('/api/lists/{id}/swaps', {
        params: { path: { id: id.value } },
        body: { kind: 'add', add: [{ name, qty: 1, place: 'carried' }] } as never,
      }),
    ),
  )
  const bring = changed((gear: string) =>
    unwrapChange(
      api.PUT('/api/lists/{id}/lines/{gear}', {
        params: { path: { id: id.value, gear } },
        body: { carried: 1 },
      }),
    ),
  )
  const patch = changed((body: ListChange) =>
    unwrapChange(
      api.PATCH('/api/lists/{id}', {
        params: {
          path: { id: id.value },
          query: { version: cache.newestList(id.value)?.version ?? sheet.value!.list.version },
        },
        body,
      }),
    ),
  )
  const add = changed((body: { starts_on: string; nights?: number; name?: string }) =>
    unwrapChange(api.POST('/api/trips', { body: { list: id.value, ...body } })),
  )
  const remove = changed((trip: TripLine) =>
    unwrapChange(
      api.DELETE('/api/trips/{id}', { params: { path: { id: trip.id }, query: { version: trip.version } } }),
    ),
  )
  /** Why a lesson can't be taken up on the list at hand; nothing if it can. */
  function hindrance({ act }: Lesson): string {
    const gear = act && 'gear' in act ? act.gear : ''
    const line = sheet.value?.lines.find((line) => line.gear === gear)
    if (act?.kind === 'bring' && line) return 'It is on this list.'
    if (act?.kind !== 'leave_out') return ''
    if (!line?.carried) return 'It is not carried on this list.'
    const isProposed = proposals.value?.some((one) => one.key === `leave ${act.name}`)
    return isProposed ? '' : 'A swap leaves it out, or something needs it here.'
  }

  async function act({ act }: Lesson) {
    if (act?.kind === 'leave_out')
      await say(`Leave out ${act.name} is a swap now: Plan counts with it.`, () => leaveOut(act.name))
    else if (act?.kind === 'wish')
      await say(`${act.name} is a swap now. Type its weight and price under Swaps.`, () => wish(act.name))
    else if (act?.kind === 'bring') await say(`${act.name} comes along on this list.`, () => bring(act.gear))
    else if (act?.kind === 'offset')
      try {
        await set({ sleeper_offset_tenth_c: act.tenthC }, 'Cautions of cold count with it now.')
      } catch (error) {
        failed(error)
      }
  }

  return {
    lessons,
    history,
    sheet,
    error,
    refetch,
    offset: computed(() => settings.value?.sleeper_offset_tenth_c ?? 0),
    hindrance,
    act,
    silence: (lesson: Lesson) => say(`${lesson.title}: dismissed.`, () => silence(lesson.key)),
    setRate: (name: string, body: ListChange) => say(`${name} is set on this trip.`, () => patch(body)),
    add: (body: { starts_on: string; nights?: number; name?: string }) => add(body),
    remove: (trip: TripLine) => say(`${trip.name} removed.`, () => remove(trip)),
    keep: useKeepTrip(),
  }
}

/** One trip with its things, and how it is looked back on. */
export function useTrip(id: MaybeRefOrGetter<string>) {
  const trip = computed(() => toValue(id))
  const { data, error, refetch } = useQuery(computed(() => tripQuery(trip.value)))
  const say = useSaying()
  const undo = useUndo()
  const { done, failed } = useMessages()
  const cache = useCacheUpdates()

  const patch = useChange(
    (body: TripChange) =>
      unwrapChange(
        api.PATCH('/api/trips/{id}', {
          params: { path: { id: trip.value }, query: { version: cache.newestTrip(trip.value)!.version } },
          body,
        }),
      ),
    (cache, { value }) => cache.trip(value),
  )
  const sayOf = useChange(
    ({ thing, name, ...body }: TripSaid & { thing: string; name: string }) =>
      unwrapChange(
        api.PATCH('/api/trips/{id}/things/{thing}', {
          params: { path: { id: trip.value, thing } },
          body,
          ...orLater(`${name}: reviewed`),
        }),
      ),
    (cache, { value, waits }) => waits || cache.tripThing(trip.value, value),
  )
  const wish = useChange(
    (body: { gear?: string; name?: string }) =>
      unwrapChange(api.POST('/api/trips/{id}/things', { params: { path: { id: trip.value } }, body })),
    (cache, { value }) => cache.tripThing(trip.value, value),
  )
  const unwish = useChange((thing: string) =>
    unwrapChange(
      api.DELETE('/api/trips/{id}/things/{thing}', { params: { path: { id: trip.value, thing } } }),
    ),
  )
  return {
    data,
    error,
    refetch,
    /** Changes what is typed of the trip; throws what the server refuses. */
    change: (body: TripChange) =>
      withLock(`trip ${trip.value}`, async () => {
        const changed = await patch.mutateAsync(body)
        done('Trip changed.', undo(changed))
      }),
    /** Says something of a thing: shown at once, and sent behind that. */
    sayOf: ({ id: thing, name }: TripThing, said: TripSaid) => {
      cache.saidOf(trip.value, thing, said)
      return withLock(`trip thing ${thing}`, () =>
        sayOf.mutateAsync({ thing, name, ...said }).catch((error: unknown) => {
          // What was typed stands in the message, to be said again.
          failed(new Error(`${name}${said.note ? `, “${said.note}”` : ''}: ${reason(error)}`))
        }),
      )
    },
    wish: (body: { gear?: string; name?: string }) => wish.mutateAsync(body),
    unwish: (thing: string, name: string) =>
      say(`${name} is no longer wished for.`, () => unwish.mutateAsync(thing)),
  }
}

/** Past ones newest first; those to come, the next first. */
export function sorted({ trips }: Lessons) {
  const walked = trips.filter(({ trip }) => trip.kept_at).reverse()
  return { walked, coming: trips.filter(({ trip }) => !trip.kept_at) }
}
