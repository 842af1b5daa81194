<script setup lang="ts">
// What stands and lies about a line, from above: part of a picture that has its own scales.
import { computed, useId } from 'vue'
import type { LineSpec, Thing } from '@/api/client'
import { middle, names } from '@/common/land'

type Spots = readonly { at_m: number; left_m: number }[]

const props = defineProps<{
  things: NonNullable<LineSpec['things']>
  /** Where a place left of the line lies in the picture, and one down-range. */
  x: (left_m: number) => number
  y: (at_m: number) => number
  /** Width of the picture. */
  width: number
  /** Whether nothing is written into it. */
  small?: boolean
}>()

const id = useId()
const perM = computed(() => Math.abs(props.y(1) - props.y(0)))
const points = (area: Spots) => area.map((s) => `${props.x(s.left_m)},${props.y(s.at_m)}`).join(' ')
const called = computed(() => names(props.things))
const pattern = (thing: Thing & { kind: 'wood' | 'hazard' }) =>
  `url(#${id}-${thing.kind === 'wood' ? 'wood' : thing.peril})`
/** Which way past a mandatory: an arrow's tip. */
const ARROW = 16
const past = (thing: Thing & { kind: 'mandatory' }) => (thing.pass === 'left' ? -ARROW : ARROW)
const label = (area: Spots) => {
  const { at_m, left_m } = middle(area)
  return { x: Math.min(props.width - 34, Math.max(34, props.x(left_m))), y: props.y(at_m) + 26 }
}
</script>

<template>
  <g aria-hidden="true" class="land">
    <defs>
      <pattern :id="`${id}-wood`" width="9" height="9" patternUnits="userSpaceOnUse">
        <circle cx="2.5" cy="2.5" r="1.9" class="fill" />
        <circle cx="7" cy="7" r="1.9" class="fill" />
      </pattern>
      <pattern :id="`${id}-water`" width="14" height="7" patternUnits="userSpaceOnUse">
        <path d="M0 4q3.5 -4 7 0t7 0" class="stroke" />
      </pattern>
      <pattern :id="`${id}-out_of_bounds`" width="8" height="8" patternUnits="userSpaceOnUse">
        <path d="M-2 2l4 -4M0 8l8 -8M6 10l4 -4" class="stroke" />
      </pattern>
    </defs>
    <template v-for="(t, k) in things" :key="k">
      <template v-if="t.kind === 'wood' || t.kind === 'hazard'">
        <polygon :points="points(t.area)" class="area" :class="t.kind" :fill="pattern(t)" />
        <text v-if="!small" :x="label(t.area).x" :y="label(t.area).y" text-anchor="middle">
          {{ called[k] }}
        </text>
      </template>
      <template v-else-if="t.kind === 'tree'">
        <circle :cx="x(t.left_m)" :cy="y(t.at_m)" :r="t.crown_m * perM" class="crown" />
        <circle :cx="x(t.left_m)" :cy="y(t.at_m)" :r="small ? 1.5 : 3" class="fill" />
      </template>
      <template v-else-if="t.kind === 'roof'">
        <rect :x="0" :width="width" :y="y(t.to_m)" :height="(t.to_m - t.from_m) * perM" class="roof" />
        <text v-if="!small" :x="width - 3" :y="y(t.to_m) + 13" text-anchor="end">{{ called[k] }}</text>
      </template>
      <g v-else>
        <circle :cx="x(t.left_m)" :cy="y(t.at_m)" :r="small ? 2 : 4" class="fill" />
        <path
          v-if="!small"
          :d="`M${x(t.left_m)} ${y(t.at_m)}h${past(t)}m${-past(t) / 3} -5l${past(t) / 3} 5l${-past(t) / 3} 5`"
          class="arrow"
        />
      </g>
    </template>
  </g>
</template>

<style scoped>
.fill {
  fill: var(--ink-soft);
}
.stroke {
  fill: none;
  stroke: var(--ink-soft);
}
.area {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.area.hazard {
  stroke-dasharray: 7 3;
}
.crown {
  fill: color-mix(in srgb, var(--hatch) 40%, transparent);
  stroke: var(--ink);
}
.roof {
  fill: color-mix(in srgb, var(--hatch) 22%, transparent);
  stroke: var(--ink-soft);
  stroke-dasharray: 1 4;
}
.arrow {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  fill: var(--ink);
  font-size: 12px;
  paint-order: stroke;
  stroke: var(--ground);
  stroke-width: 4;
}
</style>
