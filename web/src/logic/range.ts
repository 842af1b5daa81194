// Throws of the range as the player sets them: labels, limits, and one thing changed step by step.
import type { Conditions, RangeThrow } from '@/api/client'

export const MOST_THROWS = 6
const LETTERS = 'ABCDEF'

export const letter = (k: number) => LETTERS[k] ?? '?'

/** Numbers of a setting that a dial moves. */
export type DialKey = 'power' | 'launch_deg' | 'nose_deg' | 'hyzer_deg' | 'aim_deg' | 'spin'

export interface Dial {
  key: DialKey
  label: string
  min: number
  max: number
  step: number
  /** How far one throw of a comparison is from the next. */
  change: number
  /** Whether the number is a share, shown in percent. */
  share?: boolean
}

export const DIALS: readonly Dial[] = [
  { key: 'power', label: 'Power', min: 0.3, max: 1.1, step: 0.01, change: 0.1, share: true },
  { key: 'hyzer_deg', label: 'Hyzer', min: -120, max: 90, step: 1, change: 5 },
  { key: 'launch_deg', label: 'Launch', min: -10, max: 65, step: 0.5, change: 3 },
  { key: 'nose_deg', label: 'Nose', min: -15, max: 20, step: 0.5, change: 2 },
  { key: 'aim_deg', label: 'Aim to the left', min: -30, max: 30, step: 0.5, change: 2 },
  { key: 'spin', label: 'Spin', min: 0.5, max: 1.5, step: 0.01, change: 0.1, share: true },
]

/** What a comparison can change: a dial, or the wind along the throw. */
export type Changed = DialKey | 'wind'

export const CHANGES: readonly { key: Changed; label: string }[] = [
  ...DIALS.map(({ key, label }) => ({ key, label: label.toLowerCase() })),
  { key: 'wind', label: 'head and tail wind' },
]

const WIND_CHANGE_M_S = 3
const clamp = (x: number, low: number, high: number) => Math.min(high, Math.max(low, x))
const tidy = (x: number) => Math.round(1000 * x) / 1000

/** The wind of `day` with its part along the throw changed by `tail`, m/s. */
function withTail(day: Conditions, tail: number): Conditions {
  const angle = (day.wind_from_deg * Math.PI) / 180
  const along = -day.wind_m_s * Math.cos(angle) + tail
  const left = day.wind_m_s * Math.sin(angle)
  return {
    ...day,
    wind_m_s: tidy(Math.hypot(along, left)),
    wind_from_deg: tidy((Math.atan2(left, -along) * 180) / Math.PI),
  }
}

/** Five throws like `base` that differ in one thing only, `base` itself in the middle. Where a limit is in the way the
    five keep their distance and move inside it. */
export function changed(base: RangeThrow, what: Changed, day: Conditions): RangeThrow[] {
  const steps = [-2, -1, 0, 1, 2]
  if (what === 'wind') {
    const here = base.setting.conditions ?? day
    return steps.map((k) => ({
      ...base,
      setting: { ...base.setting, conditions: withTail(here, WIND_CHANGE_M_S * k) },
    }))
  }
  const dial = DIALS.find((d) => d.key === what)
  if (!dial) return [base]
  const middle = clamp(base.setting[what], dial.min + 2 * dial.change, dial.max - 2 * dial.change)
  return steps.map((k) => ({
    ...base,
    setting: { ...base.setting, [what]: tidy(middle + dial.change * k) },
  }))
}

/** Two labels of a picture never closer than `gap`: each is pushed on from the one before, in the order of their places. */
export function apart(places: readonly number[], gap: number): number[] {
  const order = places.map((at, k) => ({ at, k })).sort((a, b) => a.at - b.at)
  const out = [...places]
  let last = Number.NEGATIVE_INFINITY
  for (const { at, k } of order) {
    last = Math.max(at, last + gap)
    out[k] = last
  }
  return out
}
