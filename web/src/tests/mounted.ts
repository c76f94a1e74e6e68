import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { config, mount } from '@vue/test-utils'
import { defineComponent, type Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { accountQuery, vocabularyQuery } from '@/api/queries'
import type { MassSystem } from '@/quantities/mass'

/** A component on a page of its own, for an account in euro. Nothing is asked of a server: what is not given here is not there yet. */
export function mounted(component: Component, props: object, mass: MassSystem = 'metric', slots = {}) {
  const queryClient = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } })
  queryClient.setQueryData(accountQuery.queryKey, {
    name: 'anna',
    mass,
    currency: 'EUR',
    currency_decimals: 2,
    settings: { typed_weights: null, class_mg: [2_300_000, 4_500_000, 9_000_000] },
    version: 1,
  } as never)
  queryClient.setQueryData(vocabularyQuery.queryKey, {
    systems: [],
    jobs: [],
    kinds: [],
    marks: [],
    rules: {
      cold_tenth_c: 100,
      comfort_over_limit_tenth: 55,
      body_percent: 20,
      trip: { days: 3, low_tenth_c: 50 },
      food: [{ mg_per_day: 700_000 }, { kcal_per_day: 2_900, kcal_per_100g: 420 }, { mg_per_meal: 160_000 }],
      places: [{ tag: 'poles', place: 'worn' }],
    },
    scale: null,
  } as never)
  const routes = [{ path: '/:rest(.*)*', component: { template: '' } }]
  const router = createRouter({ history: createMemoryHistory(), routes })
  return mount(component, {
    props,
    slots,
    attachTo: document.body,
    global: {
      plugins: [[VueQueryPlugin, { queryClient }], ...(config.global.plugins.length ? [] : [router])],
      stubs: { RouterLink: true },
    },
  })
}

const squeezed = (text: string | null) => (text ?? '').replace(/\s+/g, ' ').trim()

/** The text as it is read, with all its spaces as one. */
export const textOf = (wrapper: { element: Element }) => squeezed(wrapper.element.textContent)

/** The texts of what stands side by side in it. */
export const partsOf = (wrapper: { element: Element }) =>
  [...wrapper.element.children].map((part) => squeezed(part.textContent)).filter(Boolean)

/** What a composable gives, in a component of its own; `leave` takes the component down. */
export function used<T>(composable: () => T): { given: T; leave: () => void } {
  let given: T | undefined
  const wrapper = mounted(
    defineComponent({
      setup() {
        given = composable()
        return () => null
      },
    }),
    {},
  )
  return { given: given!, leave: () => wrapper.unmount() }
}

/** An answer of the server, as the client has it. */
export const answered = (data: unknown, change?: string) => ({
  data,
  response: new Response(null, { headers: change ? { 'Kevyt-Change': change } : {} }),
})

/** A refusal of the server, as the client has it. */
export const refused = (detail: string, code = 'refused') => ({
  error: { code, detail },
  response: new Response(null, { status: 422 }),
})
