import { describe, expect, it } from 'vitest'
import type { CourseHole, CourseSpec } from '@/api/client'
import {
  asTraced,
  clock,
  compass,
  minuteOf,
  nextName,
  usualDay,
  withHole,
  withHour,
  withoutHole,
} from '@/round/course'

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

describe('a day', () => {
  it('prop: a minute survives the clock', () => {
    for (let minute = 0; minute < 24 * 60; minute += 7) expect(minuteOf(clock(minute))).toBe(minute)
  })
  it.each(['', '9', '24:00', '9:60', 'noon', '9:5', '-1:30'])('prop: %s is no time', (text) => {
    expect(minuteOf(text)).toBeNull()
  })
  it('prop: hours are added one behind the other with the last one’s weather, up to midnight', () => {
    let day = usualDay()
    for (let k = 0; k < 30; k++) day = withHour(day)
    expect(day.hours?.map((h) => h.hour)).toEqual([...Array(14).keys()].map((k) => k + 10))
    const windy = withHour({ ...usualDay(), source: 'pulled' })
    expect(windy.source).toBe('')
    const hours = windy.hours!.map((h) => ({ ...h, wind_m_s: 9 }))
    expect(withHour({ ...windy, hours }).hours?.[1]).toEqual({ ...hours[0], hour: 11 })
  })
})
