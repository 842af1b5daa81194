// Laws of the small arithmetic between the answers and the screen, each tried on many drawn cases.
import { describe, expect, it } from 'vitest'
import { across, intoRows, PUCK_PX } from '@/bag/board'
import type { ShelfDisc } from '@/api/client'
import { extent, type Flight, type Zone } from '@/common/scene'
import { figure, percent, shown, side, signed, strokes, unit } from '@/common/units'
import { pointedAt, turned, windFrom } from '@/common/wind'
import { apart, CHANGES, DIALS, letter, MOST_THROWS } from '@/range/range'
import { chosen, type Column, EVERYTHING, type Facts, type Filter, sorted } from '@/shelf/shelf'

/** Numbers from 0 up to 1, one a call, the same every time: D. H. Lehmer's generator with the multiplier 48271. */
function drawn(seed: number): () => number {
  let state = seed + 1
  return () => {
    state = (state * 48271) % 2147483647
    return state / 2147483647
  }
}
const many = <T>(n: number, make: (k: number) => T): T[] => Array.from({ length: n }, (_, k) => make(k))

describe('figures', () => {
  it('prop: read back they are the number, and never minus nothing', () => {
    const next = drawn(1)
    for (const decimals of [0, 1, 2]) {
      for (const x of many(200, () => 400 * (next() - 0.5) ** 3)) {
        for (const text of [figure(x, decimals), signed(x, decimals)]) {
          const back = Number(text.replace('−', '-').replace('+', ''))
          expect(Math.abs(back - x)).toBeLessThanOrEqual(0.5000001 / 10 ** decimals)
          expect(text).not.toMatch(/^[−+-]0(\.0*)?$/)
          expect(text).not.toContain('-')
        }
      }
    }
  })

  it('prop: in either units the order stays, and back is where it was', () => {
    const next = drawn(2)
    for (const quantity of ['distance', 'speed', 'temperature', 'mass'] as const) {
      const u = unit('imperial', quantity)
      for (const [a, b] of many(50, () => [200 * next(), 200 * next()] as const)) {
        expect(Math.sign(u.toShown(a) - u.toShown(b))).toBe(Math.sign(a - b))
        expect(u.toSi(u.toShown(a))).toBeCloseTo(a, 9)
        expect(shown('imperial', quantity, a)).toContain(u.symbol)
      }
    }
  })

  it('prop: left and right mirror, and what is near the line is on it', () => {
    for (const m of many(60, (k) => 0.25 * k)) {
      const mirrored = side(m, 'metric').replace('left', 'right')
      expect(side(-m, 'metric')).toBe(mirrored)
      expect(side(m, 'metric') === 'on the line').toBe(m < 0.5)
    }
  })

  it('prop: shares are whole per cent, strokes say something of everything above nothing', () => {
    for (const share of many(101, (k) => k / 100)) expect(percent(share)).toBe(`${Math.round(100 * share)} %`)
    for (const x of many(300, (k) => 1e-5 * 1.06 ** k)) expect(strokes(x)).not.toMatch(/^0\.00/)
    expect(strokes(0)).toBe('0.00 strokes')
  })
})

describe('winds', () => {
  it('prop: a turn is always within a round, and whole rounds change nothing', () => {
    const next = drawn(3)
    for (const deg of many(200, () => 3000 * (next() - 0.5))) {
      const at = turned(deg)
      expect(at).toBeGreaterThanOrEqual(0)
      expect(at).toBeLessThan(360)
      expect(turned(deg + 720)).toBeCloseTo(at, 6)
      expect(windFrom(deg - 360)).toBe(windFrom(deg))
    }
  })

  it('prop: what is pointed at is where it was put', () => {
    for (const deg of many(72, (k) => 5 * k)) {
      const rad = (deg * Math.PI) / 180
      expect(pointedAt(40 * Math.sin(rad), 40 * Math.cos(rad), 5)).toBe(deg)
    }
    expect(windFrom(0)).not.toBe(windFrom(180))
  })
})

describe('the board', () => {
  it('prop: on any board no disc and no name covers another, and none is lost', () => {
    for (const seed of many(40, (k) => k)) {
      const next = drawn(100 + seed)
      const groups = many(1 + Math.floor(14 * next()), () =>
        many(next() < 0.2 ? 2 : 1, () => ({ at: next(), name: 30 + 120 * next() })),
      )
      const width = 300 + 700 * next()
      const placed = intoRows(
        groups,
        width,
        (d) => d.at,
        (d) => d.name,
      )
      expect(placed.map((p) => p.item)).toEqual(groups.flat())
      const half = PUCK_PX / 2
      const span = (p: (typeof placed)[number]) =>
        p.flipped ? [p.x - half - p.item.name, p.x + half] : [p.x - half, p.x + half + p.item.name]
      for (const [k, a] of placed.entries()) {
        expect(a.x).toBeGreaterThanOrEqual(half - 1e-9)
        expect(a.x).toBeLessThanOrEqual(width - half + 1e-9)
        for (const b of placed.slice(k + 1).filter((b) => b.row === a.row)) {
          const [from = 0, to = 0] = span(a)
          const [otherFrom = 0, otherTo = 0] = span(b)
          expect(from >= otherTo || to <= otherFrom).toBe(true)
        }
      }
    }
  })

  it('prop: farther left is farther left, and the edge holds what is beyond it', () => {
    const places = many(81, (k) => across(40 - k, 16))
    expect(places.every((p, k) => k === 0 || p >= (places[k - 1] ?? 0))).toBe(true)
    expect(Math.min(...places)).toBe(0)
    expect(Math.max(...places)).toBe(1)
  })
})

describe('pictures', () => {
  it('prop: all that is drawn has room', () => {
    for (const seed of many(30, (k) => k)) {
      const next = drawn(200 + seed)
      const path = many(20, (k) => ({ x_m: 6 * k * next(), y_m: 40 * (next() - 0.5), z_m: 12 * next() }))
      const cloud = many(30, () => ({ x_m: 140 * next(), y_m: 60 * (next() - 0.5) }))
      const run = many(8, (k) => ({ x_m: 120 + 3 * k, y_m: 30 * (next() - 0.5), z_m: 14 * next() }))
      const flights: Flight[] = [{ label: 'A', path, cloud, run }]
      const zone: Zone = { distance_m: 100 * next(), length_m: 20, width_m: 30 }
      const gates = [{ at_m: 30, left_edge_m: 25 * next(), right_edge_m: -25 * next() }]
      const e = extent(flights, [], zone, gates)
      for (const s of [...path, ...cloud, ...run]) {
        expect(s.x_m).toBeLessThan(e.far_m)
        expect(s.y_m).toBeLessThan(e.left_m)
        expect(-s.y_m).toBeLessThan(e.right_m)
      }
      for (const p of [...path, ...run]) expect(p.z_m).toBeLessThan(e.high_m)
      expect(e.far_m).toBeGreaterThan(zone.distance_m + 10)
      expect(Math.min(e.left_m, e.right_m)).toBeGreaterThanOrEqual(15)
      expect(e.left_m).toBeGreaterThan(gates[0]?.left_edge_m ?? 0)
    }
    expect(extent([]).far_m).toBeGreaterThan(20)
  })

  it('prop: labels keep their order and a gap, and move no farther than they must', () => {
    for (const seed of many(30, (k) => k)) {
      const next = drawn(300 + seed)
      const places = many(6, () => 100 * next())
      const out = apart(places, 8)
      const order = places.map((at, k) => ({ at, to: out[k] ?? 0 })).sort((a, b) => a.at - b.at)
      for (const [k, { at, to }] of order.entries()) {
        expect(to).toBeGreaterThanOrEqual(at)
        if (k > 0) expect(to - (order[k - 1]?.to ?? 0)).toBeGreaterThanOrEqual(8 - 1e-9)
      }
      expect(order[0]?.to).toBe(order[0]?.at)
    }
  })
})

describe('the range', () => {
  it('has a letter for every throw and a dial for whatever a row can change', () => {
    const letters = many(MOST_THROWS, letter)
    expect(new Set(letters).size).toBe(MOST_THROWS)
    expect(letters).not.toContain('?')
    expect(DIALS.every((d) => d.min < d.max && d.step > 0 && (d.max - d.min) / d.step < 400)).toBe(true)
    expect(CHANGES.map((c) => c.key)).toEqual([...DIALS.map((d) => d.key), 'wind'])
  })
})

describe('the shelf', () => {
  const next = drawn(400)
  const slots = ['putter', 'mid_range', 'fairway', 'distance', 'utility'] as const
  const discs = many(40, (k) => ({
    id: k,
    name: `Disc ${Math.floor(30 * next())}`,
    maker: k % 2 ? 'Saltmarsh' : 'Orrery Works',
    mould: 'Teasel',
    wear: { grade: 'seasoned', throws: null, hard_hits: 0 },
    used_for: 'throwing',
    notes: k % 3 ? null : 'found in the pond',
    plastic: k % 4 ? 'premium' : 'base',
    mass_g: 150 + Math.floor(30 * next()),
    wear_share: next(),
    slot: slots[k % 5],
    printed: { speed: 1 + (k % 14), glide: 5, turn: -1, fade: 2 },
  })) as unknown as ShelfDisc[]
  const plastic = (p: ShelfDisc['plastic']) => p

  it('prop: every order has every disc, and the other way about is the other way about', () => {
    for (const by of [
      'name',
      'peg',
      'printed',
      'plastic',
      'mass',
      'wear',
      'slot',
      'status',
      'worth',
    ] as Column[]) {
      const worth = (id: number): Facts => ({
        carried: id % 3 === 0,
        peg: ['hook', 'rail', null][id % 3] ?? null,
        strokes: (id * 7) % 11,
      })
      const up = sorted(discs, { by, way: 1 }, plastic, worth)
      const down = sorted(discs, { by, way: -1 }, plastic, worth)
      expect(new Set(up.map((d) => d.id)).size).toBe(discs.length)
      expect(new Set(down.map((d) => d.id)).size).toBe(discs.length)
      expect(sorted(up, { by, way: 1 }, plastic, worth)).toEqual(up)
    }
    const heavy = sorted(discs, { by: 'mass', way: -1 }, plastic).map((d) => d.mass_g)
    expect(heavy.every((m, k) => k === 0 || m <= (heavy[k - 1] ?? 0))).toBe(true)
  })

  it('prop: a word more never finds more, and all filters together are each of them', () => {
    const find = (
      words: string,
      slot: (typeof slots)[number] | 'all' = 'all',
      status: Filter['status'] = 'all',
    ) =>
      chosen(
        discs,
        { ...EVERYTHING, words, slot, status },
        (id) => ({ carried: id % 2 === 0, peg: null, strokes: 0 }),
        plastic,
      )
    expect(find('')).toHaveLength(discs.length)
    for (const words of ['salt', 'POND', 'teasel base', '  premium  ']) {
      const all = find(words)
      expect(all.length).toBeGreaterThan(0)
      expect(find(`${words} saltmarsh`).every((d) => all.includes(d))).toBe(true)
      expect(find(words, 'fairway', 'carried')).toEqual(
        all.filter((d) => d.slot === 'fairway' && d.id % 2 === 0),
      )
    }
    expect(find('no such disc anywhere')).toEqual([])
  })
})
