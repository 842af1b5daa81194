// The walk's steps and how far somebody has come.
import { useLocalStorage } from '@vueuse/core'
import type { SeasonVerdict, Walk, WalkLane, WalkStep } from '@/api/client'

export type StepKey = 'thrower' | WalkStep

/** Steps as they stand in an address. */
export const PATHS: Record<StepKey, string> = {
  thrower: 'thrower',
  putting_set: 'putting',
  throwing_putters: 'putters',
  mid_ranges: 'mids',
  fairways: 'fairways',
  control_drivers: 'control',
  distance_drivers: 'distance',
  utility: 'utility',
}
export const stepAt = (path: string) =>
  (Object.keys(PATHS) as StepKey[]).find((step) => PATHS[step] === path) ?? 'thrower'
export const addressOf = (step: StepKey) => `/walk/${PATHS[step]}`

/** Where the walk was left in this browser; empty if it was never begun or was walked to its end. */
export const useLeft = () => useLocalStorage<StepKey | ''>('zinc-kite-walk', '')

export interface Ranked {
  id: number
  peg: string | null
  fills: boolean
  /** Strokes it would save beside what is carried; nothing while that is not known. */
  saves: number | null
  words: string
  /** What the player's school has against it. */
  objections: WalkLane['shelf'][number]['objections']
}

/** Whether the player's school would not carry a disc at all. */
export const isRefused = (r: Pick<Ranked, 'objections'>) => r.objections.some((o) => o.firm)

/** Discs of the shelf by what they would save, those last that the player's school would not carry; until that is known those first that fill an empty peg. */
export function ranked(lane: WalkLane, season: SeasonVerdict | undefined): Ranked[] {
  const worths = new Map((season?.beside ?? []).map((w) => [w.disc_id, w] as const))
  const all = lane.shelf.map((d) => {
    const worth = worths.get(d.disc_id)
    return {
      id: d.disc_id,
      peg: d.peg ?? null,
      fills: d.fills,
      saves: worth ? worth.missed_strokes : null,
      words: worth?.words ?? '',
      objections: d.objections,
    }
  })
  return all.toSorted(
    (a, b) => Number(isRefused(a)) - Number(isRefused(b)) || (b.saves ?? -1) - (a.saves ?? -1),
  )
}

/** Lines of a lane that the bag leaves open or thin, those first that cost most. */
export function open(lane: WalkLane, season: SeasonVerdict | undefined) {
  return (season?.lines ?? [])
    .filter((l) => lane.line_keys.includes(l.key) && (l.standing === 'gap' || l.standing === 'thin'))
    .toSorted((a, b) => b.leaves_strokes - a.leaves_strokes)
}

/** What a lane is short of, in a few words. */
export function short(lane: WalkLane, putting?: Walk['putting']): string {
  const missing = putting?.findings.find((f) => !f.ok)
  if (lane.step === 'putting_set' && lane.here.length > 0 && missing)
    return missing.check === 'handed_down' ? 'one is worn out' : `missing: ${missing.label.toLowerCase()}`
  const empty = lane.pegs.filter((p) => p.wanted && p.disc_ids.length === 0).map((p) => p.label)
  if (empty.length > 0 && lane.here.length > 0) return `no ${empty.join(', ')}`
  return lane.here.length === 0 ? 'nothing yet' : 'covered'
}
