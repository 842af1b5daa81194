// Words for holes, and the parts of one that a form changes.
import type {
  Conditions,
  CourseDay,
  CourseHole,
  CourseSpec,
  ForecastHour,
  LineSpec,
  Traced,
  Units,
} from '@/api/client'
import { percent, shown } from '@/common/units'
import { windFrom } from '@/common/wind'

const WINDS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const

const CALM_M_S = 0.5
/** The wind on a hole as it meets its first throw, in words. */
export function windOn(units: Units, { wind_m_s, wind_from_deg }: Conditions, hole: CourseHole | undefined) {
  if (wind_m_s < CALM_M_S) return 'calm'
  const lee = hole?.ways?.[0]?.line.lee ?? 0
  const kept = lee > 0 ? `, ${percent(lee)} of it kept off` : ''
  return `${shown(units, 'speed', wind_m_s)} ${windFrom(wind_from_deg)}${kept}`
}

/** A direction clockwise from north as a compass names it. */
export const compass = (deg: number) =>
  WINDS[Math.round((((deg % 360) + 360) % 360) / 45) % WINDS.length] ?? 'N'

/** What of a course as it is answered is the course itself. */
export const specOf = (course: CourseSpec): CourseSpec =>
  JSON.parse(
    JSON.stringify({
      name: course.name,
      altitude_m: course.altitude_m ?? null,
      day: course.day ?? null,
      holes: course.holes,
    }),
  ) as CourseSpec

/** A course with one of its holes changed, or one more behind the last. */
export function withHole(course: CourseSpec, k: number, hole: CourseHole): CourseSpec {
  const holes =
    k < course.holes.length ? course.holes.map((h, j) => (j === k ? hole : h)) : [...course.holes, hole]
  return { ...course, holes }
}

export const withoutHole = (course: CourseSpec, k: number): CourseSpec => ({
  ...course,
  holes: course.holes.filter((_, j) => j !== k),
})

/** The name that the next hole has. */
export const nextName = (course: CourseSpec) =>
  `${course.holes.reduce((most, h) => Math.max(most, Number(h.name) || 0), 0) + 1}`

const tenth = (x: number) => Math.round(10 * x) / 10

/** A hole as a rangefinder traced it; ways that lead straight at the basket get the ground that was read. */
export function asTraced(hole: CourseHole, { bearing_deg, length_m, height_m, rises }: Traced): CourseHole {
  const ways = (hole.ways ?? []).map((way) => (way.turn_deg ? way : { ...way, line: { ...way.line, rises } }))
  return {
    ...hole,
    bearing_deg: tenth(bearing_deg),
    length_m: tenth(length_m),
    height_m: tenth(height_m),
    ways,
  }
}

/** A hole whose ways all have something in common. */
export const withWays = (hole: CourseHole, part: Partial<LineSpec>): CourseHole => ({
  ...hole,
  ways: (hole.ways ?? []).map((way) => ({ ...way, line: { ...way.line, ...part } })),
})

/** Minutes after midnight as a clock shows them, and back; null for what is no time. */
export const clock = (minute: number) =>
  `${Math.floor(minute / 60)}`.padStart(2, '0') + ':' + `${minute % 60}`.padStart(2, '0')
export function minuteOf(text: string): number | null {
  const [, hours, minutes] = /^(\d{1,2}):(\d{2})$/.exec(text.trim()) ?? []
  const minute = 60 * Number(hours) + Number(minutes)
  return hours !== undefined && Number(hours) < 24 && Number(minutes) < 60 ? minute : null
}

/** A day as its form begins. */
export const usualDay = (): CourseDay => ({ date: null, start_min: 600, hole_min: 12, hours: [], source: '' })

/** One hour more: after the last, with its weather. */
export function withHour(day: CourseDay): CourseDay {
  const hours = day.hours ?? []
  const last = hours[hours.length - 1]
  const hour = last ? last.hour + 1 : Math.floor(day.start_min / 60)
  const next: ForecastHour = {
    wind_m_s: 3,
    gust_m_s: null,
    from_deg: 270,
    temperature_c: 12,
    rain_mm: 0,
    ...last,
    hour,
  }
  return hour > 23 ? day : { ...day, hours: [...hours, next], source: '' }
}
