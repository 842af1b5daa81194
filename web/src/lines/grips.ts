// What of a drawn line can be taken hold of.

/** Something on the plan that can be moved: down-range and left, m. */
export interface Handle {
  id: string
  label: string
  x_m: number
  y_m: number
  /** What moving it changes: the place along the line, across it, or both. */
  moves: 'along' | 'across' | 'both'
  /** Which of the line's things it belongs to. */
  thing?: number
}
/** Something on the profile that can be raised: down-range, and up from the ground there, m. */
export interface Level {
  id: string
  label: string
  x_m: number
  z_m: number
  /** How high that ground lies. */
  base_m: number
}

/** Everything is drawn to a tenth of a metre. */
const GRAIN_M = 0.1
export const grained = (m: number) => Math.round(m / GRAIN_M) / (1 / GRAIN_M)
export const clamp = (x: number, least: number, most: number) => Math.min(most, Math.max(least, x))
