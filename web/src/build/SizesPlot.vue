<script setup lang="ts">
// Where another disc stops paying: what the best bag of every size leaves, with and without the taste for few moulds.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { Curve, CurvePoint } from '@/api/client'
import { figure, percent, strokeCount, strokes } from '@/common/units'

const props = defineProps<{
  curve: Curve
  name: (id: number | null | undefined) => string
}>()

const WIDTH = 640
const HEIGHT = 230
const LEFT = 40
const RIGHT = 12
const FOOT = 30

const points = computed(() => props.curve.points)
const least = computed(() => strokes(props.curve.little_strokes))
const sizes = computed(() => points.value.map((p) => p.discs))
const x = computed(() =>
  scaleLinear(
    [Math.min(...sizes.value), Math.max(Math.min(...sizes.value) + 1, ...sizes.value)],
    [LEFT + 8, WIDTH - RIGHT - 8],
  ),
)
const y = computed(() => {
  const all = points.value.flatMap((p) => [p.leaves_strokes, p.free_leaves_strokes])
  return scaleLinear([Math.min(...all), Math.max(...all)], [HEIGHT - FOOT, 12]).nice()
})
const path = (of: (p: CurvePoint) => number) =>
  line<CurvePoint>(
    (p) => x.value(p.discs),
    (p) => y.value(of(p)),
  )([...points.value]) ?? ''
const differ = computed(() => points.value.some((p) => p.leaves_strokes - p.free_leaves_strokes > 0.02))
const rows = computed(() =>
  points.value.map((p, k) => ({
    ...p,
    saves: k === 0 ? null : (points.value[k - 1]?.leaves_strokes ?? 0) - p.leaves_strokes,
    comes: p.chosen.filter((id) => !points.value[k - 1]?.chosen.includes(id)),
    goes: (points.value[k - 1]?.chosen ?? []).filter((id) => !p.chosen.includes(id)),
  })),
)
const first = computed(() => points.value[0])
const last = computed(() => points.value[points.value.length - 1])
const so = (n: number) => (n === 1 ? 'one disc' : `${n} discs`)
const sentences = computed(() => {
  const { enough, milestones } = props.curve
  const less = enough != null && enough < (last.value?.discs ?? 0)
  const told = points.value.filter((p) => milestones.includes(p.discs))
  return [
    less
      ? `From ${so(enough)} on, each further one saves less than ${least.value} a round.`
      : `Up to here another disc pays: the last saves ${least.value} a round or more.`,
    ...told.map((p) => `With ${so(p.discs)} you have ${percent(p.share)} of what your whole shelf saves.`),
    ...(first.value && first.value.discs > 1
      ? [`No bag of fewer than ${first.value.discs} keeps every wish.`]
      : []),
  ]
})
</script>

<template>
  <section class="panel" data-test="sizes">
    <h2>How many discs pay</h2>
    <p v-if="points.length === 0">Of no size up to this one does a bag keep every wish.</p>
    <template v-else>
      <p>{{ sentences.join(' ') }}</p>
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
