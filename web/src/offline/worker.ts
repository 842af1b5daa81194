// The service worker: keeps the pages, and what the program last said, so that both can be read where it is out of reach.
import { ExpirationPlugin } from 'workbox-expiration'
import {
  cleanupOutdatedCaches,
  matchPrecache,
  precacheAndRoute,
  type PrecacheEntry,
} from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { Strategy, type StrategyHandler } from 'workbox-strategies'
import { isKept, KEPT, KEPT_AT } from './kept'

declare const self: ServiceWorkerGlobalScope & { __FILES: PrecacheEntry[] }

/** Answers kept: those of an afternoon over the screens. */
const MOST_KEPT = 400
/** After so long without an answer it is asked whether the program is there at all, ms: an answer may take a while, a silence must not. */
const PATIENCE_MS = 3000
const SIGN_OF_LIFE_MS = 5000

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** Ends when the program gives no sign of life while an answer is waited for. */
async function outOfReach(isOver: () => boolean): Promise<undefined> {
  for (;;) {
    await pause(PATIENCE_MS)
    if (isOver()) return
    try {
      await fetch('/api/health', { cache: 'no-store', signal: AbortSignal.timeout(SIGN_OF_LIFE_MS) })
    } catch {
      return
    }
  }
}

function dated(kept: Response): Response {
  const headers = new Headers(kept.headers)
  headers.set(KEPT_AT, kept.headers.get('date') ?? '')
  return new Response(kept.body, { status: kept.status, statusText: kept.statusText, headers })
}

/** What the program says; what it last said if it says nothing. */
class LastKnown extends Strategy {
  protected async _handle(request: Request, handler: StrategyHandler): Promise<Response> {
    let over = false
    const asked = handler.fetch(request).finally(() => (over = true))
    const answer = await Promise.race([asked.catch(() => undefined), outOfReach(() => over)])
    if (answer) {
      void handler.waitUntil(handler.cachePut(request, answer.clone()))
      return answer
    }
    const kept = await handler.cacheMatch(request)
    return kept ? dated(kept) : asked
  }
}

void self.skipWaiting()
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
cleanupOutdatedCaches()
precacheAndRoute(self.__FILES)

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && isKept(url.pathname),
  new LastKnown({ cacheName: KEPT, plugins: [new ExpirationPlugin({ maxEntries: MOST_KEPT })] }),
)
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
