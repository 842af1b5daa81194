// What of the program's answers is kept on this device.

/** Name of the cache. */
export const KEPT = 'zinc-kite-known'
/** Header that says when a kept answer was given. */
export const KEPT_AT = 'x-kept-at'

/** What screens show; not files to download, not how far some work has come. */
const SHOWN =
  /^\/api\/(session|player|plastics|discs|shelf|moulds|bags|lines|courses|rounds|field|season)(\/|$)/
const NOT = /\.[a-z]+$|\/progress$/

export const isKept = (path: string) => SHOWN.test(path) && !NOT.test(path)

/** Forgets all of it: whoever logs out leaves nothing behind. */
export async function forgetKept(): Promise<void> {
  if ('caches' in globalThis) await caches.delete(KEPT)
}

const OUT_KEY = 'zinc-kite-logged-out'
/** Whether this browser is logged out though the program may not know it yet. It lasts over reloads. */
export const isLoggedOutHere = () => localStorage.getItem(OUT_KEY) !== null
export function loggedOutHere(out: boolean) {
  if (out) localStorage.setItem(OUT_KEY, '1')
  else localStorage.removeItem(OUT_KEY)
}
