// Today's conditions as part of the address: it can be shared, and a reload keeps it.
import type { Conditions } from '@/api/client'
import { USUAL } from '@/common/stores/day'

type Query = Record<string, unknown>

interface Word {
  name: string
  of: keyof Conditions
  least: number
  most: number
  /** How many of what the address says are one of what the server takes. */
  per?: number
}
const WORDS: readonly Word[] = [
  { name: 'wind', of: 'wind_m_s', least: 0, most: 15 },
  { name: 'from', of: 'wind_from_deg', least: 0, most: 359 },
  { name: 'gusts', of: 'gust_m_s', least: 0, most: 6 },
  { name: 'arm', of: 'power', least: 0.6, most: 1.1, per: 100 },
  { name: 'temperature', of: 'temperature_c', least: -30, most: 45 },
  { name: 'altitude', of: 'altitude_m', least: -400, most: 5000 },
  { name: 'humidity', of: 'humidity', least: 0, most: 1, per: 100 },
]
const tidy = (x: number) => Math.round(100 * x) / 100

/** What the address says of a day; of the usual day nothing. */
export function dayToQuery(day: Conditions): Record<string, string> {
  const said: Record<string, string> = {}
  for (const { name, of, per = 1 } of WORDS) {
    const value = day[of]
    if (typeof value === 'number' && value !== USUAL[of]) said[name] = String(tidy(per * value))
  }
  if (day.wind_m_s === 0) delete said.from
  if (day.wet) said.wet = '1'
  return said
}

/** The day of an address. What is not said is usual; what is no figure, or none that the dials have, is left out. */
export function dayFromQuery(query: Query): Conditions {
  const day: Conditions = { ...USUAL }
  for (const { name, of, least, most, per = 1 } of WORDS) {
    const said = query[name]
    const value = typeof said === 'string' && said.trim() !== '' ? Number(said) / per : NaN
    if (value >= least && value <= most) Object.assign(day, { [of]: value })
  }
  day.wet = query.wet === '1'
  return day
}

const NAMES = new Set([...WORDS.map((word) => word.name), 'wet'])

/** A query with the day of `day` in it and no other. */
export function withDay(query: Query, day: Conditions): Query {
  const rest = Object.fromEntries(Object.entries(query).filter(([name]) => !NAMES.has(name)))
  return { ...rest, ...dayToQuery(day) }
}
