import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** What is opened on a page, by its name in the address: opening it is a step that Back takes back. */
export const useOpened = (name: string) => useQueryText(name, true)

/** A text of the view that stands in the address, so that it survives a reload. */
export const useRouteQuery = (name: string) => useQueryText(name, false)

function useQueryText(name: string, isStep: boolean) {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => {
      const value = route.query[name]
      return typeof value === 'string' ? value : ''
    },
    set: (value) => {
      const query = { ...route.query, [name]: value || undefined }
      void (isStep && value ? router.push({ query }) : router.replace({ query }))
    },
  })
}
