import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, takeChanged, type JobAmounts, type ListLine } from '@/api/client'
import { gearQuery, listQuery, useChange, useShown, useUndo, vocabularyQuery } from '@/api/queries'
import { inTurn } from '@/api/turn'
import { useMessages } from '@/controls/messages'

export interface Counts {
  carried: number
  worn: number
  used_up: number
}

/** A list: its lines by system, the shelf, and how lines are changed. */
export function useList(list: MaybeRefOrGetter<string>) {
  const id = computed(() => toValue(list))
  const {
    data: full,
    error,
    refetch,
  } = useQuery(computed(() => ({ ...listQuery(id.value), enabled: id.value !== '' })))
  const shown = useShown()
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

  const put = useChange(
    ({ gearId, ...body }: { gearId: string; version?: number } & Counts) =>
      takeChanged(
        api.PUT('/api/lists/{id}/lines/{gear}', { params: { path: { id: id.value, gear: gearId } }, body }),
      ),
    (shown, changed) => shown.line(id.value, changed.value),
  )
  const undo = useUndo()
  const takeOff = useChange(
    (line: ListLine) =>
      takeChanged(
        api.DELETE('/api/lists/{id}/lines/{gear}', {
          params: { path: { id: id.value, gear: line.gear.id }, query: { version: line.version } },
        }),
      ),
    (shown, _, line) => shown.lineGone(id.value, line.id),
  )

  const patch = useChange(
    ({ version, ...body }: { note: string; requires: JobAmounts; hour_rate: string; version: number }) =>
      takeChanged(
        api.PATCH('/api/lists/{id}', { params: { path: { id: id.value }, query: { version } }, body }),
      ),
    (shown, changed) => shown.list(changed.value),
  )

  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work()
    } catch (error) {
      failed(error)
    }
  }
  /** Changes of one line wait for each other. */
  const lineTurn = <T>(gear: string, work: () => Promise<T>) => inTurn(`line ${id.value} ${gear}`, work)

  return {
    error,
    refetch,
    lines,
    systems,
    shelf,
    /** Changes what the trip requires; throws what the server refuses. */
    changeTrip: patch.mutateAsync,
    list: computed(() => full.value?.list),
    /** Changes a line's counts; throws what the server refuses. */
    count: (line: ListLine, counts: Partial<Counts>) =>
      lineTurn(line.gear.id, () => {
        const { version, carried, worn, used_up } = shown.newestLine(id.value, line)
        return put.mutateAsync({ gearId: line.gear.id, version, carried, worn, used_up, ...counts })
      }),
    /** Puts gear from the shelf on the list, all of it. */
    add: (thing: { id: string; name: string; count: number }, place: keyof Counts = 'carried') =>
      attempt(async () => {
        const added = await lineTurn(thing.id, () =>
          put.mutateAsync({ gearId: thing.id, carried: 0, worn: 0, used_up: 0, [place]: thing.count }),
        )
        done(`${thing.name} is on ${full.value?.list.name}.`, undo(added))
      }),
    /** Takes a line off. */
    remove: (line: ListLine) =>
      attempt(async () => {
        const taken = await lineTurn(line.gear.id, () =>
          takeOff.mutateAsync(shown.newestLine(id.value, line)),
        )
        done(`${line.gear.name} taken off ${full.value?.list.name}.`, undo(taken))
      }),
  }
}
