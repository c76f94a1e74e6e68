import { useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import {
  api,
  orLater,
  unwrapChange,
  type BulkChange,
  type Change,
  type Gear,
  type GearChange,
  type GearStatus,
  type Vocabulary,
} from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { gearQuery, kitsQuery, vocabularyQuery } from '@/api/queries'
import { longDay } from '@/quantities/dates'
import { jobName, jobText } from '@/quantities/jobs'
import { withLock, withLocks } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import type { Need } from '@/domain/kinds'
import { SAYABLE, SOURCES, STATUSES } from '@/domain/words'

/** Jobs by key, with how they are named and counted. */
export type KnownJobs = Map<string, Vocabulary['jobs'][number]>

export const sourceName = (thing: Gear) => (thing.weight ? SOURCES[thing.weight.source] : 'none')
/** The source that follows when a thing's own is clicked. */
export const nextSource = (thing: Gear) =>
  SAYABLE[(SAYABLE.findIndex((source) => source === thing.weight?.source) + 1) % SAYABLE.length]!

/** What of a change is shown as it was typed: that may wait for the network. */
const PLAIN = { count: 'pieces', nights: 'nights of use', kept_at: 'kept at', note: 'note' }
const isPlain = (change: GearChange) => Object.keys(change).every((field) => field in PLAIN)
const plainText = (change: GearChange) =>
  Object.entries(PLAIN)
    .flatMap(([field, name]) => (field in change ? [`${name} ${change[field as keyof typeof PLAIN]}`] : []))
    .join(', ')

/** What else there is to say of a thing, in a few words. */
export function about(thing: Gear, kits: string[] | undefined, known: KnownJobs): string {
  const jobs = (of: Record<string, number>) =>
    Object.entries(of)
      .map(([key, n]) => jobText(jobName(key, known), known.get(key)?.unit ?? 'count', n))
      .join(', ')
  const needs = jobs(thing.needs)
  return [
    thing.status === 'owned' ? '' : STATUSES[thing.status],
    ['gift', 'made', 'borrowed'].includes(thing.acquired) ? thing.acquired : '',
    // What is needed is the rule: the word stands where it isn't so.
    thing.need === 'want' ? 'want' : '',
    thing.keep ? 'keep' : '',
    kits?.map((name) => `in ${name}`).join(', '),
    thing.kept_at,
    thing.note,
    (thing.tags ?? []).map((tag) => `#${tag}`).join(' '),
    [jobs(thing.provides), needs && `needs ${needs}`].filter(Boolean).join('; '),
  ]
    .filter(Boolean)
    .join('; ')
}

/** Changes, newest first, by the day on which they were made, where the walker is. */
export function byDay(changes: Change[], now: Date): { name: string; changes: Change[] }[] {
  const yesterday = new Date(now)
  yesterday.setDate(now.getDate() - 1)
  const names = new Map([
    [longDay(now), 'Today'],
    [longDay(yesterday), 'Yesterday'],
  ])
  const days = new Map<string, Change[]>()
  for (const change of changes) {
    const day = longDay(new Date(change.at))
    days.set(day, [...(days.get(day) ?? []), change])
  }
  return [...days].map(([day, changes]) => ({ name: names.get(day) ?? day, changes }))
}

/** Which things are shown by what has become of them. */
export const SHOWN = {
  here: 'what I have',
  all: 'everything',
  want: 'what I want',
  undecided: 'need or want? undecided',
  ...STATUSES,
} as const
export type Shown = keyof typeof SHOWN

export const ORDERS = {
  name: 'by name',
  heavy: 'heaviest first',
  paid: 'dearest first',
  night: 'highest cost per night',
} as const
export type Order = keyof typeof ORDERS

const BY: Record<Order, (a: Gear, b: Gear) => number> = {
  name: () => 0,
  heavy: (a, b) => (b.weight?.unit_mg ?? 0) * b.count - (a.weight?.unit_mg ?? 0) * a.count,
  paid: (a, b) => (b.paid_minor ?? 0) * b.count - (a.paid_minor ?? 0) * a.count,
  night: (a, b) => (b.night_minor ?? 0) - (a.night_minor ?? 0),
}

/** What is looked for. A word is found in names, systems, tags and places; every word has to be. */
export function matches(thing: Gear, words: string[]): boolean {
  const text = searched(thing)
  return words.every((word) => text.includes(word))
}

/** The text that a thing is found by, made once: a thing that changes is a new one. */
const TEXTS = new WeakMap<Gear, string>()
function searched(thing: Gear): string {
  const known = TEXTS.get(thing)
  if (known !== undefined) return known
  const tags = (thing.tags ?? []).map((tag) => `#${tag}`)
  const text = [thing.name, thing.system, thing.kept_at ?? '', thing.note ?? '', ...tags]
    .join(' ')
    .toLowerCase()
  TEXTS.set(thing, text)
  return text
}

const GONE: GearStatus[] = ['sold', 'given', 'worn_out', 'wished']

const isHere = (thing: Gear) => !GONE.includes(thing.status)
function isShown(thing: Gear, shown: Shown): boolean {
  if (shown === 'all') return true
  if (shown === 'here') return isHere(thing)
  if (shown === 'want' || shown === 'undecided') return isHere(thing) && thing.need === (shown satisfies Need)
  return thing.status === shown
}

/** Gear by system, how it is narrowed and how it is changed. */
export function useGear(find: Ref<string>, view: { shown: Shown; order: Order }) {
  const { data: gear, error, refetch } = useQuery(gearQuery)
  const cache = useCacheUpdates()
  const { data: vocabulary } = useQuery(vocabularyQuery)
  const { data: allKits } = useQuery(kitsQuery)
  const { done, failed } = useMessages()
  const undo = useUndo()

  const found = computed(() => {
    const words = find.value.trim().toLowerCase().split(/\s+/).filter(Boolean)
    const { shown, order } = view
    const things = (gear.value ?? []).filter((thing) => isShown(thing, shown) && matches(thing, words))
    // The server sends them by name; sorting is stable.
    return order === 'name' ? things : [...things].sort(BY[order])
  })
  const systems = computed(() => {
    const of = new Map<string, Gear[]>()
    for (const thing of found.value) {
      const things = of.get(thing.system)
      if (things) things.push(thing)
      else of.set(thing.system, [thing])
    }
    return (vocabulary.value?.systems ?? [])
      .map(({ key, name }) => ({ key, name, things: of.get(key) ?? [] }))
      .filter((system) => system.things.length > 0)
  })
  const kits = computed(() => {
    const of = new Map<string, string[]>()
    for (const { name, parts } of allKits.value ?? []) {
      for (const { gear } of parts) of.set(gear, [...(of.get(gear) ?? []), name])
    }
    return of
  })
  /** What is here and of which nobody has said what it is. */
  const unsaid = computed(() => (gear.value ?? []).filter((thing) => isHere(thing) && !thing.kind))
  const tags = computed(() => [...new Set((gear.value ?? []).flatMap((thing) => thing.tags ?? []))].sort())

  const patch = useChange(
    ({ thing, change }: { thing: Gear; change: GearChange }) =>
      unwrapChange(
        api.PATCH('/api/gear/{id}', {
          params: { path: { id: thing.id }, query: { version: thing.version } },
          body: change,
          ...(isPlain(change) && orLater(`${thing.name}: ${plainText(change)}`)),
        }),
        { ...thing, ...change } as Gear,
      ),
    (cache, changed) => cache.thing(changed.value),
  )
  const several = useChange(
    (body: BulkChange) => unwrapChange(api.POST('/api/gear/several', { body })),
    (cache, changed) => cache.versions(changed.value.things),
  )
  const remove = useChange(
    (thing: Gear) =>
      unwrapChange(
        api.DELETE('/api/gear/{id}', {
          params: { path: { id: thing.id }, query: { version: thing.version } },
        }),
      ),
    (cache, _, thing) => cache.thingGone(thing.id),
  )

  return {
    gear,
    error,
    refetch,
    found,
    systems,
    tags,
    unsaid,
    kits,
    vocabulary,
    /**
     * Changes a thing as it is now, after the changes of it that are on their way; at a version if it was typed over that one. Throws
     * what the server refuses.
     */
    change: (thing: Gear, change: GearChange, version?: number) =>
      withLock(`gear ${thing.id}`, () => {
        const now = cache.newest(thing)
        return patch.mutateAsync({ thing: { ...now, version: version ?? now.version }, change })
      }),
    removeThing: async (thing: Gear) => {
      try {
        const removed = await withLock(`gear ${thing.id}`, () => remove.mutateAsync(cache.newest(thing)))
        done(`${thing.name} removed, and its place on every list.`, undo(removed))
      } catch (error) {
        failed(error)
      }
    },
    /** Changes several things at once, as they are now, after the changes of each that are on their way; throws what the server refuses. */
    changeSeveral: async (things: Gear[], change: Omit<BulkChange, 'things'>) => {
      const changed = await withLocks(
        things.map(({ id }) => `gear ${id}`),
        () => several.mutateAsync({ ...change, things: cache.newestOf(things) }),
      )
      const count = things.length === 1 ? 'One thing' : `${things.length} things`
      done(`${count} ${change.remove ? 'removed' : 'changed'}.`, undo(changed))
      return changed
    },
  }
}
