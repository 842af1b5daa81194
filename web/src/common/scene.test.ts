import { describe, expect, it } from 'vitest'
import { extent, type Flight } from './scene'

const flight: Flight = {
  label: 'one',
  path: [
    { x_m: 0, y_m: 0, z_m: 1 },
    { x_m: 40, y_m: -6, z_m: 7 },
    { x_m: 80, y_m: 3, z_m: 0 },
  ],
  run: [
    { x_m: 80, y_m: 3, z_m: 0 },
    { x_m: 84, y_m: 4, z_m: 0.3 },
  ],
  cloud: [{ x_m: 70, y_m: 9 }],
}

describe('the extent of a picture', () => {
  it('has room for paths, rests, clouds, zones and gates', () => {
    const box = extent([flight])
    expect(box.far_m).toBeGreaterThan(84)
    expect(box.left_m).toBeGreaterThan(9)
    expect(box.right_m).toBeGreaterThan(6)
    expect(box.high_m).toBeGreaterThan(7)
    const zone = extent([flight], [], { distance_m: 100, length_m: 20, width_m: 40 })
    expect(zone.far_m).toBeGreaterThan(110)
    expect(zone.left_m).toBeGreaterThan(20)
    const gate = extent([flight], [], undefined, [{ at_m: 30, left_edge_m: 30, right_edge_m: -40 }])
    expect(gate.left_m).toBeGreaterThan(30)
    expect(gate.right_m).toBeGreaterThan(40)
  })

  it('is never nothing', () => {
    const box = extent([])
    for (const side of Object.values(box)) expect(side).toBeGreaterThan(0)
  })

  it('grows with what is drawn and shrinks with nothing', () => {
    const one = extent([flight])
    const two = extent([flight, { label: 'two', path: [{ x_m: 120, y_m: 30, z_m: 20 }] }])
    expect(two.far_m).toBeGreaterThan(one.far_m)
    expect(two.left_m).toBeGreaterThan(one.left_m)
    expect(two.high_m).toBeGreaterThan(one.high_m)
    expect(two.right_m).toBeGreaterThanOrEqual(one.right_m)
  })
})
