<script setup lang="ts">
// What another disc is worth: strokes left by so many discs, the best of the shelf one by one.
import { computed } from 'vue'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import type { SeasonVerdict } from '@/api/client'
import { figure } from '@/common/units'

const props = defineProps<{ season: SeasonVerdict; carried: number }>()

const WIDTH = 316
const HEIGHT = 110
const LEFT = 34
const FOOT = 18

const steps = computed(() => props.season.steps.map((s) => s.leaves_strokes))
const x = computed(() => scaleLinear([1, Math.max(2, steps.value.length)], [LEFT, WIDTH - 8]))
const y = computed(() =>
  scaleLinear(
    [props.season.ideal_leaves_strokes, Math.max(...steps.value, props.season.leaves_strokes)],
    [HEIGHT - FOOT, 8],
  ).nice(),
)
const path = computed(
  () =>
    line<number>(
      (_, k) => x.value(k + 1),
      (s) => y.value(s),
    )(steps.value) ?? '',
)
const ticks = computed(() => y.value.ticks(3))
/** From this disc on another one saves less than a stroke in ten rounds. */
const enough = computed(() => {
  const k = steps.value.findIndex((s, i) => i > 0 && steps.value[i - 1]! - s < 0.1)
  return k < 0 ? steps.value.length : k
})
</script>

<template>
  <figure v-if="steps.length > 1" class="steps">
    <figcaption>
      What another disc is worth: with the {{ enough === 1 ? 'best disc' : `best ${enough} discs` }} of your
      shelf, one more saves less than a tenth of a stroke a round. Your bag of {{ carried }} leaves
      {{ figure(season.leaves_strokes, 1) }}.
    </figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Strokes left by number of discs">
      <g v-for="t in ticks" :key="t">
        <line :x1="LEFT" :x2="WIDTH - 8" :y1="y(t)" :y2="y(t)" class="grid" />
        <text :x="LEFT - 5" :y="y(t) + 4" text-anchor="end">{{ figure(t, t < 10 ? 1 : 0) }}</text>
      </g>
      <path :d="path" class="curve" />
      <circle v-for="(s, k) in steps" :key="k" :cx="x(k + 1)" :cy="y(s)" r="2.4" class="dot" />
      <circle
        v-if="carried > 0"
        :cx="x(Math.min(carried, steps.length))"
        :cy="y(season.leaves_strokes)"
        r="5"
        class="own"
      />
      <text :x="LEFT" :y="HEIGHT - 4">1 disc</text>
      <text :x="WIDTH - 8" :y="HEIGHT - 4" text-anchor="end">{{ steps.length }} discs</text>
    </svg>
  </figure>
</template>

<style scoped>
.steps {
  margin: 12px 0 0;
  padding: 8px 14px 6px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
figcaption {
  font-size: 13.5px;
  color: var(--ink-soft);
}
svg {
  width: 100%;
  height: auto;
  font-size: 12px;
  fill: var(--ink-soft);
}
.grid {
  stroke: var(--rule-soft);
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dot {
  fill: var(--ink);
}
.own {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2.5;
}
</style>
