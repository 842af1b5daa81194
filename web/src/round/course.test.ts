import { describe, expect, it } from 'vitest'
import type { CourseHole, CourseSpec } from '@/api/client'
import { asTraced, compass, nextName, withHole, withoutHole } from '@/round/course'

const hole = (name: string): CourseHole =>
  ({
    name,
    par: 3,
    bearing_deg: 10,
    length_m: 80,
    ways: [
      { turn_deg: 0, line: { rises: [] } },
      { turn_deg: 20, line: { rises: [] } },
    ],
  }) as unknown as CourseHole
const course: CourseSpec = { name: 'Links', holes: [hole('1'), hole('2'), hole('10')] }

describe('a course', () => {
  it('prop: eight winds, each a half either side of its own', () => {
    expect([0, 22, 23, 90, 180, 270, 315, 338, 360, -90].map(compass)).toEqual([
      'N',
      'N',
      'NE',
      'E',
      'S',
      'W',
      'NW',
      'N',
      'N',
      'W',
    ])
  })
  it('prop: a hole is put in its place or behind the last, and taken away alone', () => {
    expect(withHole(course, 1, hole('x')).holes.map((h) => h.name)).toEqual(['1', 'x', '10'])
    expect(withHole(course, 3, hole('x')).holes.map((h) => h.name)).toEqual(['1', '2', '10', 'x'])
    expect(withoutHole(course, 1).holes.map((h) => h.name)).toEqual(['1', '10'])
    expect(nextName(course)).toBe('11')
    expect(nextName({ name: '', holes: [] })).toBe('1')
  })
  it('prop: what was traced is what the hole is, and the straight way has its ground', () => {
    const rises = [{ at_m: 91.3, height_m: -3 }]
    const traced = { bearing_deg: 12.345, length_m: 91.26, height_m: -3.04, seen: [], rises }
    const now = asTraced(hole('3'), traced)
    expect([now.bearing_deg, now.length_m, now.height_m]).toEqual([12.3, 91.3, -3])
    expect(now.ways?.[0]?.line.rises).toEqual(rises)
    expect(now.ways?.[1]?.line.rises).toEqual([])
  })
})
