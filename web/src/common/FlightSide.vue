<script setup lang="ts">
// Flights from the side in true proportion.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { Rise, Thing } from '@/api/client'
import { groundAt, highest, lowest, overGround } from '@/common/land'
import LandSide from '@/common/LandSide.vue'
import { useRings } from '@/common/useRings'
import { DASHES, extent, type Flight, type Opening, type PathPoint, type Zone } from '@/common/scene'

const props = withDefaults(
  defineProps<{
    flights: readonly Flight[]
    width?: number
    chosen?: number
    zone?: Zone
    gates?: readonly Opening[]
    /** Height of a roof of branches over all of it, m. */
    ceiling?: number | undefined
    things?: Thing[]
    rises?: Rise[]
  }>(),
  {
    width: 460,
    chosen: undefined,
    zone: undefined,
    gates: () => [],
    ceiling: undefined,
    things: () => [],
    rises: () => [],
  },
)

const MARGIN = 26
const box = computed(() => {
  const flown = extent(props.flights, [], props.zone, props.gates)
  const high_m = Math.max(flown.high_m, 1.15 * (props.ceiling ?? 0), highest(props.rises) + 2)
  return { ...flown, high_m, low_m: 1.1 * lowest(props.rises) }
})
const perM = computed(() => (props.width - 2 * MARGIN) / box.value.far_m)
const height = computed(() => (box.value.high_m - box.value.low_m) * perM.value + 40)
const x = computed(() => scaleLinear([0, box.value.far_m], [MARGIN, props.width - MARGIN]))
const y = computed(() => scaleLinear([box.value.low_m, box.value.high_m], [height.value - 22, 12]))
const ground = (x_m: number) => groundAt(props.rises, x_m)
const { rings } = useRings(() => box.value.far_m, 6)
const { rings: levels, symbol } = useRings(() => box.value.high_m, 2)
const drawn = computed(() =>
  line<PathPoint>()
    .x((p) => x.value(p.x_m))
    .y((p) => y.value(p.z_m)),
)
const zoneAt = computed(() => {
  const { distance_m = 0, length_m = 0, open = false } = props.zone ?? {}
  return [distance_m - length_m / 2, open ? box.value.far_m : distance_m + length_m / 2] as const
})
const state = (k: number) => (props.chosen === undefined || props.chosen === k ? 'on' : 'off')
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :width="width"
      :height="height"
      role="img"
      aria-label="Flights from the side"
      data-picture="side"
    >
      <g v-for="l in levels" :key="`level ${l.m}`">
        <line :x1="x(0)" :x2="x(box.far_m)" :y1="y(l.m)" :y2="y(l.m)" class="ring" />
        <text :x="x(0) - 4" :y="y(l.m) + 4" text-anchor="end">{{ l.label }}</text>
      </g>
      <LandSide :things="things" :rises="rises" :far="box.far_m" :x="x" :y="y" />
      <g v-for="r in rings" :key="r.m">
        <line :x1="x(r.m)" :x2="x(r.m)" :y1="y(ground(r.m))" :y2="y(ground(r.m)) + 4" class="ground" />
        <text :x="x(r.m)" :y="y(box.low_m) + 17" text-anchor="middle">{{ r.label }}</text>
      </g>
      <line
        v-if="zone"
        class="bar"
        :x1="x(zoneAt[0])"
        :x2="x(zoneAt[1])"
        :y1="y(ground(zoneAt[0]))"
        :y2="y(ground(zoneAt[1]))"
      />
      <g v-if="ceiling && ceiling < box.high_m">
        <line class="bar" :x1="x(0)" :x2="x(box.far_m)" :y1="y(ceiling)" :y2="y(ceiling)" />
        <text :x="x(box.far_m)" :y="y(ceiling) - 5" text-anchor="end">branches</text>
      </g>
      <template v-for="(g, k) in gates" :key="k">
        <line
          v-if="g.ceiling_m"
          class="bar"
          :x1="x(g.at_m)"
          :x2="x(g.at_m)"
          :y1="y(ground(g.at_m) + g.ceiling_m)"
          :y2="0"
        />
        <line
          v-if="g.floor_m"
          class="bar"
          :x1="x(g.at_m)"
          :x2="x(g.at_m)"
          :y1="y(ground(g.at_m))"
          :y2="y(ground(g.at_m) + g.floor_m)"
        />
      </template>
      <g v-for="(f, k) in flights" :key="k" :class="state(k)">
        <path class="flight" :d="drawn([...f.path]) ?? ''" :stroke-dasharray="DASHES[k]" />
        <path v-if="f.run?.length" class="run" :d="drawn(overGround(rises, f.run)) ?? ''" />
      </g>
    </svg>
    <figcaption>From the side in true proportion, {{ symbol }}</figcaption>
  </figure>
</template>

<style scoped src="../styles/flights.css"></style>
