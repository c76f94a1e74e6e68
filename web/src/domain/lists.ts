import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import type { PackList } from '@/api/client'
import { listsQuery } from '@/api/queries'

/** The account's lists, and of them the one that an address names; none where it names none, or one that is not there. */
export function useLists(id: MaybeRefOrGetter<string> = '') {
  const { data: lists, error, refetch } = useQuery(listsQuery)
  const current = computed(() => lists.value?.find((list) => list.id === toValue(id)))
  return { lists, current, error, refetch }
}

/**
 * What has become of a list that is gone. A backup that is restored makes every list anew: by its name it is the same one, and among several
 * of one name by its place.
 */
export function restoredAs<L extends Pick<PackList, 'id' | 'name'>>(gone: L, before: L[], now: L[]) {
  const only = (some: L[], others: L[]) =>
    some.filter(({ id, name }) => name === gone.name && !others.some((other) => other.id === id))
  return only(now, before)[only(before, now).indexOf(gone)]
}

/** The address of a step for a list; without a list it stands alone. */
export const stepOf = (list: string, step: string) => (list ? `/lists/${list}/${step}` : `/${step}`)
