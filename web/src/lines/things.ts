// Things about a line: what can be added, what of them can be taken hold of, and what becomes of them when that is moved.
import type { LineSpec, Rise, Thing } from '@/api/client'
import { groundAt, middle, names } from '@/common/land'
import { clamp, grained, type Handle, type Level } from '@/lines/grips'

export const thingsOf = (spec: LineSpec): Thing[] => spec.things ?? []
export const risesOf = (spec: LineSpec): Rise[] => spec.rises ?? []

type Spots = { at_m: number; left_m: number }[]
const block = (from: number, to: number, right: number, left: number): Spots =>
  [
    [from, right],
    [to, right],
    [to, left],
    [from, left],
  ].map(([at_m = 0, left_m = 0]) => ({ at_m: grained(at_m), left_m: grained(left_m) }))

/** How deep ground beside a line is drawn to begin with, m. */
const DEEP_M = 12
const beside = (spec: LineSpec, side: 1 | -1): Spots => {
  const near = spec.zone_width_m / 2 + 2
  const [right, left] = side > 0 ? [near, near + DEEP_M] : [-near - DEEP_M, -near]
  return block(5, spec.distance_m + spec.zone_length_m / 2 + 5, right, left)
}
const behind = (spec: LineSpec): Spots => {
  const from = spec.distance_m + spec.zone_length_m / 2 + 2
  return block(from, from + DEEP_M, -spec.zone_width_m, spec.zone_width_m)
}
const out = (area: Spots): Thing => ({
  kind: 'hazard',
  peril: 'out_of_bounds',
  area,
  strokes: null,
  lost: null,
})
const water = (area: Spots): Thing => ({ kind: 'hazard', peril: 'water', area, strokes: null, lost: null })

/** What can be added to a line, as it is to begin with. */
export const THINGS: Record<string, { label: string; of: (spec: LineSpec) => Thing }> = {
  tree: {
    label: 'Tree',
    of: ({ distance_m: d }) => ({
      kind: 'tree',
      at_m: grained(d / 2),
      left_m: 0,
      crown_m: 2.5,
      foot_m: 2,
      top_m: 10,
    }),
  },
  wood: { label: 'Wood', of: (spec) => ({ kind: 'wood', area: beside(spec, 1), top_m: 15 }) },
  roof: {
    label: 'Branches over a stretch',
    of: ({ distance_m: d }) => ({
      kind: 'roof',
      from_m: grained(0.3 * d),
      to_m: grained(0.6 * d),
      under_m: 5,
    }),
  },
  mandatory: {
    label: 'Mandatory',
    of: ({ distance_m: d }) => ({ kind: 'mandatory', at_m: grained(0.6 * d), left_m: 3, pass: 'right' }),
  },
  water: { label: 'Water', of: (spec) => water(beside(spec, -1)) },
  left: { label: 'Out of bounds on the left', of: (spec) => out(beside(spec, 1)) },
  right: { label: 'Out of bounds on the right', of: (spec) => out(beside(spec, -1)) },
  long: { label: 'Out of bounds behind', of: (spec) => out(behind(spec)) },
}

/** Most things and rises of a line, as the program takes them. */
export const MOST_THINGS = 12
export const MOST_RISES = 6

export const withThing = (spec: LineSpec, thing: Thing): LineSpec => ({
  ...spec,
  things: [...thingsOf(spec), thing],
})
export const withoutThing = (spec: LineSpec, k: number): LineSpec => ({
  ...spec,
  things: thingsOf(spec).filter((_, j) => j !== k),
})
export const changedThing = (spec: LineSpec, k: number, part: Partial<Thing>): LineSpec => ({
  ...spec,
  things: thingsOf(spec).map((t, j) => (j === k ? ({ ...t, ...part } as Thing) : t)),
})

/** The ground with one more place whose height can be told: first the target's, then in the middle of the widest gap. */
export function withRise(spec: LineSpec): LineSpec {
  const rises = risesOf(spec)
  if (rises.length >= MOST_RISES) return spec
  if (rises.length === 0) return { ...spec, rises: [{ at_m: spec.distance_m, height_m: 0 }] }
  const places = [0, ...rises.map((r) => r.at_m)]
  const gaps = rises.map((r, k) => ({
    at_m: (r.at_m + (places[k] ?? 0)) / 2,
    wide: r.at_m - (places[k] ?? 0),
  }))
  const widest = gaps.reduce((a, b) => (b.wide > a.wide ? b : a))
  if (widest.wide < 4) return spec
  const at_m = grained(widest.at_m)
  const more = [...rises, { at_m, height_m: grained(groundAt(rises, at_m)) }]
  return { ...spec, rises: more.sort((a, b) => a.at_m - b.at_m) }
}

/** What can be taken hold of on the plan: each thing, and of the one that is chosen its edges. */
export function thingHandles(spec: LineSpec, chosen: number | undefined): Handle[] {
  const called = names(thingsOf(spec))
  return thingsOf(spec).flatMap((t, k): Handle[] => {
    const name = called[k] ?? ''
    const handle = (
      part: string,
      label: string,
      at_m: number,
      left_m: number,
      moves: Handle['moves'],
    ): Handle => ({
      id: `thing-${k}-${part}`,
      label: label ? `${label} of ${name.toLowerCase()}` : name,
      x_m: at_m,
      y_m: left_m,
      moves,
      thing: k,
    })
    const parts = (own: Handle[]) => (chosen === k ? own : [])
    switch (t.kind) {
      case 'tree':
        return [
          handle('at', '', t.at_m, t.left_m, 'both'),
          ...parts([handle('crown', 'Edge', t.at_m, t.left_m + t.crown_m, 'across')]),
        ]
      case 'mandatory':
        return [handle('at', '', t.at_m, t.left_m, 'both')]
      case 'roof': {
        const at = (t.from_m + t.to_m) / 2
        return [
          handle('at', '', at, spec.zone_width_m / 2, 'along'),
          ...parts([
            handle('from', 'Near end', t.from_m, spec.zone_width_m / 2, 'along'),
            handle('to', 'Far end', t.to_m, spec.zone_width_m / 2, 'along'),
          ]),
        ]
      }
      case 'wood':
      case 'hazard': {
        const { at_m, left_m } = middle(t.area)
        return [
          handle('at', '', at_m, left_m, 'both'),
          ...parts(t.area.map((s, j) => handle(`corner-${j}`, `Corner ${j + 1}`, s.at_m, s.left_m, 'both'))),
        ]
      }
    }
  })
}

const cornerTo = (at_m: number, left_m: number) => ({
  at_m: grained(clamp(at_m, -50, 300)),
  left_m: grained(clamp(left_m, -150, 150)),
})

/** A thing with a part of it taken to a place, as far as a thing goes. */
export function movedThing(thing: Thing, part: string, j: number, to: { x_m: number; y_m: number }): Thing {
  const [x, y] = [grained(to.x_m), grained(to.y_m)]
  switch (thing.kind) {
    case 'tree':
      return part === 'crown'
        ? { ...thing, crown_m: clamp(grained(Math.abs(y - thing.left_m)), 0.3, 20) }
        : { ...thing, at_m: clamp(x, 1, 200), left_m: clamp(y, -100, 100) }
    case 'mandatory':
      return { ...thing, at_m: clamp(x, 1, 200), left_m: clamp(y, -100, 100) }
    case 'roof': {
      if (part === 'from')
        return { ...thing, from_m: clamp(x, 0.5, Math.min(200, grained(thing.to_m - 0.5))) }
      if (part === 'to') return { ...thing, to_m: clamp(x, grained(thing.from_m + 0.5), 250) }
      const half = (thing.to_m - thing.from_m) / 2
      const at = clamp(x, 0.5 + half, Math.min(200 + half, 250 - half))
      const from_m = grained(at - half)
      return { ...thing, from_m, to_m: grained(from_m + 2 * half) }
    }
    case 'wood':
    case 'hazard': {
      if (part === 'corner')
        return { ...thing, area: thing.area.map((s, i) => (i === j ? cornerTo(x, y) : s)) }
      const from = middle(thing.area)
      const [dx, dy] = [x - from.at_m, y - from.left_m]
      return { ...thing, area: thing.area.map((s) => cornerTo(s.at_m + dx, s.left_m + dy)) }
    }
  }
}

/** What can be raised on the profile: the ground, and of the thing that is chosen its heights. */
export function landLevels(spec: LineSpec, chosen: number | undefined): Level[] {
  const rises = risesOf(spec)
  const ground = rises.map((r, k): Level => ({
    id: `rise-${k}`,
    label: r.at_m === spec.distance_m ? 'Height of the target' : `Height of the ground, ${k + 1}`,
    x_m: r.at_m,
    z_m: r.height_m,
    base_m: 0,
  }))
  const thing = chosen === undefined ? undefined : thingsOf(spec)[chosen]
  if (!thing || chosen === undefined) return ground
  const name = (names(thingsOf(spec))[chosen] ?? '').toLowerCase()
  const level = (part: string, label: string, x_m: number, z_m: number): Level => ({
    id: `thing-${chosen}-${part}`,
    label: `${label} of ${name}`,
    x_m,
    z_m,
    base_m: groundAt(rises, x_m),
  })
  switch (thing.kind) {
    case 'tree':
      return [
        ...ground,
        level('top', 'Top', thing.at_m, thing.top_m),
        level('foot', 'Lowest branches', thing.at_m, thing.foot_m),
      ]
    case 'wood':
      return [...ground, level('top', 'Top', middle(thing.area).at_m, thing.top_m)]
    case 'roof':
      return [...ground, level('under', 'Height', (thing.from_m + thing.to_m) / 2, thing.under_m)]
    default:
      return ground
  }
}

/** A thing with one of its heights changed, as far as a thing goes. */
export function raisedThing(thing: Thing, part: string, z_m: number): Thing {
  const z = grained(z_m)
  if (thing.kind === 'tree' && part === 'foot') return { ...thing, foot_m: clamp(z, 0, thing.top_m) }
  if (thing.kind === 'tree') return { ...thing, top_m: clamp(z, Math.max(0.5, thing.foot_m), 60) }
  if (thing.kind === 'wood') return { ...thing, top_m: clamp(z, 0.5, 60) }
  if (thing.kind === 'roof') return { ...thing, under_m: clamp(z, 0.5, 60) }
  return thing
}

/** The ground with one of its places taken elsewhere, between its neighbours and no steeper than ground is taken for. */
export function movedRise(spec: LineSpec, k: number, to: { x_m: number; z_m: number }): LineSpec {
  const rises = risesOf(spec)
  const [before, after] = [rises[k - 1] ?? { at_m: 0, height_m: 0 }, rises[k + 1]]
  const at_m = grained(clamp(to.x_m, before.at_m + 1, (after?.at_m ?? 301) - 1))
  const rise = (from: Rise) => at_m - from.at_m
  const least = Math.max(-60, before.height_m - rise(before), after ? after.height_m + rise(after) : -60)
  const most = Math.min(60, before.height_m + rise(before), after ? after.height_m - rise(after) : 60)
  const height_m = grained(clamp(to.z_m, Math.ceil(10 * least) / 10, Math.floor(10 * most) / 10))
  return { ...spec, rises: rises.map((r, j) => (j === k ? { at_m, height_m } : r)) }
}

/** The same thing in a mirror. */
export function mirroredThing(thing: Thing): Thing {
  switch (thing.kind) {
    case 'tree':
      return { ...thing, left_m: -thing.left_m + 0 }
    case 'mandatory':
      return { ...thing, left_m: -thing.left_m + 0, pass: thing.pass === 'left' ? 'right' : 'left' }
    case 'roof':
      return thing
    case 'wood':
    case 'hazard':
      return { ...thing, area: thing.area.map((s) => ({ ...s, left_m: -s.left_m + 0 })) }
  }
}
