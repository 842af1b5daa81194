// The one place where SI turns into the player's units and back.
import type { Units } from '@/api/client'

const FEET_PER_M = 1 / 0.3048
const MPH_PER_M_S = 3600 / 1609.344

export type Quantity = 'distance' | 'speed' | 'temperature' | 'mass'

interface Unit {
  symbol: string
  toShown: (si: number) => number
  toSi: (shown: number) => number
  step: number
}

const same = (symbol: string, step: number): Unit => ({ symbol, toShown: (x) => x, toSi: (x) => x, step })

const scaled = (symbol: string, factor: number, step: number): Unit => ({
  symbol,
  toShown: (x) => x * factor,
  toSi: (x) => x / factor,
  step,
})

const UNITS: Record<Units, Record<Quantity, Unit>> = {
  metric: {
    distance: same('m', 1),
    speed: same('m/s', 0.5),
    temperature: same('°C', 1),
    mass: same('g', 1),
  },
  imperial: {
    distance: scaled('ft', FEET_PER_M, 1),
    speed: scaled('mph', MPH_PER_M_S, 1),
    temperature: { symbol: '°F', toShown: (c) => c * 1.8 + 32, toSi: (f) => (f - 32) / 1.8, step: 1 },
    mass: same('g', 1),
  },
}

export function unit(units: Units, quantity: Quantity): Unit {
  return UNITS[units][quantity]
}

const MINUS = '−'

/** A number with a true minus sign and a fixed number of decimals; never "−0". */
export function figure(value: number, decimals = 0): string {
  const text = Math.abs(value).toFixed(decimals)
  return value < 0 && Number(text) !== 0 ? MINUS + text : text
}

/** As `figure`, with a plus sign before what is above zero. */
export function signed(value: number, decimals = 1): string {
  const text = figure(value, decimals)
  return value > 0 && Number(text) !== 0 ? `+${text}` : text
}

export function shown(units: Units, quantity: Quantity, si: number, decimals = 0): string {
  const u = unit(units, quantity)
  return `${figure(u.toShown(si), decimals)} ${u.symbol}`
}

export function percent(share: number): string {
  return `${Math.round(100 * share)} %`
}

/** Where something lies across the line of play, in words. */
export function side(leftM: number, units: Units): string {
  const far = shown(units, 'distance', Math.abs(leftM))
  if (Math.abs(leftM) < 0.5) return 'on the line'
  return leftM > 0 ? `${far} left` : `${far} right`
}

/** Fewer strokes than this round to none. */
export const LEAST_STROKES = 0.005

/** A number of strokes, to a hundredth where they are few, for under a heading that says so. */
export function strokeCount(x: number): string {
  return x > 0 && x < LEAST_STROKES ? 'under 0.01' : figure(x, Math.abs(x) < 1 ? 2 : 1)
}

/** Strokes a round. */
export function strokes(x: number): string {
  return `${strokeCount(x)} strokes`
}
