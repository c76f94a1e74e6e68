import { useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { listsQuery } from '@/api/queries'

/** The account's lists, and of them the one that an address names; none where it names none, or one that is not there. */
export function useLists(id: MaybeRefOrGetter<string> = '') {
  const { data: lists, error, refetch } = useQuery(listsQuery)
  const current = computed(() => lists.value?.find((list) => list.id === toValue(id)))
  return { lists, current, error, refetch }
}

/** The address of a step for a list; without a list it stands alone. */
export const stepOf = (list: string, step: string) => (list ? `/lists/${list}/${step}` : `/${step}`)
