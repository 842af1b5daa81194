// What is tapped while the program may be out of reach: written down on this device first, sent as soon as it answers, and told if
// another window has changed the same meanwhile.
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { type Now, WINDOW } from '@/api/client'
import { type Clash, merged } from '@/api/saving'
import { useReach } from '@/offline/reach'

type Fields = Record<string, unknown>

/** A change that waits to be sent: one for each thing, since later taps on it are laid over earlier ones. */
export interface Waiting {
  /** Method and path, and what of a kind. */
  id: string
  method: 'POST' | 'PUT'
  path: string
  /** What is to be, field by field. */
  body: Fields
  /** What those fields were when the first of the taps was made. */
  base: Fields
  /** Version of the thing then; null for what is new. */
  etag: string | null
  /** When the first tap was made, ms. */
  at: number
  /** What it is, for people. */
  words: string
  /** What another window made of it meanwhile, where that touches what was tapped here. */
  theirs?: Now
  /** Why the program will not have it. */
  refused?: string
}
export type Tap = Pick<Waiting, 'method' | 'path' | 'body' | 'base' | 'etag' | 'words'> & {
  /** What of a kind it is, where one address makes many. */
  key?: string
}

const idOf = ({ method, path, key }: Tap) => [method, path, key].filter(Boolean).join(' ')

/** A name that nobody else gives. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12))
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
}

/** A tap laid over what already waits. */
export function laidOver(before: Waiting | undefined, tap: Tap, now: number): Waiting {
  const { method, path, words } = tap
  return {
    id: idOf(tap),
    method,
    path,
    words,
    body: { ...before?.body, ...tap.body },
    base: { ...tap.base, ...before?.base },
    etag: before ? before.etag : tap.etag,
    at: before?.at ?? now,
  }
}

const same = (a: Fields, b: Fields) => JSON.stringify(a) === JSON.stringify(b)

/** Those fields of a thing; what it does not have at all is as it was, which is nothing if that is not known. */
const fieldsOf = (thing: Fields, like: Fields, was: Fields = {}): Fields =>
  Object.fromEntries(Object.keys(like).map((key) => [key, (key in thing ? thing : was)[key] ?? null]))

/** What was changed here and there since. */
function together({ body, base }: Waiting, now: Now) {
  const was = fieldsOf(base, body)
  const theirs = fieldsOf(now, body, was)
  return { theirs, ...merged(was, body, theirs) }
}

/** What waits, moved onto the version that another window made; told apart if both changed the same. */
export function onto(waiting: Waiting, now: Now): Waiting {
  const { theirs, all, clashes } = together(waiting, now)
  return clashes.length > 0
    ? { ...waiting, theirs: now }
    : { ...waiting, body: all, base: theirs, etag: now.etag }
}

/** A value as it is told: a disc by its name. */
const told = (value: unknown) =>
  value !== null && typeof value === 'object' && 'disc_name' in value ? value.disc_name : value

/** What was changed here and there, each its own way. */
export function clashesOf(waiting: Waiting): Clash[] {
  const clashes = waiting.theirs ? together(waiting, waiting.theirs).clashes : []
  return clashes.map((c) => ({ ...c, mine: told(c.mine), theirs: told(c.theirs) }))
}

interface Kept extends DBSchema {
  waiting: { key: string; value: Waiting }
}
/** Where it is written down; null where the browser keeps nothing. */
async function open(): Promise<IDBPDatabase<Kept> | null> {
  try {
    return await openDB<Kept>('zinc-kite', 1, {
      upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'id' }),
    })
  } catch {
    return null
  }
}
let opened: ReturnType<typeof open> | undefined
const database = () => (opened ??= open())

async function write(change: Waiting | { gone: string }): Promise<void> {
  const db = await database()
  if (!db) return
  // On the disk before it is said to be kept: a phone may go off at any moment.
  const transaction = db.transaction('waiting', 'readwrite', { durability: 'strict' })
  await Promise.all([
    'gone' in change
      ? transaction.store.delete(change.gone)
      : transaction.store.put(JSON.parse(JSON.stringify(change)) as Waiting),
    transaction.done,
  ])
}

/** Whether it still waits: another window of this browser may have sent it. */
async function stillWaits(id: string): Promise<boolean> {
  const db = await database()
  return !db || (await db.getKey('waiting', id)) !== undefined
}

/** Lets one window of this browser send at a time, where that is known. */
async function alone(work: () => Promise<void>): Promise<void> {
  const locks = navigator.locks as LockManager | undefined
  await (locks ? locks.request('zinc-kite-later', work) : work())
}

/** How long one may take to be answered, ms: what is sent twice does no harm. */
const PATIENCE_MS = 15_000

/** What the program says to one of them. */
async function send({ method, path, body, etag }: Waiting): Promise<Response> {
  return await fetch(path, {
    method,
    headers: {
      'content-type': 'application/json',
      'zinc-window': WINDOW,
      ...(etag === null ? {} : { 'if-match': etag }),
    },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(PATIENCE_MS),
  })
}

/** Answers after which it may be sent again: wants a password, is too busy, stumbled. */
const LATER = (status: number) => status === 401 || status === 429 || status >= 500

export const useLater = defineStore('later', () => {
  const all = ref<Waiting[]>([])
  const reach = useReach()
  /** What was sent, for who shows it. */
  let sent: (paths: readonly Waiting[]) => Promise<void> = async () => undefined
  const onSent = (listener: typeof sent) => (sent = listener)

  const find = (id: string) => all.value.find((w) => w.id === id)
  async function keep(next: Waiting) {
    const k = all.value.findIndex((w) => w.id === next.id)
    if (k < 0) all.value.push(next)
    else all.value[k] = next
    await write(next)
  }
  async function drop(id: string) {
    all.value = all.value.filter((w) => w.id !== id)
    await write({ gone: id })
  }
  /** Lets go of what was sent; what another window of this browser has laid over it since stays written down for that one. */
  async function isDone(one: Waiting) {
    const written = await (await database())?.get('waiting', one.id)
    if (!written || same(written.body, one.body)) await drop(one.id)
    else all.value = all.value.filter((w) => w.id !== one.id)
  }

  /** Reads what was written down before. */
  async function load() {
    const db = await database()
    const kept = (await db?.getAll('waiting')) ?? []
    all.value = [...kept.filter((w) => !find(w.id)), ...all.value].sort((a, b) => a.at - b.at)
  }

  /** Writes a tap down, then sends it if the program answers. */
  async function tell(tap: Tap) {
    await keep(laidOver(find(idOf(tap)), tap, Date.now()))
    await sendAll()
  }

  /** Sends one; whether the next may follow. */
  async function sendOne(one: Waiting): Promise<boolean> {
    let response
    try {
      response = await send(one)
    } catch {
      reach.failed()
      return false
    }
    reach.answered()
    const said = (await response.json().catch(() => ({}))) as Fields & {
      detail?: string
      now?: Now
      etag?: string
    }
    if (LATER(response.status)) return false
    // Until it is shown as the program has it, what was tapped is shown as it was tapped.
    if (response.ok) await sent([one])
    const now = find(one.id) ?? one
    // Taps that came while it was under way wait for the version that it made.
    const more = !same(now.body, one.body)
    if (response.ok && more)
      await keep({ ...now, base: { ...now.base, ...one.body }, etag: said.etag ?? now.etag })
    else if (response.ok) await isDone(one)
    else if (response.status === 412 && said.now) await keep(onto(now, said.now))
    else await keep({ ...now, refused: said.detail ?? response.statusText })
    return true
  }

  /** Lets go of all of it unsent. */
  async function forget() {
    all.value = []
    await (await database())?.clear('waiting')
  }

  const ready = () => all.value.find((w) => !w.theirs && w.refused === undefined)
  let sending: Promise<void> | undefined
  async function work() {
    for (let next = ready(); next; next = ready()) {
      const { id } = next
      if (!(await stillWaits(id))) all.value = all.value.filter((w) => w.id !== id)
      else if (!(await sendOne(next))) return
    }
  }
  /** Sends what waits, the first tapped first, as far as the program answers. */
  async function sendAll(): Promise<void> {
    await sending
    await (sending ??= alone(work).finally(() => (sending = undefined)))
  }

  /** Ends a clash: with what was tapped here, or with what another window made. */
  async function settle(id: string, whose: 'mine' | 'theirs') {
    const one = find(id)
    if (!one?.theirs) return
    const { theirs, ...rest } = one
    if (whose === 'theirs') await drop(id)
    else await keep({ ...rest, base: fieldsOf(theirs, rest.body), etag: theirs.etag })
    await sendAll()
    if (whose === 'theirs') await sent([one])
  }

  const waiting = computed(() => all.value.filter((w) => !w.theirs && w.refused === undefined))
  const clashes = computed(() => all.value.filter((w) => w.theirs))
  const refused = computed(() => all.value.filter((w) => w.refused !== undefined))
  return { all, waiting, clashes, refused, load, tell, sendAll, settle, drop, forget, onSent }
})
