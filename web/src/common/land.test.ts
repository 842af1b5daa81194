import { describe, expect, it } from 'vitest'
import type { LineSpec, Thing } from '@/api/client'
import { groundAt, groundLine, names, reach } from '@/common/land'
import { THINGS, withRise, withThing } from '@/lines/things'

const spec = {
  distance_m: 80,
  zone_length_m: 16,
  zone_width_m: 12,
  things: [],
  rises: [],
} as unknown as LineSpec

describe('the land about a line', () => {
  it('prop: ground is straight between its heights, from the tee on, and level behind', () => {
    const rises = [
      { at_m: 20, height_m: 4 },
      { at_m: 60, height_m: -4 },
    ]
    expect([0, 10, 20, 40, 60, 90].map((x) => groundAt(rises, x))).toEqual([0, 2, 4, 0, -4, -4])
    for (const { x_m, z_m } of groundLine(rises, 50)) expect(groundAt(rises, x_m)).toBeCloseTo(z_m, 9)
    expect(groundLine([], 50)).toEqual([
      { x_m: 0, z_m: 0 },
      { x_m: 50, z_m: 0 },
    ])
  })

  it('prop: whatever is added first lies before or beside the target, with a name of its own', () => {
    let line = spec
    for (const key of Object.keys(THINGS)) {
      const thing = THINGS[key]?.of(line) as Thing
      const [from, to] = reach(thing)
      expect(to).toBeGreaterThanOrEqual(from)
      expect(to).toBeLessThan(120)
      line = withThing(line, thing)
    }
    const called = names(line.things ?? [])
    expect(new Set(called).size).toBe(called.length)
    expect(called).toContain('Out of bounds 3')
  })

  it('prop: one more height changes no ground', () => {
    let line = { ...spec, rises: [{ at_m: 80, height_m: -6 }] }
    for (let k = 0; k < 9; k += 1) line = { ...line, ...withRise(line) } as typeof line
    expect(line.rises.length).toBe(6)
    for (const x of [7, 33, 61, 80, 95])
      expect(groundAt(line.rises, x)).toBeCloseTo(Math.max(-6, (-6 * x) / 80), 0)
  })
})
