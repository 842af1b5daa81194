// A round as it is told: what the program has, with what waits on this device laid over it.
import type { Account, CameOf, PickedDisc, PlayedHole, RoundCard, ShownRound } from '@/api/client'
import type { Tap, Waiting } from '@/offline/later'

/** A round as it is shown. */
export type Played = Omit<ShownRound, 'account'> & {
  /** Null while the program has not seen all of it. */
  account: Account | null
}

export const CAME: Record<CameOf, string> = {
  made: 'in the zone',
  short: 'short',
  long: 'long',
  left: 'left',
  right: 'right',
  hit: 'hit something',
  out: 'out or water',
}
/** Strokes that have a button of their own, and the most that the program takes. */
export const AT_HAND = 8
export const MOST_STROKES = 20

const holePath = (key: string, at: number) => `/api/rounds/${key}/holes/${at + 1}`

/** A day as the program writes it, where this device is. */
export function dateOf(now: Date): string {
  const two = (n: number) => `${n}`.padStart(2, '0')
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
}

/** A round that begins with a card in hand. */
export function begun(card: RoundCard, course: string, bag: string, key: string, date: string): Tap {
  const hole = (h: RoundCard['holes'][number]): PlayedHole => ({
    name: h.name,
    par: h.par,
    expected: h.strokes,
    card: h.discs.find((d) => d.disc_id === h.best?.disc_id) ?? null,
    left: h.from,
    threw: null,
    came_of: null,
    left_m: null,
    strokes: null,
    lost: [],
  })
  const spread = card.rounds?.spread ?? null
  const body = { key, course, date, bag, spread, holes: card.holes.map(hole) }
  return {
    method: 'POST',
    path: '/api/rounds',
    key,
    body,
    base: {},
    etag: null,
    words: `The round on ${course}`,
  }
}

/** What is told of a hole by one tap, the card's disc taken to be thrown if no other is told. */
export function tap(round: Played, at: number, part: Partial<PlayedHole>): Tap | null {
  const hole = round.holes[at]
  if (!hole) return null
  const body: Partial<PlayedHole> =
    hole.threw || hole.card == null || 'threw' in part || 'lost' in part
      ? part
      : { threw: hole.card, ...part }
  const base = Object.fromEntries(
    Object.keys(body).map((key) => [key, hole[key as keyof PlayedHole] ?? null]),
  )
  return {
    method: 'PUT',
    path: holePath(round.key, at),
    body,
    base,
    etag: round.hole_etags[at] ?? '*',
    words: `Hole ${hole.name} on ${round.course}`,
  }
}

/** Rounds with what waits laid over them, the latest first. */
export function overlaid(rounds: readonly ShownRound[], waiting: readonly Waiting[]): Played[] {
  const all: Played[] = rounds.map((round) => ({ ...round }))
  for (const { method, body } of waiting) {
    if (method !== 'POST' || all.some((r) => r.key === body.key)) continue
    const round = body as unknown as Omit<Played, 'etag' | 'hole_etags' | 'account'>
    // Of a version that nobody else can have changed.
    all.unshift({ ...round, etag: '*', hole_etags: round.holes.map(() => '*'), account: null })
  }
  return all.map((round) => {
    let waits = false
    const holes = round.holes.map((hole, at) => {
      const taps = waiting.find((w) => w.method === 'PUT' && w.path === holePath(round.key, at))
      waits ||= taps !== undefined
      return taps ? ({ ...hole, ...taps.body } as PlayedHole) : hole
    })
    return waits ? { ...round, holes, account: null } : round
  })
}

export const isTold = (hole: PlayedHole) => hole.strokes != null
/** The hole to tell next: the first of which no strokes are told, else the last. */
export function nextHole(round: Played): number {
  const k = round.holes.findIndex((h) => !isTold(h))
  return k < 0 ? round.holes.length - 1 : k
}
export const isWhole = (round: Played) => round.holes.every(isTold)

/** What is told so far. */
export function soFar(round: Played) {
  const told = round.holes.filter(isTold)
  const sum = (of: (h: PlayedHole) => number) => told.reduce((s, h) => s + of(h), 0)
  return { holes: told.length, strokes: sum((h) => h.strokes ?? 0), par: sum((h) => h.par) }
}

/** A disc of the shelf of which the card says nothing there. */
export const bare = (disc: { id: number; name: string }): PickedDisc => ({
  disc_id: disc.id,
  disc_name: disc.name,
  style: null,
  chance: null,
  strokes: null,
  made: null,
  missed: null,
  out: null,
})

/** Discs to tap: the card's, then what else the card would throw there, as many as are asked for; the one thrown is always there. */
export function toTap(hole: PlayedHole, discs: readonly PickedDisc[], most: number): PickedDisc[] {
  const first = hole.card ? [hole.card] : []
  const others = discs.filter((d) => d.disc_id !== hole.card?.disc_id).slice(0, most - first.length)
  const shown = [...first, ...others]
  const threw = hole.threw
  return threw && !shown.some((d) => d.disc_name === threw.disc_name) ? [...shown, threw] : shown
}
