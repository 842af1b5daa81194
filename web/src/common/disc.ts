// Words for the values of a disc, and the starting values of a new one.
import type { Cover, DiscSpec, Numbers, SeasonVerdict } from '@/api/client'
import { figure } from './units'

export const GRADES: Record<DiscSpec['wear']['grade'], string> = {
  fresh: 'fresh',
  broken_in: 'broken in',
  seasoned: 'seasoned',
  beat: 'beat',
  flippy: 'flippy',
}
export const TOPS: Record<DiscSpec['top'], string> = { flat: 'flat', neutral: 'as usual', domed: 'domed' }
export const USES: Record<DiscSpec['used_for'], string> = {
  throwing: 'throwing',
  putting: 'putting only',
  utility: 'special jobs',
}
export const SLOTS = {
  putter: 'putter',
  mid_range: 'mid-range',
  fairway: 'fairway',
  control: 'control',
  distance: 'distance',
  utility: 'utility',
} as const

/** The four numbers in the order they are printed. */
export function numbersText(n: Numbers): string {
  const short = (x: number) => (Number.isInteger(x) ? figure(x) : figure(x, 1))
  return [n.speed, n.glide, n.turn, n.fade].map(short).join(' / ')
}

export type Keeping = Required<NonNullable<DiscSpec['keeping']>>

export const STATUSES: Record<Keeping['status'], string> = {
  ready: 'ready',
  spare: 'spare at home',
  seasoning: 'seasoning',
  trial: 'on trial',
  resting: 'resting',
  lent: 'lent',
  lost: 'lost',
  retired: 'retired',
}
export const TIES: Record<Keeping['ties'][number], string> = {
  sentimental: 'sentimental',
  hard_to_replace: 'hard to replace',
  water_disc: 'water disc: may be lost',
}

/** A fresh disc like one that is owned, worn in from now on, for the form of a new one. */
export function freshLike(disc: DiscSpec): Partial<DiscSpec> {
  const {
    maker,
    mould,
    plastic,
    mass_g,
    reference_mass_g,
    printed,
    class: slot,
    top,
    used_for,
    rim_cm,
  } = disc
  const kept = { ...newKeeping(), status: 'seasoning' as const }
  return {
    maker,
    mould,
    plastic,
    mass_g,
    reference_mass_g,
    printed,
    class: slot,
    top,
    used_for,
    rim_cm,
    keeping: kept,
  }
}

/** What is noted of a disc, a line each; nothing of what is as usual. */
export function keptWords(keeping: DiscSpec['keeping']): string[] {
  const k = { ...newKeeping(), ...keeping }
  const said = (what: string, value: unknown) => (value ? [`${what}${String(value)}`] : [])
  return [
    ...(k.status === 'ready' ? [] : [STATUSES[k.status] + (k.trial_until ? ` until ${k.trial_until}` : '')]),
    ...k.ties.map((tie) => TIES[tie]),
    ...said('only for ', k.kept_for.join(', ')),
    ...said('run: ', k.run),
    ...said('kept in: ', k.place),
    ...said('cost ', k.price),
    ...said('its numbers were observed on ', k.observed_on),
  ]
}

export function newKeeping(): Keeping {
  return {
    status: 'ready',
    trial_until: null,
    ties: [],
    kept_for: [],
    run: '',
    price: null,
    place: '',
    observed_on: null,
    observed_worn: 'fresh',
    marks: [],
  }
}

export function newDisc(): DiscSpec {
  return {
    name: '',
    maker: '',
    mould: '',
    plastic: 'premium',
    mass_g: 175,
    reference_mass_g: 175,
    printed: { speed: 5, glide: 4, turn: 0, fade: 1 },
    observed: null,
    top: 'neutral',
    wear: { grade: 'fresh', throws: null, hard_hits: 0 },
    used_for: 'throwing',
    rim_cm: null,
    colour: '#8a94a0',
    notes: '',
    class: null,
    keeping: newKeeping(),
  }
}

/** Radius of the edge of a disc's mark, px. */
export const MARK_EDGE_PX = 10.6
const EDGE_PIECES = 9

/** How wear breaks the edge of a disc's mark, as a pattern of dashes; nothing while it is whole. */
export function wearDashes(wear: number): string | undefined {
  if (wear < 0.08) return undefined
  const piece = (2 * Math.PI * MARK_EDGE_PX) / EDGE_PIECES
  const gap = piece * Math.min(0.72, 0.12 + 0.62 * wear)
  return `${piece - gap} ${gap}`
}

/** What a disc has to be seen on. */
export const COVERS: Record<Cover, string> = {
  grass: 'grass',
  leaves: 'fallen leaves',
  snow: 'snow',
  sand: 'sand',
  heather: 'heather',
}

/** What each disc is worth over the season: a carried one, and what any other would be beside them. */
export function worthOfEach(season: SeasonVerdict | undefined) {
  const { worths = [], beside = [] } = season ?? {}
  return new Map([...worths, ...beside].map((w) => [w.disc_id, w] as const))
}

/** What each disc is for, in a word or two. */
export const jobOfEach = (season: SeasonVerdict | undefined) =>
  new Map([...worthOfEach(season)].map(([id, worth]) => [id, worth.short] as const))
