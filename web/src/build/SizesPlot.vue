<script setup lang="ts">
// Where another disc stops paying: what the best bag of every size leaves, with and without the taste for few moulds.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { CurvePoint } from '@/api/client'
import { enoughDiscs } from '@/build/wishes'
import { figure, percent, strokeCount, strokes } from '@/common/units'

const props = defineProps<{
  points: readonly CurvePoint[]
  name: (id: number | null | undefined) => string
}>()

const WIDTH = 640
const HEIGHT = 230
const LEFT = 40
const RIGHT = 12
const FOOT = 30
/** One more disc stops paying where it saves less, strokes a round. */
const LITTLE = 0.05

const sizes = computed(() => props.points.map((p) => p.discs))
const x = computed(() =>
  scaleLinear(
    [Math.min(...sizes.value), Math.max(Math.min(...sizes.value) + 1, ...sizes.value)],
    [LEFT + 8, WIDTH - RIGHT - 8],
  ),
)
const y = computed(() => {
  const all = props.points.flatMap((p) => [p.leaves_strokes, p.free_leaves_strokes])
  return scaleLinear([Math.min(...all), Math.max(...all)], [HEIGHT - FOOT, 12]).nice()
})
const path = (of: (p: CurvePoint) => number) =>
  line<CurvePoint>(
    (p) => x.value(p.discs),
    (p) => y.value(of(p)),
  )([...props.points]) ?? ''
const differ = computed(() => props.points.some((p) => p.leaves_strokes - p.free_leaves_strokes > 0.02))
const enough = computed(() => enoughDiscs(props.points, LITTLE))
const rows = computed(() =>
  props.points.map((p, k) => ({
    ...p,
    saves: k === 0 ? null : (props.points[k - 1]?.leaves_strokes ?? 0) - p.leaves_strokes,
    comes: p.chosen.filter((id) => !props.points[k - 1]?.chosen.includes(id)),
    goes: (props.points[k - 1]?.chosen ?? []).filter((id) => !p.chosen.includes(id)),
  })),
)
/** The first size that has most of it, and the first that has nearly all. */
const steps = computed(() =>
  [0.9, 0.98]
    .flatMap((least) => props.points.find((p) => p.share >= least) ?? [])
    .filter((p, k, all) => all.indexOf(p) === k),
)
const first = computed(() => props.points[0])
const last = computed(() => props.points[props.points.length - 1])
</script>

<template>
  <section class="panel" data-test="sizes">
    <h2>How many discs pay</h2>
    <p v-if="points.length === 0">Of no size up to this one does a bag keep every wish.</p>
    <template v-else>
      <p>
        <template v-if="enough !== undefined && enough < (last?.discs ?? 0)"
          >From {{ enough === 1 ? 'one disc' : `${enough} discs` }} on, each further one saves less than
          {{ strokes(LITTLE) }} a round.</template
        >
        <template v-else>Every disc up to here saves {{ strokes(LITTLE) }} a round or more.</template>
        <template v-for="s in steps" :key="s.discs">
          {{ s.discs === 1 ? 'One disc has' : `${s.discs} discs have` }} {{ percent(s.share) }} of what your
          whole shelf saves.</template
        >
        <template v-if="first && first.discs > 1">
          No bag of fewer than {{ first.discs }} keeps every wish.</template
        >
      </p>
      <svg
        v-if="points.length > 1"
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        role="img"
        aria-label="Strokes left by the best bag of every size"
      >
        <g v-for="t in y.ticks(4)" :key="t">
          <line :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(t)" :y2="y(t)" class="grid" />
          <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ figure(t, 1) }}</text>
        </g>
        <path v-if="differ" :d="path((p) => p.free_leaves_strokes)" class="free" />
        <path :d="path((p) => p.leaves_strokes)" class="curve" />
        <circle
          v-for="p in points"
          :key="p.discs"
          :cx="x(p.discs)"
          :cy="y(p.leaves_strokes)"
          r="4"
          class="dot"
        />
        <text v-for="p in points" :key="`n${p.discs}`" :x="x(p.discs)" :y="HEIGHT - 12" text-anchor="middle">
          {{ p.discs }}
        </text>
      </svg>
      <p v-if="differ" class="soft">
        Solid: under your taste for few moulds and discs. Broken: if these cost nothing.
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="The best bag of every size">
        <table class="figures">
          <thead>
            <tr>
              <th scope="col">Discs</th>
              <th scope="col" class="number">leaves</th>
              <th scope="col" class="number">saves</th>
              <th scope="col" class="number">moulds</th>
              <th scope="col">comes</th>
              <th scope="col">goes</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.discs" :data-size="r.discs">
              <th scope="row">{{ r.discs }}<template v-if="!r.is_proven"> (not proven)</template></th>
              <td class="number">{{ figure(r.leaves_strokes, 2) }}</td>
              <td class="number">{{ r.saves === null ? '' : strokeCount(Math.max(0, r.saves)) }}</td>
              <td class="number">{{ r.moulds }}</td>
              <td>{{ r.comes.map((id) => name(id)).join(', ') || '–' }}</td>
              <td>{{ r.goes.map((id) => name(id)).join(', ') || '–' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
  </section>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 760px;
  height: auto;
  font-size: 13px;
  fill: var(--ink-soft);
}
.grid {
  stroke: var(--rule-soft);
}
.curve,
.free {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.free {
  stroke: var(--ink-soft);
  stroke-dasharray: 5 4;
}
.dot {
  fill: var(--ink);
}
.scroll {
  overflow-x: auto;
}
</style>
