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
  things: [
    { kind: 'tree', at_m: 30, left_m: -4, crown_m: 3, foot_m: 1, top_m: 11 },
    {
      kind: 'wood',
      area: [
        { at_m: 20, left_m: 8 },
        { at_m: 60, left_m: 8 },
        { at_m: 60, left_m: 15 },
      ],
      top_m: 14,
    },
    { kind: 'roof', from_m: 20, to_m: 40, under_m: 6 },
    { kind: 'mandatory', at_m: 55, left_m: 3, pass: 'right' },
    {
      kind: 'hazard',
      peril: 'water',
      area: [
        { at_m: 20, left_m: -8 },
        { at_m: 60, left_m: -8 },
        { at_m: 60, left_m: -25 },
      ],
      strokes: null,
      lost: null,
    },
  ],
  rises: [
    { at_m: 40, height_m: 2 },
    { at_m: 80, height_m: -5 },
  ],
} as unknown as LineSpec
const CHOSEN = [undefined, 0, 1, 2, 3, 4]

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
  const between = (x: number, least: number, most: number) => {
    expect(x).toBeGreaterThanOrEqual(least - 1e-9)
    expect(x).toBeLessThanOrEqual(most + 1e-9)
  }
  for (const t of s.things ?? []) {
    if (t.kind === 'tree') {
      between(t.at_m, 1, 200)
      between(t.crown_m, 0.3, 20)
      between(t.foot_m, 0, t.top_m)
      between(t.top_m, 0.5, 60)
    } else if (t.kind === 'roof') {
      between(t.from_m, 0.5, 200)
      between(t.to_m, t.from_m + 0.5, 250)
      between(t.under_m, 0.5, 60)
    } else if (t.kind === 'mandatory') {
      between(t.at_m, 1, 200)
      between(t.left_m, -100, 100)
    } else {
      for (const spot of t.area) {
        between(spot.at_m, -50, 300)
        between(spot.left_m, -150, 150)
      }
    }
  }
  let last = { at_m: 0, height_m: 0 }
  for (const r of s.rises ?? []) {
    expect(r.at_m).toBeGreaterThan(last.at_m)
    expect(Math.abs(r.height_m - last.height_m)).toBeLessThanOrEqual(r.at_m - last.at_m + 1e-9)
    between(r.height_m, -60, 60)
    last = r
  }
}

describe('a line drawn', () => {
  it('prop: wherever a handle is taken, the line stays one that can be saved', () => {
    let line = spec
    for (let k = 0; k < 1000; k += 1) {
      const chosen = Math.floor(5 * next())
      const all = handles(line, chosen)
      const handle = all[Math.floor(all.length * next())]
      line = moved(line, handle?.id ?? '', { x_m: 320 * next() - 40, y_m: 300 * next() - 150 })
      const up = levels(line, chosen)
      line = raised(line, up[Math.floor(up.length * next())]?.id ?? '', {
        x_m: 320 * next() - 40,
        z_m: 90 * next() - 40,
      })
      LIMITS(line)
    }
  })

  it('prop: a handle that is moved where it may be lies there, to the centimetre', () => {
    for (const { id, moves } of CHOSEN.flatMap((c) => handles(spec, c))) {
      const to = { x_m: id.endsWith('-from') ? 12.3 : 62.3, y_m: 3.4 }
      const c = Number(id.split('-')[1])
      // Ground is moved by its corners' middle, each corner to a tenth of a metre.
      const off = id.endsWith('-at') ? 0.06 : 0.005
      const now = handles(moved(spec, id, to), c).find((h) => h.id === id)
      if (moves !== 'across' && id !== 'length') expect(Math.abs((now?.x_m ?? 0) - to.x_m)).toBeLessThan(off)
      if (moves !== 'along') expect(Math.abs((now?.y_m ?? 0) - to.y_m)).toBeLessThan(off)
    }
    for (const { id, x_m } of CHOSEN.flatMap((c) => levels(spec, c))) {
      const c = Number(id.split('-')[1])
      const now = levels(raised(spec, id, { x_m, z_m: 1.7 }), c).find((l) => l.id === id)
      expect(now?.z_m).toBeCloseTo(1.7, 2)
      expect(now?.x_m).toBeCloseTo(x_m, 2)
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
