<script setup lang="ts">
// The throws of a session from above, each where it came to rest: a shape for each disc and way it was meant, and round those the
// ellipse inside which half of such throws end.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { DiscSpread } from '@/api/client'
import { useDiscs, useUnits } from '@/api/useData'
import { unit, shown } from '@/common/units'
import { alongOf, groupOf, isClean, leftOf, type ShownThrow } from '@/field/log'
import { shapeOf, shapes } from '@/field/shapes'

const props = defineProps<{
  throws: readonly ShownThrow[]
  spreads: readonly DiscSpread[]
  /** The group that is looked at; others step back. */
  chosen: string | null
}>()
const units = useUnits()
const discs = useDiscs()
const here = ref<HTMLElement | null>(null)
const { width } = useElementSize(here)

const shapeAt = computed(() => shapes(props.spreads))
const placed = computed(() =>
  props.throws.flatMap((t) => {
    const [left, along] = [leftOf(t), alongOf(t)]
    return left == null || along == null ? [] : [{ t, left, along, group: groupOf(t), clean: isClean(t) }]
  }),
)
const ellipses = computed(() =>
  props.spreads.flatMap((s) =>
    s.ellipse ? [{ ...s.ellipse, group: groupOf(s), k: shapeAt.value.get(groupOf(s)) ?? 0 }] : [],
  ),
)
const colourOf = (t: ShownThrow) =>
  discs.data.value?.find((d) => d.id === t.disc_id)?.colour ?? 'var(--hatch)'

const PAD = 26
/** Pixels for a metre, the same along and across, so that an angle looks as it is. */
const MOST_HEIGHT = 560
const far = computed(() => Math.max(30, ...placed.value.map((p) => p.along)) * 1.06)
const near = computed(() => Math.min(0, ...placed.value.map((p) => p.along)))
const wide = computed(() => Math.max(12, ...placed.value.map((p) => Math.abs(p.left))) * 1.15)
const scale = computed(() =>
  Math.min((MOST_HEIGHT - 2 * PAD) / (far.value - near.value), (width.value - 2 * PAD) / (2 * wide.value)),
)
const height = computed(() => 2 * PAD + scale.value * (far.value - near.value))
const x = (left: number) => width.value / 2 - scale.value * left
const y = (along: number) => PAD + scale.value * (far.value - along)
const arcs = computed(() => {
  const u = unit(units.value, 'distance')
  const step = u.symbol === 'm' ? 20 : 50
  const n = Math.floor(u.toShown(far.value) / step)
  return Array.from({ length: n }, (_, k) => u.toSi(step * (k + 1)))
})
const faded = (group: string) => props.chosen !== null && props.chosen !== group
</script>

<template>
  <div ref="here" class="plan" data-test="throw-plan">
    <svg
      v-if="width > 0"
      :width="width"
      :height="height"
      role="img"
      aria-label="Where the throws came to rest; the list below says the same"
    >
      <g class="arcs">
        <template v-for="m in arcs" :key="m">
          <circle :cx="x(0)" :cy="y(0)" :r="scale * m" />
          <text :x="x(0) + 4" :y="y(m) - 4">{{ shown(units, 'distance', m) }}</text>
        </template>
        <line :x1="x(0)" :x2="x(0)" :y1="y(0)" :y2="y(far)" />
      </g>
      <path :d="`M${x(0) - 9} ${y(0)}h18`" class="tee" />
      <ellipse
        v-for="e in ellipses"
        :key="e.group"
        :cx="x(e.left_m)"
        :cy="y(e.at_m)"
        :rx="scale * e.short_m"
        :ry="scale * e.long_m"
        :transform="`rotate(${-e.turned_deg} ${x(e.left_m)} ${y(e.at_m)})`"
        :class="{ faded: faded(e.group), chosen: chosen === e.group }"
      />
      <path
        v-for="p in placed"
        :key="p.t.key"
        :d="shapeOf(shapeAt.get(p.group) ?? 0, 90)"
        :transform="`translate(${x(p.left)} ${y(p.along)})`"
        :fill="p.clean ? colourOf(p.t) : 'none'"
        class="throw"
        :class="{ faded: faded(p.group) }"
      >
        <title>{{ p.t.disc_name }}</title>
      </path>
    </svg>
    <p v-if="placed.length === 0" class="soft">
      Nothing to draw yet: a throw is drawn when its distance and its side are known.
    </p>
  </div>
</template>

<style scoped>
.plan {
  width: 100%;
  overflow: hidden;
}
svg {
  display: block;
  background: var(--ground);
}
.arcs circle {
  fill: none;
  stroke: var(--rule);
}
.arcs line {
  stroke: var(--ink-soft);
  stroke-dasharray: 2 5;
}
text {
  fill: var(--ink-soft);
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
.tee {
  stroke: var(--ink);
  stroke-width: 4;
}
ellipse {
  fill: color-mix(in srgb, var(--hatch) 14%, transparent);
  stroke: var(--ink);
  stroke-width: 1.3;
}
ellipse.chosen {
  stroke-width: 3;
}
.throw {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.faded {
  opacity: 0.18;
}
</style>
