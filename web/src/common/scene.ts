// What a picture of flights must have room for.

export interface PathPoint {
  x_m: number
  y_m: number
  z_m: number
}
export interface Spot {
  x_m: number
  y_m: number
}
export interface Dot extends Spot {
  made: boolean
}
/** A flight as it is drawn. */
export interface Flight {
  label: string
  path: readonly PathPoint[]
  /** Its way over the ground, from the first touch to where it comes to rest; heights above the ground beneath. */
  run?: readonly PathPoint[]
  /** Where the player's scatter comes to rest. */
  cloud?: readonly Spot[]
}
export interface Zone {
  distance_m: number
  length_m: number
  width_m: number
  /** Whether it has no far end. */
  open?: boolean
}
export interface Opening {
  at_m: number
  left_edge_m: number
  right_edge_m: number
  ceiling_m?: number | null | undefined
  floor_m?: number | null | undefined
}

/** One dash pattern for each flight of a picture; colour tells only which is chosen. */
export const DASHES = ['', '11 5', '2 4', '14 4 2 4', '6 3', '18 4 2 4 2 4'] as const

export interface Extent {
  far_m: number
  left_m: number
  right_m: number
  high_m: number
}

/** Down-range, left, right and upward, all that is drawn and a margin. */
export function extent(
  flights: readonly Flight[],
  dots: readonly Spot[] = [],
  zone?: Zone,
  gates: readonly Opening[] = [],
): Extent {
  const spots: Spot[] = [
    ...flights.flatMap((f) => [...f.path, ...(f.cloud ?? []), ...(f.run ?? [])]),
    ...dots,
  ]
  const most = (least: number, values: number[]) => values.reduce((a, b) => Math.max(a, b), least)
  const zoneFar = zone ? [zone.distance_m + zone.length_m / 2] : []
  const zoneWide = zone ? [zone.width_m / 2] : []
  const far = 1.06 * most(zone ? 4 : 20, [...spots.map((s) => s.x_m), ...zoneFar])
  const side = 0.1 * far
  return {
    far_m: far,
    left_m: 1.1 * most(side, [...spots.map((s) => s.y_m), ...gates.map((g) => g.left_edge_m), ...zoneWide]),
    right_m:
      1.1 * most(side, [...spots.map((s) => -s.y_m), ...gates.map((g) => -g.right_edge_m), ...zoneWide]),
    high_m:
      1.15 *
      most(
        0.05 * far,
        flights.flatMap((f) => [...f.path, ...(f.run ?? [])].map((p) => p.z_m)),
      ),
  }
}
