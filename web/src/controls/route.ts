import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** What is opened on a page, by its name in the address: opening it is a step that Back takes back. */
export const useOpened = (name: string) => useQueryText(name, true)

/** Whether a dialog is open, which the address says by its name (`?open=`): Back closes it, and a link opens it. */
export function useDialog(name: string) {
  const open = useOpened('open')
  return computed({
    get: () => open.value === name,
    set: (is) => {
      if (is) open.value = name
      else if (open.value === name) open.value = ''
    },
  })
}

/** A switch of the view that stands in the address while it is on. */
export function useRouteFlag(name: string) {
  const text = useRouteQuery(name)
  return computed({ get: () => text.value !== '', set: (is) => (text.value = is ? 'yes' : '') })
}

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
