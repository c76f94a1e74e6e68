import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take, takeChanged, type JobAmounts, type ListLine } from '@/api/client'
import { gearQuery, listQuery, useChange, useUndo, vocabularyQuery } from '@/api/queries'
import { useLists } from '@/shell/lists'
import { useMessages } from '@/shell/messages'

export interface Counts {
  carried: number
  worn: number
  used_up: number
}

/** The list at hand: its lines by system, the shelf, and how lines are changed. */
export function useList() {
  const { current, isPending } = useLists()
  const id = computed(() => current.value?.id ?? '')
  const { data: full, error } = useQuery(
    computed(() => ({ ...listQuery(id.value), enabled: id.value !== '' })),
  )
  const { data: gear } = useQuery(gearQuery)
  const { data: vocabulary } = useQuery(vocabularyQuery)
  const { done, failed } = useMessages()

  const lines = computed(() => full.value?.lines ?? [])
  const systems = computed(() =>
    (vocabulary.value?.systems ?? [])
      .map((system) => ({ ...system, lines: lines.value.filter((line) => line.gear.system === system.key) }))
      .filter((system) => system.lines.length > 0),
  )
  const shelf = computed(() => {
    const on = new Set(lines.value.map((line) => line.gear.id))
    return (gear.value ?? []).filter((thing) => !on.has(thing.id))
  })

  const put = useChange(({ gearId, ...body }: { gearId: string; version?: number } & Counts) =>
    take(api.PUT('/api/lists/{id}/lines/{gear}', { params: { path: { id: id.value, gear: gearId } }, body })),
  )
  const undo = useUndo()
  const takeOff = useChange((line: ListLine) =>
    takeChanged(
      api.DELETE('/api/lists/{id}/lines/{gear}', {
        params: { path: { id: id.value, gear: line.gear.id }, query: { version: line.version } },
      }),
    ),
  )

  const patch = useChange((body: { note: string; requires: JobAmounts; hour_rate: string }) =>
    take(
      api.PATCH('/api/lists/{id}', {
        params: { path: { id: id.value }, query: { version: full.value?.list.version ?? 0 } },
        body,
      }),
    ),
  )

  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work()
    } catch (error) {
      if (error instanceof Error) failed(error)
    }
  }

  return {
    current,
    isPending,
    error,
    lines,
    systems,
    shelf,
    /** Changes what the trip requires; throws what the server refuses. */
    changeTrip: patch.mutateAsync,
    list: computed(() => full.value?.list),
    /** Changes a line's counts; throws what the server refuses. */
    count: (line: ListLine, counts: Partial<Counts>) =>
      put.mutateAsync({
        gearId: line.gear.id,
        version: line.version,
        carried: line.carried,
        worn: line.worn,
        used_up: line.used_up,
        ...counts,
      }),
    /** Puts gear from the shelf on the list, all of it. */
    add: (thing: { id: string; count: number }, place: keyof Counts = 'carried') =>
      attempt(() =>
        put.mutateAsync({ gearId: thing.id, carried: 0, worn: 0, used_up: 0, [place]: thing.count }),
      ),
    /** Takes a line off. */
    remove: (line: ListLine) =>
      attempt(async () => {
        const taken = await takeOff.mutateAsync(line)
        done(`${line.gear.name} taken off ${current.value?.name}.`, undo(taken))
      }),
  }
}
