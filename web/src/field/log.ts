// The field log as it is tapped: what the program has, with what waits on this device laid over it.
import type {
  FieldSession,
  FieldThrow,
  KeptSession,
  KeptThrow,
  LevelShot,
  Meant,
  SessionEntry,
  ShownSession,
  Style,
  ThrowTag,
  TrialThrow,
} from '@/api/client'
import type { Tap, Waiting } from '@/offline/later'

/** Where sessions are. */
export const SESSIONS = '/api/field/sessions'
const sessionPath = (key: string) => `${SESSIONS}/${key}`
const throwsPath = (key: string) => `${sessionPath(key)}/throws`
const throwPath = (session: string, key: string) => `${throwsPath(session)}/${key}`

export const MEANT: Record<Meant, string> = { flat: 'flat', hyzer: 'on hyzer', anhyzer: 'on anhyzer' }
export const WAYS: Record<TrialThrow['wind'] & string, string> = {
  any: '',
  into: 'into the wind',
  before: 'before the wind',
}
export const PURPOSES: Record<NonNullable<FieldSession['purpose']>, string> = {
  practice: 'practice',
  trial: 'trial',
  measuring: 'measuring',
}
export const TAGS: Record<ThrowTag, string> = {
  hit: 'hit something',
  slipped: 'slipped',
  lost: 'disc lost',
  by_eye: 'guessed by eye',
}

/** Farther than this the program believes no throw, m. */
export const FARTHEST_M = 400

/** A throw as it is shown: one that waits has no version of its own yet. */
export type ShownThrow = Omit<KeptThrow, 'key'> & { key: string; etag: string }
/** A session as it is shown. */
export type ShownLog = Omit<ShownSession, 'throws' | 'spreads'> & {
  etag: string
  throws: ShownThrow[]
  /** Null while the program has not seen all throws. */
  spreads: ShownSession['spreads'] | null
}

const isNew = (w: Waiting, path: string) => w.method === 'POST' && w.path === path
const changes = (all: readonly Waiting[], path: string) =>
  all.find((w) => w.method === 'PUT' && w.path === path)?.body

/** Sessions with what waits laid over them, the latest first. */
export function withWaiting(sessions: readonly SessionEntry[], waiting: readonly Waiting[]): SessionEntry[] {
  const known = sessions.map((s) => ({ ...s, ...changes(waiting, sessionPath(s.key)) }))
  const fresh = waiting
    .filter((w) => isNew(w, SESSIONS) && !known.some((s) => s.key === w.body.key))
    .map((w) => ({ throws: 0, discs: 0, ...(w.body as unknown as KeptSession) }))
  return [...fresh.reverse(), ...known].map((s) => ({
    ...s,
    throws: s.throws + waiting.filter((w) => isNew(w, throwsPath(s.key))).length,
  }))
}

/** A session with what waits laid over it; undefined if nothing is known of it. */
export function logOf(
  key: string,
  known: ShownSession | undefined,
  waiting: readonly Waiting[],
): ShownLog | undefined {
  const begun = waiting.find((w) => isNew(w, SESSIONS) && w.body.key === key)
  const session =
    known ?? (begun && { ...(begun.body as unknown as KeptSession), etag: '*', throws: [], spreads: [] })
  if (!session) return undefined
  const fresh = waiting
    .filter((w) => isNew(w, throwsPath(key)) && !session.throws.some((t) => t.key === w.body.key))
    // Of a version that nobody else can have changed.
    .map((w) => ({ ...(w.body as unknown as KeptThrow), etag: '*' }))
  let waits = fresh.length > 0
  const throws = [...session.throws, ...fresh].map((t) => {
    const changed = changes(waiting, throwPath(key, t.key))
    waits ||= changed !== undefined
    return { ...t, ...changed } as ShownThrow
  })
  const spec = { ...session, ...changes(waiting, sessionPath(key)) }
  return { ...spec, throws, spreads: waits ? null : session.spreads }
}

/** A session that begins. */
export function begun(key: string, session: FieldSession): Tap {
  return {
    method: 'POST',
    path: SESSIONS,
    key,
    body: { key, ...session },
    base: {},
    etag: null,
    words: `The session at ${session.place}`,
  }
}

/** What is changed of a session. */
export function changedSession(log: ShownLog, part: Partial<FieldSession>): Tap {
  return {
    method: 'PUT',
    path: sessionPath(log.key),
    body: part,
    base: before(log as unknown as Record<string, unknown>, part),
    etag: log.etag,
    words: `The session at ${log.place}`,
  }
}

const before = (thing: Record<string, unknown>, part: object) =>
  Object.fromEntries(Object.keys(part).map((key) => [key, thing[key] ?? null]))

/** A throw that is logged. */
export function logged(session: string, key: string, it: FieldThrow): Tap {
  return {
    method: 'POST',
    path: throwsPath(session),
    key,
    body: { key, ...it },
    base: {},
    etag: null,
    words: `A throw of ${it.disc_name}`,
  }
}

/** What is changed of a throw. */
export function changedThrow(session: string, it: ShownThrow, part: Partial<FieldThrow>): Tap {
  return {
    method: 'PUT',
    path: throwPath(session, it.key),
    body: part,
    base: before(it as unknown as Record<string, unknown>, part),
    etag: it.etag,
    words: `A throw of ${it.disc_name}`,
  }
}

/** The next throw of a trial: of those the program knows to be left, behind those that it has not been told of yet. */
export function nextOf(
  left: readonly TrialThrow[] | undefined,
  throws: readonly ShownThrow[],
): TrialThrow | undefined {
  const open = [...(left ?? [])]
  for (const t of throws.filter((it) => it.etag === '*')) {
    const meant = t.meant ?? 'flat'
    const at = open.findIndex((o) => isSameDisc(o, t) && o.style === t.style && o.meant === meant)
    if (at >= 0) open.splice(at, 1)
  }
  return open[0]
}
type Named = { disc_id?: number | null; disc_name: string }
const isSameDisc = (a: Named, b: Named) =>
  a.disc_id == null ? a.disc_name === b.disc_name : a.disc_id === b.disc_id

/** What stays from throw to throw. */
export type Held = Pick<FieldThrow, 'style' | 'meant' | 'power_pct' | 'line' | 'wind'> & {
  disc_id: number | null
  disc_name: string
}

/** How the next throw begins: as the last was made. */
export function heldFrom(last: ShownThrow | undefined, style: Style): Held {
  return {
    disc_id: last?.disc_id ?? null,
    disc_name: last?.disc_name ?? '',
    style: last?.style ?? style,
    meant: last?.meant ?? 'flat',
    power_pct: last?.power_pct ?? null,
    line: last?.line ?? null,
    wind: last?.wind ?? { wind_m_s: 0, from_deg: 0 },
  }
}

const tenth = (x: number) => Math.round(10 * x) / 10
const turned = (deg: number) => ((((deg + 180) % 360) + 360) % 360) - 180

/** Where a throw ended, by a reading from the tee to the disc or, turned round, from the disc to the tee. */
export function restOf(shot: LevelShot, aimDeg: number | null | undefined, from: 'tee' | 'disc') {
  const bearing = from === 'tee' ? shot.bearing_deg : shot.bearing_deg + 180
  return {
    distance_m: tenth(shot.level_m),
    off_deg: aimDeg == null ? null : tenth(turned(aimDeg - bearing)),
  }
}

/** The angle off the aim of a throw that ended so far to the left of it, degrees; null if it is farther to the side than away. */
export function offOf(distanceM: number, leftM: number): number | null {
  if (Math.abs(leftM) > distanceM) return null
  return distanceM === 0 ? 0 : tenth((180 / Math.PI) * Math.asin(leftM / distanceM))
}

/** How far to the left of the aim a throw ended, m; null if that is not known. */
export const leftOf = ({ distance_m, off_deg }: Pick<FieldThrow, 'distance_m' | 'off_deg'>) =>
  distance_m == null || off_deg == null ? null : distance_m * Math.sin((Math.PI / 180) * off_deg)
/** And how far down it. */
export const alongOf = ({ distance_m, off_deg }: Pick<FieldThrow, 'distance_m' | 'off_deg'>) =>
  distance_m == null || off_deg == null ? null : distance_m * Math.cos((Math.PI / 180) * off_deg)

/** A wind by the meter, as it comes from straight ahead of the aim; null if the aim is not known. */
export function windOffAim(fromDeg: number, aimDeg: number | null | undefined): number | null {
  return aimDeg == null ? null : Math.round((fromDeg - aimDeg + 720) % 360)
}

/** Which disc, style and way of a throw belong together. */
export const groupOf = (t: Pick<FieldThrow, 'disc_id' | 'disc_name' | 'style' | 'meant'>) =>
  `${t.disc_id ?? t.disc_name} ${t.style} ${t.meant ?? 'flat'}`

/** Whether a throw shows what its disc does. */
export const isClean = (t: FieldThrow) =>
  t.distance_m != null && !(t.tags ?? []).some((tag) => tag !== 'lost')

/** A place on the ground, as flights are drawn: down the aim and left of it, m. */
export interface Rest {
  x_m: number
  y_m: number
}

/** The share of the way at which it is looked where a disc went first, and how far aside of the aim it is then to one side of it. */
const LOOKED_AT = 0.4
const ASIDE = 0.025
/** A way shorter than this, m, is a tap. */
const A_TAP_M = 4

/** What a way that is drawn from above says of a throw: where it ended and, if it is more than a tap, how far and where it swung first. */
export function drawnOf(way: readonly Rest[], turnsLeft: boolean) {
  const [from, to] = [way[0]!, way.at(-1)!]
  const distance_m = tenth(Math.hypot(to.x_m, to.y_m))
  const off_deg = tenth((180 / Math.PI) * Math.atan2(to.y_m, to.x_m))
  const rest = { distance_m, off_deg }
  if (way.every((s) => Math.hypot(s.x_m - from.x_m, s.y_m - from.y_m) < A_TAP_M)) return { rest }
  const sign = turnsLeft ? 1 : -1
  const swing_m = sign * tenth(Math.max(0, ...way.map((s) => sign * s.y_m)))
  const looked = way.find((s) => s.x_m >= LOOKED_AT * to.x_m) ?? to
  const aside = looked.y_m / Math.max(1, distance_m)
  const first =
    aside > ASIDE ? ('left' as const) : aside < -ASIDE ? ('right' as const) : ('straight' as const)
  return { rest, swing_m, first }
}

/** What differs of some fields of a throw, if anything does: only that is sent, so that what another window changed meanwhile stays. */
export function changedOf(
  now: FieldThrow,
  was: FieldThrow,
  fields: readonly (keyof FieldThrow)[],
): Partial<FieldThrow> | undefined {
  const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)
  const changed = fields.filter((f) => !same(now[f], was[f]))
  return changed.length > 0 ? Object.fromEntries(changed.map((f) => [f, now[f] ?? null])) : undefined
}
