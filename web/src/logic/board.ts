// Where things go on the board: angles to places, and discs into rows so that no name covers another.

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

/** Puts each item in the first row where disc and name fit beside the ones already there. */
export function intoRows<T>(
  items: readonly T[],
  width: number,
  place: (item: T) => number,
  nameWidth: (item: T) => number,
): Placed<T>[] {
  const rows: { from: number; to: number }[][] = []
  return items.map((item) => {
    const half = PUCK_PX / 2
    const x = half + place(item) * Math.max(0, width - PUCK_PX)
    const name = nameWidth(item)
    const flipped = x + half + name > width
    const from = (flipped ? x - half - name : x - half) - GAP_PX
    const to = (flipped ? x + half : x + half + name) + GAP_PX
    let row = rows.findIndex((taken) => taken.every((t) => to <= t.from || from >= t.to))
    if (row < 0) row = rows.push([]) - 1
    rows[row]?.push({ from, to })
    return { item, x, row, flipped }
  })
}
