import '@fontsource-variable/hanken-grotesk/wght.css'
import 'element-plus/theme-chalk/base.css'
import './theme/tokens.css'
import './theme/element.css'
import './theme/base.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { Problem } from './api/client'
import App from './App.vue'
import { router } from './router'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      // What the server explained stays as it is; what kept it from answering may pass.
      retry: (failures, error) =>
        failures < 2 && (!(error instanceof Problem) || error.status === 0 || error.status === 503),
    },
  },
})

createApp(App).use(createPinia()).use(router).use(VueQueryPlugin, { queryClient: queries }).mount('#app')
