import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import {
  api,
  orLater,
  unwrap,
  unwrapChange,
  type Caution,
  type ListChange,
  type Place,
  type Sheet,
  type SheetLine,
} from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { gearQuery, keys, sheetQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import { moved, nameOf, PLACES, spans, type Span } from './equation'

/** What a list's line is put as. */
type Counts = Record<Place, number>

/** Pieces by where they are, in words. */
const placesText = (counts: Partial<Counts>) =>
  PLACES.flatMap(({ place, name }) => (counts[place] ? [`${counts[place]} ${name.toLowerCase()}`] : [])).join(
    ', ',
  ) || 'on the list'

/** A list with all that is calculated of it, and how its lines are moved. */
export function useSheet(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const queries = useQueryClient()
  const cache = useCacheUpdates()
  const undo = useUndo()
  const { done, failed } = useMessages()
  const {
    data: sheet,
    error,
    refetch,
  } = useQuery(computed(() => ({ ...sheetQuery(id.value), enabled: id.value !== '' })))
  const { data: gear } = useQuery(gearQuery)

  /** What is brought for the joy of it, by its id. */
  const wants = computed(
    () => new Set((gear.value ?? []).filter((thing) => thing.need === 'want').map((thing) => thing.id)),
  )
  /** What is owned and not on the list. */
  const shelf = computed(() => {
    const on = new Set(sheet.value?.lines.map((line) => line.gear))
    return (gear.value ?? []).filter((thing) => !on.has(thing.id))
  })

  /** The list before its last change, to hold the present one against. */
  const before = ref<Span[] | null>(null)
  watch(id, () => (before.value = null))
  const remember = () => {
    if (sheet.value) before.value = spans(sheet.value.lines, sheet.value.me)
  }

  const listVersion = () => cache.newestList(id.value)?.version ?? sheet.value?.list.version ?? 0

  const put = useChange(
    ({ gearId, name, ...body }: { gearId: string; name: string; version?: number } & Partial<Counts>) =>
      unwrapChange(
        api.PUT('/api/lists/{id}/lines/{gear}', {
          params: { path: { id: id.value, gear: gearId } },
          body,
          ...orLater(`${name}: ${placesText(body)}`),
        }),
      ),
    (cache, changed) => changed.waits || cache.line(id.value, changed.value),
  )
  const takeOff = useChange(
    ({ gear, version, id: line }: SheetLine) =>
      unwrapChange(
        api.DELETE('/api/lists/{id}/lines/{gear}', {
          params: { path: { id: id.value, gear }, query: { version } },
        }),
      ).then((changed) => ({ ...changed, line })),
    (cache, changed) => cache.lineGone(id.value, changed.line),
  )
  const patch = useChange(
    (body: ListChange) =>
      unwrapChange(
        api.PATCH('/api/lists/{id}', {
          params: { path: { id: id.value }, query: { version: listVersion() } },
          body,
        }),
      ),
    (cache, changed) => cache.list(changed.value),
  )
  const countBy = useChange(
    (way: string) =>
      unwrapChange(
        api.POST('/api/lists/{id}/count-by', {
          params: { path: { id: id.value }, query: { version: listVersion() } },
          body: { way },
        }),
      ),
    (cache, changed) => cache.list(changed.value),
  )

  const knowing = useChange((body: { key: string; known: boolean }) =>
    unwrapChange(api.POST('/api/lists/{id}/cautions', { params: { path: { id: id.value } }, body })),
  )
  const confirming = useChange(
    async ({ gear, job }: { gear: string; job: string }) => {
      const { version } = await unwrap(api.GET('/api/gear/{id}', { params: { path: { id: gear } } }))
      return unwrapChange(
        api.PATCH('/api/gear/{id}', {
          params: { path: { id: gear }, query: { version } },
          body: { confirm: [job] },
        }),
      )
    },
    (cache, changed) => cache.thing(changed.value),
  )

  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work()
    } catch (error) {
      failed(error)
    }
  }
  const newest = (line: SheetLine) =>
    queries.getQueryData<Sheet>(keys.sheet(id.value))?.lines.find((one) => one.id === line.id) ?? line

  /** Moves pieces of a line; the sums follow at once, and what the server refuses goes back. */
  const move = (line: SheetLine, from: Place, to: Place, pieces: number) => {
    if (from === to || pieces < 1) return
    remember()
    const show = (a: Place, b: Place) =>
      queries.setQueryData<Sheet>(keys.sheet(id.value), (now) => now && moved(now, line.id, a, b, pieces))
    show(from, to)
    return attempt(() =>
      withLock(`line ${id.value} ${line.gear}`, async () => {
        const { version, carried, worn, used_up, apart, left } = newest(line)
        try {
          const changed = await put.mutateAsync({
            gearId: line.gear,
            name: line.name,
            version,
            carried,
            worn,
            used_up,
            apart,
            left,
          })
          done(`${line.name}: ${nameOf(to).toLowerCase()}.`, undo(changed))
        } catch (error) {
          show(to, from)
          throw error
        }
      }),
    )
  }

  const lineOf = (gear: string) => sheet.value?.lines.find((line) => line.gear === gear)
  /** Puts gear on the list, all of it, where such things start. */
  const add = (thing: { id: string; name: string; count: number }) =>
    attempt(async () => {
      remember()
      const line = lineOf(thing.id)
      const added = await withLock(`line ${id.value} ${thing.id}`, () =>
        put.mutateAsync(
          line
            ? { gearId: thing.id, name: thing.name, version: newest(line).version, carried: thing.count }
            : { gearId: thing.id, name: thing.name },
        ),
      )
      done(`${thing.name} is on the list.`, undo(added))
    })

  return {
    id,
    sheet,
    error,
    refetch,
    shelf,
    wants,
    before,
    move,
    add,
    /** Takes gear along that stays home, on this list or altogether. */
    bring: (gear: string, name: string) => {
      const line = lineOf(gear)
      return line ? move(line, 'left', 'carried', line.left) : add({ id: gear, name, count: 1 })
    },
    /** Takes a line off. */
    remove: (line: SheetLine) =>
      attempt(async () => {
        remember()
        const taken = await withLock(`line ${id.value} ${line.gear}`, () => takeOff.mutateAsync(newest(line)))
        done(`${line.name} taken off the list.`, undo(taken))
      }),
    /** Acknowledges a caution as it stands, or has it told again. */
    know: ({ key }: Caution, known: boolean) =>
      attempt(async () => {
        const said = await withLock(`list ${id.value}`, () => knowing.mutateAsync({ key, known }))
        done(known ? 'Caution folded until it gets worse.' : 'Caution told again.', undo(said))
      }),
    /** Says that an assumed figure of some things is right. */
    confirm: (gear: string[], job: string) =>
      attempt(async () => {
        for (const one of gear) {
          const said = await withLock(`gear ${one}`, () => confirming.mutateAsync({ gear: one, job }))
          done(`${said.value.name}: no longer assumed.`, undo(said))
        }
      }),
    /** Lays the list out by a way of counting. */
    countBy: (way: string, name: string) =>
      attempt(async () => {
        remember()
        const changed = await withLock(`list ${id.value}`, () => countBy.mutateAsync(way))
        done(`The list is counted another way: ${name.toLowerCase()}.`, undo(changed))
      }),
    /** Changes the trip, what it requires, ways of counting, by what `body` then says; throws what the server refuses. */
    change: (body: () => ListChange, said: string) =>
      withLock(`list ${id.value}`, async () => {
        const changed = await patch.mutateAsync(body())
        done(said, undo(changed))
      }),
  }
}

export type ListSheet = ReturnType<typeof useSheet>
