// What stands and lies about a line, and how its ground rises and falls, as it is drawn.
import type { LineSpec, Rise, Thing } from '@/api/client'
import type { PathPoint } from '@/common/scene'

export type Land = Pick<LineSpec, 'things' | 'rises'>

/** How high the ground lies at a place along the line, m above that at the tee: straight between the rises, level behind. */
export function groundAt(rises: readonly Rise[], x_m: number): number {
  let last: Rise = { at_m: 0, height_m: 0 }
  for (const rise of rises) {
    if (x_m <= rise.at_m) {
      const share = Math.max(0, (x_m - last.at_m) / (rise.at_m - last.at_m))
      return last.height_m + share * (rise.height_m - last.height_m)
    }
    last = rise
  }
  return last.height_m
}

/** A way over the ground as it is seen from the side. */
export const overGround = (rises: readonly Rise[], run: readonly PathPoint[]): PathPoint[] =>
  run.map((p) => ({ ...p, z_m: p.z_m + groundAt(rises, p.x_m) }))

export const lowest = (rises: readonly Rise[]) => Math.min(0, ...rises.map((r) => r.height_m))
export const highest = (rises: readonly Rise[]) => Math.max(0, ...rises.map((r) => r.height_m))

/** The ground from the tee to a distance, as corners of a line. */
export const groundLine = (rises: readonly Rise[], far_m: number) => [
  { x_m: 0, z_m: 0 },
  ...rises.filter((r) => r.at_m < far_m).map((r) => ({ x_m: r.at_m, z_m: r.height_m })),
  { x_m: far_m, z_m: groundAt(rises, far_m) },
]

const NAMES: Record<Thing['kind'], string> = {
  tree: 'Tree',
  wood: 'Wood',
  roof: 'Branches',
  mandatory: 'Mandatory',
  hazard: '',
}
const PERILS = { water: 'Water', out_of_bounds: 'Out of bounds' } as const
const kindOf = (thing: Thing) => (thing.kind === 'hazard' ? PERILS[thing.peril] : NAMES[thing.kind])

/** What each thing of a line is called: by its kind, with a number where there are several. */
export function names(things: readonly Thing[]): string[] {
  const kinds = things.map(kindOf)
  return kinds.map((kind, k) => {
    const alike = kinds.filter((other) => other === kind).length
    return alike > 1 ? `${kind} ${kinds.slice(0, k + 1).filter((other) => other === kind).length}` : kind
  })
}

/** Where something lies along the line, m: from and to. */
export function reach(thing: Thing): [number, number] {
  switch (thing.kind) {
    case 'tree':
      return [thing.at_m - thing.crown_m, thing.at_m + thing.crown_m]
    case 'mandatory':
      return [thing.at_m, thing.at_m]
    case 'roof':
      return [thing.from_m, thing.to_m]
    case 'wood':
    case 'hazard': {
      const along = thing.area.map((s) => s.at_m)
      return [Math.min(...along), Math.max(...along)]
    }
  }
}

/** The places that show where something is, for a picture to have room for. */
export function outline(thing: Thing): { at_m: number; left_m: number }[] {
  switch (thing.kind) {
    case 'tree':
      return [-1, 1].map((s) => ({ at_m: thing.at_m, left_m: thing.left_m + s * thing.crown_m }))
    case 'mandatory':
      return [{ at_m: thing.at_m, left_m: thing.left_m }]
    case 'roof':
      return []
    case 'wood':
    case 'hazard':
      return thing.area
  }
}

/** The middle of its corners. */
export function middle(area: readonly { at_m: number; left_m: number }[]) {
  const mean = (of: (s: { at_m: number; left_m: number }) => number) =>
    area.reduce((sum, s) => sum + of(s), 0) / area.length
  return { at_m: mean((s) => s.at_m), left_m: mean((s) => s.left_m) }
}
