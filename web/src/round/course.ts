// Words for holes, and the parts of one that a form changes.
import type { CourseHole, CourseSpec, LineSpec, Traced } from '@/api/client'

const WINDS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const

/** A direction clockwise from north as a compass names it. */
export const compass = (deg: number) =>
  WINDS[Math.round((((deg % 360) + 360) % 360) / 45) % WINDS.length] ?? 'N'

/** What of a course as it is answered is the course itself. */
export const specOf = (course: CourseSpec): CourseSpec =>
  JSON.parse(
    JSON.stringify({ name: course.name, altitude_m: course.altitude_m ?? null, holes: course.holes }),
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

const TENTH = (x: number) => Math.round(10 * x) / 10
/** Most rises of a line, as the program takes them. */
const MOST_RISES = 6

/** A hole as a rangefinder traced it; lines that lead straight at the basket get the ground that was read. */
export function asTraced(hole: CourseHole, traced: Traced): CourseHole {
  const rises = traced.seen
    .map((s) => ({ at_m: TENTH(s.at_m), height_m: TENTH(s.height_m) }))
    .filter((r, k, all) => r.at_m >= 0.5 && all.findIndex((o) => o.at_m === r.at_m) === k)
    .sort((a, b) => a.at_m - b.at_m)
    .slice(-MOST_RISES)
  const grounded = (line: LineSpec): LineSpec => ({ ...line, rises })
  const ways = (hole.ways ?? []).map((way) => (way.turn_deg ? way : { ...way, line: grounded(way.line) }))
  return {
    ...hole,
    bearing_deg: TENTH(traced.bearing_deg),
    length_m: TENTH(traced.length_m),
    height_m: TENTH(traced.height_m),
    ways,
  }
}
