import { computed } from 'vue'
import { useRoute, useRouter, type LocationQueryRaw } from 'vue-router'

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

/** Whether the page goes back just now: what closes says so more than once. */
let isGoingBack = false

function useQueryText(name: string, isStep: boolean) {
  const route = useRoute()
  const router = useRouter()
  /** Whether the step before this one is the same page without what was opened. */
  const isBefore = (query: LocationQueryRaw) =>
    (window.history.state as { back?: unknown } | null)?.back === router.resolve({ query }).fullPath
  function goBack() {
    if (isGoingBack) return
    isGoingBack = true
    const arrived = router.afterEach(() => {
      isGoingBack = false
      arrived()
    })
    router.back()
  }
  return computed({
    get: () => {
      const value = route.query[name]
      return typeof value === 'string' ? value : ''
    },
    set: (value) => {
      const query = { ...route.query, [name]: value || undefined }
      if (isStep && value) void router.push({ query })
      // Closed by hand it is a step back too, so that Back is not pressed for nothing afterwards.
      else if (isStep && isBefore(query)) goBack()
      else void router.replace({ query })
    },
  })
}
