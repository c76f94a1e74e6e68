import '@fontsource-variable/hanken-grotesk/wght.css'
import 'element-plus/theme-chalk/base.css'
import './theme/tokens.css'
import './theme/element.css'
import './theme/base.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp, watch } from 'vue'
import { registerSW } from 'virtual:pwa-register'
import { Problem } from './api/client'
import { offlineSince } from './api/network'
import { isToSend, sendAll, waiting } from './api/outbox'
import App from './App.vue'
import { reason, useMessages } from './controls/messages'
import { takesNewVersion } from './newVersion'

const queries = new QueryClient({
  defaultOptions: {
    // Whether the server can be reached is asked of the server, not of the browser: one on this machine needs no network.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 30_000,
      // What was read is kept for when there is no network.
      gcTime: Infinity,
      // What the server explained stays as it is; what kept it from answering may pass.
      retry: (failures, error) =>
        failures < 2 && (!(error instanceof Problem) || error.status === 0 || error.status === 503),
    },
  },
})

const app = createApp(App)
// A refusal that no part of a page shows is shown with the messages; anything else is a defect, and loud.
app.config.errorHandler = (error) => {
  const isRefusal = error instanceof Problem
  if (!isRefusal) console.error(error)
  useMessages().failed(
    isRefusal ? error : new Error(`Kevyt itself failed here (${reason(error)}). Reload the page.`),
  )
}
// Back from where there was no network, all that is shown is asked for again.
const catchUp = () => sendAll().finally(() => queries.invalidateQueries())
watch(offlineSince, (away) => away || void catchUp())
// What waits is sent as soon as it can be: when the page is opened, or behind what waited before it.
watch(waiting, (all) => all.some(isToSend) && !offlineSince.value && void catchUp())

// The application is kept on the device, once it has been loaded; the next visit takes a newer one, and says so.
if (import.meta.env.PROD) window.addEventListener('load', () => registerSW())
const VERSION = 'kevyt-version'
const version = new URL(import.meta.url).pathname
const before = localStorage.getItem(VERSION)
localStorage.setItem(VERSION, version)
if (before !== null && before !== version && import.meta.env.PROD)
  useMessages().done('This is a newer Kevyt than on your last visit.')

if (!(await takesNewVersion())) app.use(VueQueryPlugin, { queryClient: queries }).mount('#app')
