// A line as it is drawn: what of it can be taken hold of, and what becomes of it when that is moved.
import type { Gate, LineSpec } from '@/api/client'
import { groundAt } from '@/common/land'
import { clamp, grained, type Handle, type Level } from '@/lines/grips'
import {
  landLevels,
  mirroredThing,
  movedRise,
  movedThing,
  raisedThing,
  risesOf,
  thingHandles,
  thingsOf,
} from '@/lines/things'

/** What of a line is drawn. */
export type Drawing = Pick<
  LineSpec,
  'distance_m' | 'zone_length_m' | 'zone_width_m' | 'gates' | 'ceiling_m' | 'left_m_s' | 'things' | 'rises'
>
/** The drawing of a line, apart from it. */
export function drawingOf(spec: LineSpec): Drawing {
  const { distance_m, zone_length_m, zone_width_m, ceiling_m, left_m_s } = spec
  const gates = gatesOf(spec).map((gate) => ({ ...gate }))
  const things = thingsOf(spec).map((thing) => ({ ...thing }))
  const rises = risesOf(spec).map((rise) => ({ ...rise }))
  return { distance_m, zone_length_m, zone_width_m, gates, ceiling_m, left_m_s, things, rises }
}

const LEAST_GATE_M = 0.5
const MOST_GATES = 4
const gatesOf = (spec: LineSpec): Gate[] => spec.gates ?? []
export const nearest = (spec: LineSpec) => (spec.style === 'putt' ? 3 : 10)

/** All that can be taken hold of on the plan; of the things about it only the chosen one has edges. */
export function handles(spec: LineSpec, chosen?: number): Handle[] {
  const { distance_m, zone_length_m, zone_width_m } = spec
  const edge = spec.open_ended ? -zone_length_m / 2 : zone_length_m / 2
  const zone: Handle[] = [
    { id: 'length', label: 'Length of the zone', x_m: distance_m + edge, y_m: 0, moves: 'along' },
    { id: 'width', label: 'Width of the zone', x_m: distance_m, y_m: zone_width_m / 2, moves: 'across' },
  ]
  return [
    { id: 'target', label: 'Target', x_m: distance_m, y_m: 0, moves: 'along' },
    ...(spec.landing === 'basket' ? [] : zone),
    ...gatesOf(spec).flatMap(({ at_m, left_edge_m, right_edge_m }, k): Handle[] => [
      {
        id: `gate-${k}`,
        label: `Gate ${k + 1}`,
        x_m: at_m,
        y_m: (left_edge_m + right_edge_m) / 2,
        moves: 'both',
      },
      { id: `left-${k}`, label: `Left edge of gate ${k + 1}`, x_m: at_m, y_m: left_edge_m, moves: 'across' },
      {
        id: `right-${k}`,
        label: `Right edge of gate ${k + 1}`,
        x_m: at_m,
        y_m: right_edge_m,
        moves: 'across',
      },
    ]),
    ...thingHandles(spec, chosen),
  ]
}

const withGate = (spec: LineSpec, k: number, part: Partial<Gate>): LineSpec => ({
  ...spec,
  gates: gatesOf(spec).map((gate, j) => (j === k ? { ...gate, ...part } : gate)),
})

/** The line with one of its handles taken to a place, as far as a line goes. */
export function moved(spec: LineSpec, id: string, to: { x_m: number; y_m: number }): LineSpec {
  const [what = '', number = '0', part = '', corner = '0'] = id.split('-')
  const k = Number(number)
  const gate = gatesOf(spec)[k]
  const [x, y] = [grained(to.x_m), grained(to.y_m)]
  switch (what) {
    case 'target': {
      const distance_m = clamp(x, nearest(spec), 200)
      const gates = gatesOf(spec).map((g) => ({ ...g, at_m: Math.min(g.at_m, distance_m) }))
      return { ...spec, distance_m, gates, ...groundOfTarget(spec, distance_m) }
    }
    case 'thing': {
      const things = thingsOf(spec).map((t, j) => (j === k ? movedThing(t, part, Number(corner), to) : t))
      return { ...spec, things }
    }
    case 'length':
      return { ...spec, zone_length_m: clamp(2 * Math.abs(x - spec.distance_m), 2, 80) }
    case 'width':
      return { ...spec, zone_width_m: clamp(2 * Math.abs(y), 2, 80) }
    case 'gate': {
      if (!gate) return spec
      const width = gate.left_edge_m - gate.right_edge_m
      const right = grained(clamp(y - width / 2, -100, 100 - width))
      return withGate(spec, k, {
        at_m: clamp(x, 1, spec.distance_m),
        left_edge_m: grained(right + width),
        right_edge_m: right,
      })
    }
    case 'left':
      return gate ? withGate(spec, k, { left_edge_m: clamp(y, gate.right_edge_m + LEAST_GATE_M, 100) }) : spec
    case 'right':
      return gate
        ? withGate(spec, k, { right_edge_m: clamp(y, -100, gate.left_edge_m - LEAST_GATE_M) })
        : spec
    default:
      return spec
  }
}

/** The height of the ground that was told of the target goes with it, where nothing else is in between. */
function groundOfTarget(spec: LineSpec, distance_m: number): Pick<LineSpec, 'rises'> {
  const rises = risesOf(spec)
  const last = rises.at(-1)
  const before = rises.at(-2) ?? { at_m: 0, height_m: 0 }
  const steep = last ? Math.abs(last.height_m - before.height_m) : 0
  if (!last || last.at_m !== spec.distance_m || distance_m < before.at_m + Math.max(1, steep))
    return { rises }
  return { rises: [...rises.slice(0, -1), { ...last, at_m: distance_m }] }
}

/** All that can be raised or lowered on the profile; of the things about it that of the chosen one. */
export function levels(spec: LineSpec, chosen?: number): Level[] {
  const base = (x_m: number) => ({ x_m, base_m: groundAt(risesOf(spec), x_m) })
  const roof =
    spec.ceiling_m == null
      ? []
      : [{ id: 'roof', label: 'Roof', ...base(0.85 * spec.distance_m), z_m: spec.ceiling_m }]
  const bars = gatesOf(spec).flatMap((gate, k) => [
    ...(gate.ceiling_m == null
      ? []
      : [
          {
            id: `ceiling-${k}`,
            label: `Branches over gate ${k + 1}`,
            ...base(gate.at_m),
            z_m: gate.ceiling_m,
          },
        ]),
    ...(gate.floor_m == null || gate.floor_m === 0
      ? []
      : [
          {
            id: `floor-${k}`,
            label: `To be cleared at gate ${k + 1}`,
            ...base(gate.at_m),
            z_m: gate.floor_m,
          },
        ]),
  ])
  return [...roof, ...bars, ...landLevels(spec, chosen)]
}

/** The line with one of its levels at a height over its ground, and a place of the ground itself along the line too, as far as
 * a line goes. */
export function raised(spec: LineSpec, id: string, { x_m, z_m }: { x_m: number; z_m: number }): LineSpec {
  const [what = '', number = '0', part = ''] = id.split('-')
  const k = Number(number)
  const gate = gatesOf(spec)[k]
  const z = grained(z_m)
  switch (what) {
    case 'rise':
      return movedRise(spec, k, { x_m, z_m })
    case 'thing':
      return { ...spec, things: thingsOf(spec).map((t, j) => (j === k ? raisedThing(t, part, z_m) : t)) }
    case 'roof':
      return { ...spec, ceiling_m: clamp(z, 1.5, 60) }
    case 'ceiling':
      return gate ? withGate(spec, k, { ceiling_m: clamp(z, (gate.floor_m ?? 0) + 0.5, 60) }) : spec
    case 'floor':
      return gate
        ? withGate(spec, k, { floor_m: clamp(z, 0.1, Math.min(40, (gate.ceiling_m ?? 60) - 0.5)) })
        : spec
    default:
      return spec
  }
}

/** The same line as in a mirror: what was left is right. */
export function mirrored(spec: LineSpec): LineSpec {
  const gates = gatesOf(spec).map((g) => ({
    ...g,
    left_edge_m: -g.right_edge_m + 0,
    right_edge_m: -g.left_edge_m + 0,
  }))
  return { ...spec, gates, things: thingsOf(spec).map(mirroredThing), left_m_s: -spec.left_m_s + 0 }
}

/** A gate at a part of the way, around a place across it, so wide; each in parts of the distance. */
const gateAt = (d: number, at: number, middle: number, width: number, more: Partial<Gate> = {}): Gate => ({
  at_m: grained(at * d),
  left_edge_m: grained(d * (middle + width / 2)),
  right_edge_m: grained(d * (middle - width / 2)),
  ceiling_m: null,
  floor_m: null,
  ...more,
})

/** Shapes to begin from. Each keeps distance and zone. */
export const SHAPES: Record<string, { label: string; of: (d: number) => Partial<LineSpec> }> = {
  open: { label: 'Open', of: () => ({ gates: [], ceiling_m: null }) },
  straight: { label: 'Straight', of: (d) => ({ gates: [gateAt(d, 0.5, 0, 0.14)], ceiling_m: null }) },
  left: {
    label: 'Round a corner to the left',
    of: (d) => ({ gates: [gateAt(d, 0.6, -0.09, 0.14)], ceiling_m: null }),
  },
  right: {
    label: 'Round a corner to the right',
    of: (d) => ({ gates: [gateAt(d, 0.6, 0.09, 0.14)], ceiling_m: null }),
  },
  s: {
    label: 'S-shaped',
    of: (d) => ({ gates: [gateAt(d, 0.35, 0.04, 0.14), gateAt(d, 0.7, -0.05, 0.14)], ceiling_m: null }),
  },
  tunnel: {
    label: 'Tunnel',
    of: (d) => ({ gates: [0.25, 0.5, 0.75].map((at) => gateAt(d, at, 0, 0.1)), ceiling_m: 6 }),
  },
  over: {
    label: 'Over something',
    of: (d) => ({
      gates: [gateAt(d, 0.6, 0, 0.4, { floor_m: grained(clamp(0.08 * d, 2, 10)) })],
      ceiling_m: null,
    }),
  },
  under: {
    label: 'Under branches',
    of: (d) => ({ gates: [gateAt(d, 0.4, 0, 0.4, { ceiling_m: 3 })], ceiling_m: null }),
  },
}

/** The line in another shape. */
export const shaped = (spec: LineSpec, shape: string): LineSpec => ({
  ...spec,
  ...SHAPES[shape]?.of(spec.distance_m),
})

/** The line with one more gate: half way between the last and the target. */
export function withMoreGates(spec: LineSpec): LineSpec {
  const gates = gatesOf(spec)
  if (gates.length >= MOST_GATES - (spec.landing === 'basket' ? 1 : 0)) return spec
  const last = Math.max(0, ...gates.map((g) => g.at_m))
  const at = gates.length === 0 ? 0.6 : (last / spec.distance_m + 1) / 2
  return { ...spec, gates: [...gates, gateAt(spec.distance_m, at, 0, 0.14)] }
}
export const hasRoomForGates = (spec: LineSpec) => withMoreGates(spec) !== spec
