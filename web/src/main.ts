import '@fontsource-variable/hanken-grotesk/wght.css'
import 'element-plus/theme-chalk/base.css'
import './theme/tokens.css'
import './theme/element.css'
import './theme/base.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { Problem } from './api/client'
import App from './App.vue'
import { reason, useMessages } from './controls/messages'

const queries = new QueryClient({
  defaultOptions: {
    // Whether the server can be reached is asked of the server, not of the browser: one on this machine needs no network.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 30_000,
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
app.use(VueQueryPlugin, { queryClient: queries }).mount('#app')
