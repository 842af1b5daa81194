// Words for the values of a mould, and the starting values of a new one.
import type { Mould, MouldSpec } from '@/api/client'

export const SUPPLIES: Record<NonNullable<MouldSpec['supply']>, string> = {
  ready: 'readily available',
  hard_to_find: 'hard to find',
  out_of_production: 'out of production',
}

/** What was not measured is empty. */
export const MEASURES = [
  { key: 'rim_cm', label: 'Rim width, cm', min: 0.5, max: 3, step: 0.1 },
  { key: 'rim_depth_cm', label: 'Rim depth, cm', min: 0.5, max: 3, step: 0.1 },
  { key: 'diameter_cm', label: 'Diameter, cm', min: 18, max: 30, step: 0.1 },
  { key: 'height_cm', label: 'Height, cm', min: 1, max: 4, step: 0.1 },
  { key: 'largest_mass_g', label: 'Largest mass, g', min: 100, max: 220, step: 1 },
] as const

export function newMould(): MouldSpec {
  return {
    name: '',
    maker: '',
    printed: { speed: 5, glide: 4, turn: 0, fade: 1 },
    class: null,
    reference_mass_g: 175,
    diameter_cm: null,
    rim_cm: null,
    rim_depth_cm: null,
    height_cm: null,
    bead: null,
    thumb_track: null,
    largest_mass_g: null,
    supply: 'ready',
  }
}

/** What of a mould a form holds. */
export function mouldSpecOf(mould: Mould): MouldSpec {
  const { id: _id, etag: _etag, slot: _slot, discs: _discs, ...spec } = mould
  return JSON.parse(JSON.stringify(spec)) as MouldSpec
}
