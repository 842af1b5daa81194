import '@fontsource-variable/atkinson-hyperlegible-next'
import 'element-plus/theme-chalk/dark/css-vars.css'
import '@/styles/theme.css'
import '@/styles/base.css'
import '@/styles/print.css'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'

// The server is near: an answer stays true until something is changed here, or in another window that had the focus meanwhile.
const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: false,
      staleTime: 60_000,
      refetchOnWindowFocus: 'always',
      // What a device says of its network tells nothing of a program on the same machine, or of what is kept.
      networkMode: 'always',
    },
  },
})

createApp(App).use(createPinia()).use(router).use(VueQueryPlugin, { queryClient }).mount('#app')

// A page of a program that was replaced meanwhile asks for files that are no more.
window.addEventListener('vite:preloadError', () => window.location.reload())
// Known only where the connection is safe: on this machine, or over HTTPS.
const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined
if (import.meta.env.PROD) void workers?.register('/sw.js').catch(() => undefined)
