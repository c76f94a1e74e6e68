import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { mount } from '@vue/test-utils'
import type { Component } from 'vue'
import { accountQuery } from '@/api/queries'
import type { MassSystem } from '@/quantities/mass'

/** A component on a page of its own, for an account in euro. Nothing is asked of a server: what is not given here is not there yet. */
export function mounted(component: Component, props: object, mass: MassSystem = 'metric', slots = {}) {
  const queryClient = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } })
  queryClient.setQueryData(accountQuery.queryKey, {
    name: 'anna',
    mass,
    currency: 'EUR',
    currency_decimals: 2,
    version: 1,
  } as never)
  return mount(component, {
    props,
    slots,
    attachTo: document.body,
    global: { plugins: [[VueQueryPlugin, { queryClient }]] },
  })
}

const squeezed = (text: string | null) => (text ?? '').replace(/\s+/g, ' ').trim()

/** The text as it is read, with all its spaces as one. */
export const textOf = (wrapper: { element: Element }) => squeezed(wrapper.element.textContent)

/** The texts of what stands side by side in it. */
export const partsOf = (wrapper: { element: Element }) =>
  [...wrapper.element.children].map((part) => squeezed(part.textContent)).filter(Boolean)
