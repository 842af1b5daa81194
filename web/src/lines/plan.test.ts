import { describe, expect, it } from 'vitest'
import type { LineSpec } from '@/api/client'
import {
  drawingOf,
  handles,
  hasRoomForGates,
  levels,
  mirrored,
  moved,
  raised,
  SHAPES,
  shaped,
  withMoreGates,
} from '@/lines/plan'

const spec = {
  style: 'backhand',
  distance_m: 80,
  zone_length_m: 16,
  zone_width_m: 12,
  landing: 'any',
  left_m_s: 2,
  gates: [{ at_m: 50, left_edge_m: 4, right_edge_m: -4, ceiling_m: 5, floor_m: 1 }],
  ceiling_m: 9,
} as unknown as LineSpec

let state = 11
const next = () => (state = (state * 48271) % 2147483647) / 2147483647
const LIMITS = (s: LineSpec) => {
  expect(s.distance_m).toBeGreaterThanOrEqual(10)
  expect(s.distance_m).toBeLessThanOrEqual(200)
  for (const size of [s.zone_length_m, s.zone_width_m]) {
    expect(size).toBeGreaterThanOrEqual(2)
    expect(size).toBeLessThanOrEqual(80)
  }
  for (const g of s.gates ?? []) {
    expect(g.at_m).toBeGreaterThanOrEqual(1)
    expect(g.at_m).toBeLessThanOrEqual(s.distance_m + 1e-9)
    expect(g.left_edge_m - g.right_edge_m).toBeGreaterThanOrEqual(0.5 - 1e-9)
    expect(Math.max(Math.abs(g.left_edge_m), Math.abs(g.right_edge_m))).toBeLessThanOrEqual(100 + 1e-9)
    expect((g.ceiling_m ?? 60) - (g.floor_m ?? 0)).toBeGreaterThanOrEqual(0.5 - 1e-9)
  }
}

describe('a line drawn', () => {
  it('prop: wherever a handle is taken, the line stays one that can be saved', () => {
    let line = spec
    for (let k = 0; k < 3000; k += 1) {
      const all = handles(line)
      const handle = all[Math.floor(all.length * next())]
      line = moved(line, handle?.id ?? '', { x_m: 320 * next() - 40, y_m: 300 * next() - 150 })
      const up = levels(line)
      line = raised(line, up[Math.floor(up.length * next())]?.id ?? '', 90 * next() - 10)
      LIMITS(line)
    }
  })

  it('prop: a handle that is moved where it may be lies there, to the centimetre', () => {
    for (const { id, moves } of handles(spec)) {
      const to = { x_m: 62.3, y_m: 3.4 }
      const now = handles(moved(spec, id, to)).find((h) => h.id === id)
      if (moves !== 'across' && id !== 'length') expect(now?.x_m).toBeCloseTo(to.x_m, 2)
      if (moves !== 'along') expect(now?.y_m).toBeCloseTo(to.y_m, 2)
    }
    for (const { id } of levels(spec)) {
      expect(levels(raised(spec, id, 3.7)).find((l) => l.id === id)?.z_m).toBeCloseTo(3.7, 2)
    }
  })

  it('prop: a drawing stays as it was, whatever becomes of the line', () => {
    const line = structuredClone(spec)
    const before = drawingOf(line)
    const gate = line.gates?.[0]
    if (gate) gate.at_m = 12
    expect(before.gates?.[0]?.at_m).toBe(50)
    expect({ ...moved(spec, 'target', { x_m: 40, y_m: 0 }), ...before }).toEqual(spec)
  })

  it('prop: in the mirror twice it is as it was, once left is right', () => {
    expect(mirrored(mirrored(spec))).toEqual(spec)
    const skew = moved(spec, 'left-0', { x_m: 50, y_m: 9 })
    expect(mirrored(skew).gates?.[0]).toMatchObject({ left_edge_m: 4, right_edge_m: -9 })
    expect(mirrored(spec).left_m_s).toBe(-2)
  })

  it('prop: every shape is a line at every distance, and corners mirror', () => {
    for (const distance_m of [10, 30, 80, 200]) {
      for (const shape of Object.keys(SHAPES)) LIMITS(shaped({ ...spec, distance_m }, shape))
      const of = (shape: string) => shaped({ ...spec, distance_m }, shape)
      expect(mirrored({ ...of('left'), left_m_s: 0 }).gates).toEqual(of('right').gates)
    }
  })

  it('prop: there is room for four gates, for three before a basket', () => {
    const filled = (landing: LineSpec['landing']) => {
      let line: LineSpec = { ...spec, landing, gates: [] }
      while (hasRoomForGates(line)) line = withMoreGates(line)
      LIMITS(line)
      return line.gates?.length
    }
    expect(filled('any')).toBe(4)
    expect(filled('basket')).toBe(3)
  })
})
