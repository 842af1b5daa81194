<script setup lang="ts">
// The ground from the side, and how high things stand on it: part of a picture that has its own scales.
import { computed } from 'vue'
import type { LineSpec } from '@/api/client'
import { groundAt, groundLine, reach } from '@/common/land'

const props = defineProps<{
  things: NonNullable<LineSpec['things']>
  rises: NonNullable<LineSpec['rises']>
  /** Where the picture ends, m. */
  far: number
  /** Where a place down-range lies in the picture, and a height. */
  x: (at_m: number) => number
  y: (height_m: number) => number
}>()

const ground = computed(() =>
  groundLine(props.rises, props.far).map((p) => `${props.x(p.x_m)},${props.y(p.z_m)}`),
)
/** What stands, as a box over the ground: from, to, foot, top. */
interface Box {
  from: number
  to: number
  foot: number
  top: number
  base: number
  trunk?: number
}
const standing = computed(() =>
  props.things.flatMap((t): Box[] => {
    const [from, to] = reach(t)
    if (from > props.far) return []
    const at = Math.max(0, Math.min(props.far, (from + to) / 2))
    const base = groundAt(props.rises, at)
    const span = { from: Math.max(0, from), to: Math.min(props.far, to) }
    if (t.kind === 'tree') return [{ ...span, foot: base + t.foot_m, top: base + t.top_m, base, trunk: at }]
    if (t.kind === 'wood') return [{ ...span, foot: base, top: base + t.top_m, base }]
    return []
  }),
)
const roofs = computed(() =>
  props.things.flatMap((t) => {
    if (t.kind !== 'roof') return []
    const corners = [
      t.from_m,
      ...props.rises.map((r) => r.at_m).filter((m) => m > t.from_m && m < t.to_m),
      t.to_m,
    ]
    return [
      corners
        .map((m) => `${props.x(Math.min(m, props.far))},${props.y(groundAt(props.rises, m) + t.under_m)}`)
        .join(' '),
    ]
  }),
)
</script>

<template>
  <g aria-hidden="true">
    <g v-for="(s, k) in standing" :key="k">
      <rect
        :x="x(s.from)"
        :width="Math.max(2, x(s.to) - x(s.from))"
        :y="y(s.top)"
        :height="Math.max(1, y(s.foot) - y(s.top))"
        class="stand"
      />
      <line
        v-if="s.trunk !== undefined"
        :x1="x(s.trunk)"
        :x2="x(s.trunk)"
        :y1="y(s.base)"
        :y2="y(s.foot)"
        class="trunk"
      />
    </g>
    <polyline v-for="(r, k) in roofs" :key="`roof ${k}`" :points="r" class="roof" />
    <polyline :points="ground.join(' ')" class="ground" />
  </g>
</template>

<style scoped>
.stand {
  fill: color-mix(in srgb, var(--hatch) 40%, transparent);
  stroke: var(--ink-soft);
}
.trunk {
  stroke: var(--ink-soft);
  stroke-width: 3;
}
.ground,
.roof {
  fill: none;
  stroke: var(--ink);
}
.roof {
  stroke-width: 4;
}
</style>
