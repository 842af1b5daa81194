// Fields of the server's answers in a player's words and units: their names end with their unit.
import type { ProblemError, Units } from '@/api/client'
import { figure, type Quantity, shown, unit as unitOf } from './units'

const QUANTITIES: Record<string, Quantity> = { m: 'distance', s: 'speed', c: 'temperature', g: 'mass' }
const PLAIN: Record<string, string> = { deg: '°', cm: ' cm', pct: ' %' }

/** "along_m_s" is a speed, "mass_g" a mass. */
function parts(field: string): { words: string; unit: string } {
  const found = /^(.*?)_(m_s|m|g|c|deg|cm|pct)$/.exec(field)
  const unit = found?.[2] === 'm_s' ? 's' : (found?.[2] ?? '')
  return { words: (found?.[1] ?? field).replaceAll('_', ' '), unit }
}

export const fieldLabel = (field: string) => parts(field).words

/** A value as a player reads it. */
export function fieldValue(units: Units, field: string, value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') {
    const { unit } = parts(field)
    const quantity = QUANTITIES[unit]
    if (quantity) {
      const x = unitOf(units, quantity).toShown(value)
      return shown(units, quantity, value, Math.abs(x - Math.round(x)) < 0.05 ? 0 : 1)
    }
    return `${figure(value, Number.isInteger(value) ? 0 : 2)}${PLAIN[unit] ?? ''}`
  }
  if (Array.isArray(value)) return value.length === 1 ? '1 entry' : `${value.length} entries`
  if (typeof value === 'object')
    return Object.entries(value)
      .map(([key, inner]) => `${fieldLabel(key)} ${fieldValue(units, key, inner)}`)
      .join(', ')
  return String(value).replaceAll('_', ' ')
}

/** What the server says of a form; a range in the player's units. */
export function inWords(units: Units, { message, field, range }: ProblemError): string {
  if (!field || !range) return message
  // "gate at_m" is about a part of the form.
  const [name = field, ...of] = field.split(' ').toReversed()
  const label = [...of.toReversed(), fieldLabel(name)].join(' ')
  const value = (x: number) => fieldValue(units, name, x)
  const got = range.got == null ? 'that is no number' : `you gave ${value(range.got)}`
  return `${label} must be from ${value(range.least)} to ${value(range.most)}; ${got}. Correct it and save again.`
}

/** What a form says of fields that must not stay empty; nothing if there are none. */
export function emptyOnes(labels: readonly string[]): string {
  if (labels.length === 0) return ''
  const [first = '', ...more] = labels
  const last = more.pop()
  const all = [first, ...more.map((label) => label.toLowerCase())].join(', ')
  return last
    ? `${all} and ${last.toLowerCase()} are still empty: fill them in and save again.`
    : `${first} is still empty: fill it in and save again.`
}

/** What becomes of a figure that was typed beyond what its field takes; nothing if it is within. `least` and `most` are as the
 *  field tells them: infinite where there is no limit. */
export function setBack(label: string, typed: string, least = -Infinity, most = Infinity): string {
  const value = Number(typed)
  if (typed.trim() === '' || Number.isNaN(value)) return ''
  if (value > most) return `${label}: ${typed} is more than ${most}, the most it takes; it is set to ${most}.`
  if (value < least)
    return `${label}: ${typed} is less than ${least}, the least it takes; it is set to ${least}.`
  return ''
}
