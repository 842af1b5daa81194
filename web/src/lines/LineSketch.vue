<script setup lang="ts">
// A line as a small drawing seen from above: the way through its gates to the zone, tee at the bottom.
import { computed } from 'vue'
import { scaleLinear } from 'd3-scale'
import { curveCatmullRom, line as through } from 'd3-shape'
import type { LineSpec } from '@/api/client'
import LandPlan from '@/common/LandPlan.vue'

const props = withDefaults(defineProps<{ line: LineSpec; width?: number; height?: number }>(), {
  width: 74,
  height: 96,
})

const far = computed(() => props.line.distance_m + 0.6 * props.line.zone_length_m)
/** One scale for both ways, but what is wide is drawn narrower rather than cut off. */
const half = computed(() =>
  Math.max(
    0.16 * far.value,
    0.55 * props.line.zone_width_m,
    ...(props.line.gates ?? []).flatMap((g) => [Math.abs(g.left_edge_m), Math.abs(g.right_edge_m)]),
  ),
)
const x = computed(() => scaleLinear([half.value, -half.value], [4, props.width - 4]))
const y = computed(() => scaleLinear([0, far.value], [props.height - 5, 5]))
const way = computed(() => {
  const middle = (props.line.gates ?? []).map((g) => [0.5 * (g.left_edge_m + g.right_edge_m), g.at_m])
  const points = [[0, 0], ...middle, [0, props.line.distance_m]] as [number, number][]
  return (
    through<[number, number]>(
      (p) => x.value(p[0]),
      (p) => y.value(p[1]),
    ).curve(curveCatmullRom)(points) ?? ''
  )
})
const zone = computed(() => {
  const { distance_m, zone_length_m, zone_width_m, open_ended, landing } = props.line
  if (landing === 'basket') return undefined
  const [near, end] = [
    distance_m - 0.5 * zone_length_m,
    open_ended ? far.value : distance_m + 0.5 * zone_length_m,
  ]
  return {
    x: x.value(0.5 * zone_width_m),
    y: y.value(end),
    width: x.value(-0.5 * zone_width_m) - x.value(0.5 * zone_width_m),
    height: y.value(near) - y.value(end),
  }
})
</script>

<template>
  <svg :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
    <LandPlan v-if="line.things?.length" :things="line.things" :x="x" :y="y" :width="width" small />
    <rect v-if="zone" v-bind="zone" class="zone" :class="{ open: line.open_ended }" />
    <circle v-else :cx="x(0)" :cy="y(line.distance_m)" r="5" class="zone" />
    <g v-for="g in line.gates" :key="g.at_m" class="gate">
      <path
        :d="`M${x(half)} ${y(g.at_m)}H${x(g.left_edge_m)}v-4M${x(-half)} ${y(g.at_m)}H${x(g.right_edge_m)}v-4`"
      />
    </g>
    <path :d="way" class="way" />
    <circle :cx="x(0)" :cy="y(0)" r="2.6" class="tee" />
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}
.zone {
  fill: color-mix(in srgb, var(--accent) 22%, transparent);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.open {
  stroke-dasharray: 3 3;
}
.gate path {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.6;
}
.way {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
.tee {
  fill: var(--ink);
}
</style>
