import { useQuery } from '@tanstack/vue-query'
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'
import { listsQuery } from '@/api/queries'

const chosen = useStorage('kevyt-list', '')

/** The account's lists and the one at hand: the one chosen last, else the first. */
export function useLists() {
  const { data: lists, isPending } = useQuery(listsQuery)
  const current = computed(() => lists.value?.find((list) => list.id === chosen.value) ?? lists.value?.[0])
  return { lists, current, isPending, choose: (id: string) => (chosen.value = id) }
}
