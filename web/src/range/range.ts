// Throws of the range as the player sets them: labels and dials.
import type { Vary } from '@/api/client'

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
  /** Whether the number is a share, shown in percent. */
  share?: boolean
}

export const DIALS: readonly Dial[] = [
  { key: 'power', label: 'Power', min: 0.2, max: 1.2, step: 0.01, share: true },
  { key: 'hyzer_deg', label: 'Hyzer', min: -130, max: 130, step: 1 },
  { key: 'launch_deg', label: 'Launch', min: -20, max: 75, step: 0.5 },
  { key: 'nose_deg', label: 'Nose', min: -25, max: 30, step: 0.5 },
  { key: 'aim_deg', label: 'Aim to the left', min: -60, max: 60, step: 0.5 },
  { key: 'spin', label: 'Spin', min: 0.3, max: 1.7, step: 0.01, share: true },
]

/** What a comparison can change: a dial, or the wind along the throw. */
export const CHANGES: readonly { key: Vary; label: string }[] = [
  ...DIALS.map(({ key, label }) => ({ key, label: label.toLowerCase() })),
  { key: 'wind', label: 'head and tail wind' },
]

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
