import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** A text of the view that stands in the address, so that it survives a reload. */
export function useRouteQuery(name: string) {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => {
      const value = route.query[name]
      return typeof value === 'string' ? value : ''
    },
    set: (value) => void router.replace({ query: { ...route.query, [name]: value || undefined } }),
  })
}
