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
