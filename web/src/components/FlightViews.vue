<script setup lang="ts">
// Flights from above (tee at the bottom, left is left) and from the side, each in true proportion.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { Point } from '@/api/client'
import { useUnits } from '@/composables/useData'
import { unit } from '@/logic/units'

export interface Flight {
  label: string
  path: readonly Point[]
}
export interface Dot {
  x_m: number
  y_m: number
  made: boolean
}
export interface Zone {
  distance_m: number
  length_m: number
  width_m: number
}
export interface Opening {
  at_m: number
  left_edge_m: number
  right_edge_m: number
  ceiling_m?: number | null | undefined
  floor_m?: number | null | undefined
}

const props = withDefaults(
  defineProps<{
    flights: readonly Flight[]
    dots?: readonly Dot[]
    zone?: Zone
    gates?: readonly Opening[]
  }>(),
  { dots: () => [], zone: undefined, gates: () => [] },
)

const units = useUnits()
const distanceUnit = computed(() => unit(units.value, 'distance'))
const DASHES = ['', '9 5', '3 4']
const PLAN_H = 300
const MARGIN = 26

const points = computed(() => props.flights.flatMap((f) => f.path))
const farthest = computed(
  () =>
    1.06 *
    Math.max(
      20,
      ...points.value.map((p) => p.x_m),
      ...props.dots.map((d) => d.x_m),
      props.zone ? props.zone.distance_m + props.zone.length_m / 2 : 0,
    ),
)
const widest = computed(
  () =>
    1.15 *
    Math.max(
      0.16 * farthest.value,
      ...points.value.map((p) => Math.abs(p.y_m)),
      ...props.dots.map((d) => Math.abs(d.y_m)),
      ...props.gates.flatMap((g) => [Math.abs(g.left_edge_m), Math.abs(g.right_edge_m)]),
      props.zone ? props.zone.width_m / 2 : 0,
    ),
)
const perM = computed(() => (PLAN_H - 2 * MARGIN) / farthest.value)
const planW = computed(() => 2 * widest.value * perM.value + 2 * MARGIN + 26)
const planX = computed(() => scaleLinear([widest.value, -widest.value], [MARGIN + 26, planW.value - MARGIN]))
const planY = computed(() => scaleLinear([0, farthest.value], [PLAN_H - MARGIN, MARGIN]))

const SIDE_W = 460
const highest = computed(() => 1.15 * Math.max(6, ...points.value.map((p) => p.z_m)))
const sidePerM = computed(() => (SIDE_W - 2 * MARGIN) / farthest.value)
const sideH = computed(() => highest.value * sidePerM.value + 40)
const sideX = computed(() => scaleLinear([0, farthest.value], [MARGIN, SIDE_W - MARGIN]))
const sideY = computed(() => scaleLinear([0, highest.value], [sideH.value - 22, 12]))

const rings = computed(() => {
  const u = distanceUnit.value
  return scaleLinear([0, u.toShown(farthest.value)], [0, 1])
    .ticks(5)
    .filter((t) => t > 0)
    .map((t) => ({ label: `${t}`, m: u.toSi(t) }))
})
const above = computed(() =>
  line<Point>()
    .x((p) => planX.value(p.y_m))
    .y((p) => planY.value(p.x_m)),
)
const beside = computed(() =>
  line<Point>()
    .x((p) => sideX.value(p.x_m))
    .y((p) => sideY.value(p.z_m)),
)
const ends = computed(() => props.flights.map((f) => f.path.at(-1)).filter((p) => p !== undefined))
</script>

<template>
  <div class="views">
    <figure>
      <svg
        :viewBox="`0 0 ${planW} ${PLAN_H}`"
        :width="planW"
        :height="PLAN_H"
        role="img"
        aria-label="Flights from above"
      >
        <line :x1="planX(0)" :x2="planX(0)" :y1="planY(0)" :y2="planY(farthest)" class="centre" />
        <g v-for="r in rings" :key="r.m">
          <line :x1="planX(widest)" :x2="planX(-widest)" :y1="planY(r.m)" :y2="planY(r.m)" class="ring" />
          <text :x="planX(widest) - 5" :y="planY(r.m) + 4" text-anchor="end">{{ r.label }}</text>
        </g>
        <rect
          v-if="zone"
          class="zone"
          :x="planX(zone.width_m / 2)"
          :y="planY(zone.distance_m + zone.length_m / 2)"
          :width="zone.width_m * perM"
          :height="zone.length_m * perM"
        />
        <g v-for="(g, k) in gates" :key="k" class="gate">
          <line :x1="planX(widest)" :x2="planX(g.left_edge_m)" :y1="planY(g.at_m)" :y2="planY(g.at_m)" />
          <line :x1="planX(g.right_edge_m)" :x2="planX(-widest)" :y1="planY(g.at_m)" :y2="planY(g.at_m)" />
        </g>
        <template v-for="(d, k) in dots" :key="k">
          <circle v-if="d.made" class="hit" :cx="planX(d.y_m)" :cy="planY(d.x_m)" r="2.6" />
          <path
            v-else
            class="miss"
            :d="`M${planX(d.y_m) - 2.6} ${planY(d.x_m) - 2.6}l5.2 5.2m0 -5.2l-5.2 5.2`"
          />
        </template>
        <path
          v-for="(f, k) in flights"
          :key="f.label"
          class="flight"
          :d="above([...f.path]) ?? ''"
          :stroke-dasharray="DASHES[k]"
        />
        <circle v-for="(p, k) in ends" :key="k" class="end" :cx="planX(p.y_m)" :cy="planY(p.x_m)" r="4.5" />
        <text :x="planX(0)" :y="PLAN_H - 8" text-anchor="middle">tee</text>
      </svg>
      <figcaption>From above, {{ distanceUnit.symbol }}</figcaption>
    </figure>
    <figure class="side">
      <svg :viewBox="`0 0 ${SIDE_W} ${sideH}`" width="100%" role="img" aria-label="Flights from the side">
        <line :x1="sideX(0)" :x2="sideX(farthest)" :y1="sideY(0)" :y2="sideY(0)" class="ground" />
        <g v-for="r in rings" :key="r.m">
          <line :x1="sideX(r.m)" :x2="sideX(r.m)" :y1="sideY(0)" :y2="sideY(0) + 4" class="ground" />
          <text :x="sideX(r.m)" :y="sideY(0) + 17" text-anchor="middle">{{ r.label }}</text>
        </g>
        <template v-for="(g, k) in gates" :key="k">
          <line
            v-if="g.ceiling_m"
            class="bar"
            :x1="sideX(g.at_m)"
            :x2="sideX(g.at_m)"
            :y1="sideY(g.ceiling_m)"
            :y2="0"
          />
          <line
            v-if="g.floor_m"
            class="bar"
            :x1="sideX(g.at_m)"
            :x2="sideX(g.at_m)"
            :y1="sideY(0)"
            :y2="sideY(g.floor_m)"
          />
        </template>
        <path
          v-for="(f, k) in flights"
          :key="f.label"
          class="flight"
          :d="beside([...f.path]) ?? ''"
          :stroke-dasharray="DASHES[k]"
        />
      </svg>
      <figcaption>From the side, true proportion</figcaption>
      <ul v-if="flights.length > 1" class="legend">
        <li v-for="(f, k) in flights" :key="f.label">
          <svg width="34" height="8" aria-hidden="true">
            <path class="flight" d="M0 4H34" :stroke-dasharray="DASHES[k]" />
          </svg>
          {{ f.label }}
        </li>
      </ul>
      <slot />
    </figure>
  </div>
</template>

<style scoped>
.views {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
}
figure {
  margin: 0;
  flex: 0 0 auto;
}
.side {
  flex: 1 1 260px;
  min-width: 0;
}
svg {
  max-width: 100%;
  display: block;
}
figcaption {
  font-size: 13px;
  color: var(--ink-soft);
}
text {
  fill: var(--ink-soft);
  font-size: 12px;
}
.ring {
  stroke: var(--rule-soft);
}
.centre {
  stroke: var(--rule);
  stroke-dasharray: 2 3;
}
.ground {
  stroke: var(--ink-soft);
}
.flight {
  fill: none;
  stroke: var(--accent);
  stroke-width: 3;
}
.end {
  fill: var(--accent);
  stroke: var(--panel);
  stroke-width: 1.5;
}
.zone {
  fill: color-mix(in srgb, var(--hatch) 30%, transparent);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.gate line,
.bar {
  stroke: var(--ink);
  stroke-width: 4;
}
.hit {
  fill: var(--ink);
}
.miss {
  fill: none;
  stroke: var(--bad);
  stroke-width: 1.6;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
.legend svg {
  display: inline-block;
  vertical-align: 2px;
}
</style>
