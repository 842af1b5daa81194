// Where things go on the board: angles to places, and discs into rows so that no name covers another.
import type { Lane } from '@/api/client'

export interface Placed<T> {
  item: T
  /** Place of the disc's middle, px from the left. */
  x: number
  /** Row from the top, 0 first. */
  row: number
  /** Whether the name stands left of the disc. */
  flipped: boolean
}

/** Place across the board, 0 at its left end to 1 at its right, of an angle with left positive. */
export function across(leftDeg: number, edgeDeg: number): number {
  const clamped = Math.max(-edgeDeg, Math.min(edgeDeg, leftDeg))
  return (edgeDeg - clamped) / (2 * edgeDeg)
}

export const PUCK_PX = 26
const GAP_PX = 6

/** Puts each group of items (one disc, or twins) in the first rows, one below the other, where every disc of it fits
 *  with its name beside the ones already there. */
export function intoRows<T>(
  groups: readonly (readonly T[])[],
  width: number,
  place: (item: T) => number,
  nameWidth: (item: T) => number,
): Placed<T>[] {
  const rows: { from: number; to: number }[][] = []
  return groups.flatMap((group) => {
    const spans = group.map((item) => {
      const half = PUCK_PX / 2
      const x = half + place(item) * Math.max(0, width - PUCK_PX)
      const name = nameWidth(item)
      const flipped = x + half + name > width
      const from = (flipped ? x - half - name : x - half) - GAP_PX
      const to = (flipped ? x + half : x + half + name) + GAP_PX
      return { item, x, flipped, from, to }
    })
    const fits = (first: number) =>
      spans.every((s, k) => !rows[first + k]?.some((t) => s.to > t.from && s.from < t.to))
    let first = 0
    while (!fits(first)) first += 1
    return spans.map(({ item, x, flipped, from, to }, k) => {
      const row = first + k
      ;(rows[row] ??= []).push({ from, to })
      return { item, x, row, flipped }
    })
  })
}

export interface PegFacts {
  label: string
  meaning: string
  /** Where a disc on it finishes, seen from the tee. */
  degrees: string
  /** The lanes that want none at this arm, with the reason. */
  notWanted: string[]
}

/** The pegs of a board in words, the most stable first, with what this arm has no use for. */
export function pegFacts(lanes: readonly Lane[]): PegFacts[] {
  const facts = new Map<string, PegFacts>()
  for (const lane of lanes)
    for (const s of lane.sockets) {
      const fact = facts.get(s.label) ?? {
        label: s.label,
        meaning: s.meaning,
        degrees: `finishes between ${side(s.left_deg)} and ${side(s.right_deg)}`,
        notWanted: [],
      }
      facts.set(s.label, fact)
      if (s.why_not) fact.notWanted.push(`${lane.label}: not wanted, ${s.why_not}`)
    }
  return [...facts.values()]
}

const side = (leftDeg: number) =>
  leftDeg === 0 ? 'straight' : `${Math.abs(leftDeg)}° ${leftDeg > 0 ? 'left' : 'right'}`
