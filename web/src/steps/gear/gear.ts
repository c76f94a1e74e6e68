import { useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, take, type Gear, type GearChange } from '@/api/client'
import { gearQuery, useChange, vocabularyQuery } from '@/api/queries'
import { useMessages } from '@/shell/messages'

/** Gear by system, and how it is changed. `filter` narrows by name. */
export function useGear(filter: Ref<string>) {
  const { data: gear, isPending, error } = useQuery(gearQuery)
  const { data: vocabulary } = useQuery(vocabularyQuery)
  const { done, failed } = useMessages()

  const found = computed(() => {
    const wanted = filter.value.trim().toLowerCase()
    return (gear.value ?? []).filter((thing) => thing.name.toLowerCase().includes(wanted))
  })
  const systems = computed(() =>
    (vocabulary.value?.systems ?? [])
      .map((system) => ({ ...system, things: found.value.filter((thing) => thing.system === system.key) }))
      .filter((system) => system.things.length > 0),
  )

  const patch = useChange(({ thing, change }: { thing: Gear; change: GearChange }) =>
    take(
      api.PATCH('/api/gear/{id}', {
        params: { path: { id: thing.id }, query: { version: thing.version } },
        body: change,
      }),
    ),
  )
  const restore = useChange((id: string) =>
    take(api.POST('/api/gear/{id}/restore', { params: { path: { id } } })),
  )
  const remove = useChange((thing: Gear) =>
    take(
      api.DELETE('/api/gear/{id}', { params: { path: { id: thing.id }, query: { version: thing.version } } }),
    ),
  )

  return {
    gear,
    isPending,
    error,
    systems,
    vocabulary,
    /** Changes a thing; throws what the server refuses. */
    change: (thing: Gear, change: GearChange) => patch.mutateAsync({ thing, change }),
    removeThing: async (thing: Gear) => {
      try {
        await remove.mutateAsync(thing)
        done(`${thing.name} removed, and its place on every list.`, () => restore.mutateAsync(thing.id))
      } catch (error) {
        if (error instanceof Error) failed(error)
      }
    },
  }
}
