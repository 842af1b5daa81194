// The service worker: keeps the pages of the program, so that they open where it is out of reach.
import {
  cleanupOutdatedCaches,
  matchPrecache,
  precacheAndRoute,
  type PrecacheEntry,
} from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'

declare const self: ServiceWorkerGlobalScope & { __FILES: PrecacheEntry[] }

void self.skipWaiting()
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
cleanupOutdatedCaches()
precacheAndRoute(self.__FILES)

// A page of the program that runs, or of the one that ran last.
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        return await fetch(request)
      } catch (error) {
        const page = await matchPrecache('/index.html')
        if (!page) throw error
        return page
      }
    },
    { denylist: [/^\/api\//] },
  ),
)
