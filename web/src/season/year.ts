// Words and arithmetic of the year ahead, for the screen.
import type { Family, Outlook, Suppose, YearTask } from '@/api/client'

export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const

/** A day as people write it: 3 May 2027. */
export function dayWords(on: string): string {
  const [year = '', month = '1', day = '1'] = on.split('-')
  return `${Number(day)} ${MONTHS[Number(month) - 1] ?? ''} ${year}`
}

/** The month of a day: May 2027. */
export const monthWords = (on: string) => dayWords(on).replace(/^\d+ /, '')

/** When something is to be done, seen from today. */
export function when(on: string, today: string): string {
  return on <= today ? 'Now' : dayWords(on)
}

/** The first letter of a day's month. */
export const monthLetter = (on: string) => (MONTHS[Number(on.slice(5, 7)) - 1] ?? ' ').slice(0, 1)

export const KINDS: Record<YearTask['kind'], string> = {
  start: 'Start',
  buy: 'Get',
  exchange: 'Carry',
  look_again: 'Look',
  decide: 'Decide',
}

export const AS_IT_IS: Suppose = { lost: [], bought: [], play: 1 }

/** Whether anything is supposed at all. */
export const isSupposed = (s: Suppose) =>
  (s.lost?.length ?? 0) + (s.bought?.length ?? 0) > 0 || (s.play ?? 1) !== 1

/** Least and greatest finish that a family's chart shows: all its copies in all the year, with room for a name. */
export function reach(family: Family): [number, number] {
  const all = family.copies.flatMap((copy) =>
    copy.forecast.points.flatMap((p) => [p.finish_deg, p.least_worn_finish_deg, p.most_worn_finish_deg]),
  )
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const more = Math.max(0, 5 - (most - least)) / 2
  return [least - more - 0.8, most + more + 0.8]
}

/** Heights for names so that none covers another: each as near as can be to where it belongs, in their order. */
export function spread(wanted: readonly number[], apart: number, [top, bottom]: [number, number]): number[] {
  const order = wanted.map((at, k) => ({ at, k })).sort((a, b) => a.at - b.at || a.k - b.k)
  const placed: number[] = []
  for (const { at } of order) placed.push(Math.max(at, (placed.at(-1) ?? top - apart) + apart))
  let below = bottom
  for (let j = placed.length - 1; j >= 0; j -= 1) {
    placed[j] = Math.min(placed[j] ?? 0, below)
    below = (placed[j] ?? 0) - apart
  }
  const heights: number[] = []
  order.forEach(({ k }, j) => (heights[k] = placed[j] ?? 0))
  return heights
}

/** What became of the discs between today and another of the days: those on another peg, a sentence each. */
export function changes(outlook: Outlook, step: number): string[] {
  return outlook.families.flatMap((family) =>
    family.copies.flatMap((copy) => {
      const [now, then] = [copy.forecast.points[0], copy.forecast.points[step]]
      if (!copy.is_carried || !now?.peg || !then?.peg || now.peg === then.peg) return []
      const label = (peg: string) => family.zones.find((z) => z.peg === peg)?.label ?? peg
      return [`${copy.name} from ${label(now.peg)} to ${label(then.peg)}`]
    }),
  )
}
