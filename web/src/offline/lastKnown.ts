// What the program says; what it last said if it says nothing.
import { isKept, isLoggedOutHere, KEPT, KEPT_AT } from '@/offline/kept'

/** Answers kept: those of an afternoon over the screens. */
const MOST_KEPT = 400
/** After so long without an answer it is asked whether the program is there at all, ms: an answer may take a while, a silence must not. */
const PATIENCE_MS = 3000
const SIGN_OF_LIFE_MS = 5000

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** Known only where the connection is safe. */
const cache = () => ('caches' in globalThis ? caches.open(KEPT) : undefined)

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

async function keep(request: Request, answer: Response): Promise<void> {
  const kept = await cache()
  // An answer that comes after logging out is not for keeps.
  if (!kept || isLoggedOutHere()) return
  await kept.put(request.url, answer)
  const all = await kept.keys()
  // What was put down longest ago comes first.
  await Promise.all(all.slice(0, Math.max(0, all.length - MOST_KEPT)).map((old) => kept.delete(old)))
}

async function known(request: Request): Promise<Response | undefined> {
  const kept = await (await cache())?.match(request.url)
  if (!kept) return undefined
  const headers = new Headers(kept.headers)
  headers.set(KEPT_AT, kept.headers.get('date') ?? '')
  return new Response(kept.body, { status: kept.status, statusText: kept.statusText, headers })
}

/** Asks the program; where it gives no answer to what screens show, its last one. Whoever hangs up is not answered. */
export async function lastKnown(request: Request): Promise<Response> {
  if (request.method !== 'GET' || !isKept(new URL(request.url).pathname)) return await fetch(request)
  let over = false
  const asked = fetch(request).finally(() => (over = true))
  const answer = await Promise.race([asked.catch(() => undefined), outOfReach(() => over)])
  if (answer) {
    if (answer.ok) void keep(request, answer.clone()).catch(() => undefined)
    return answer
  }
  const kept = request.signal.aborted ? undefined : await known(request).catch(() => undefined)
  return kept ?? asked
}
