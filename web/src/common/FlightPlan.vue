<script setup lang="ts">
// Flights from above in true proportion: tee at the bottom, left is left.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import { useRings } from '@/common/useRings'
import type { Thing } from '@/api/client'
import { outline } from '@/common/land'
import LandPlan from '@/common/LandPlan.vue'
import { apart } from '@/range/range'
import { DASHES, type Dot, extent, type Flight, type Opening, type Spot, type Zone } from '@/common/scene'

const props = withDefaults(
  defineProps<{
    flights: readonly Flight[]
    height?: number
    widest?: number
    chosen?: number
    lettered?: boolean
    dots?: readonly Dot[]
    zone?: Zone
    gates?: readonly Opening[]
    things?: Thing[]
    /** Whether a way can be drawn on it. */
    drawable?: boolean
    /** What else there must be room for. */
    room?: readonly Spot[]
    /** Where something was seen to end. */
    mark?: Spot | undefined
  }>(),
  {
    height: 300,
    widest: 420,
    chosen: undefined,
    lettered: false,
    dots: () => [],
    zone: undefined,
    gates: () => [],
    things: () => [],
    drawable: false,
    room: () => [],
    mark: undefined,
  },
)
const emit = defineEmits<{ drawn: [way: Spot[]] }>()

const MARGIN = 26
/** Beside the flights there is room for what lies near the line, not for all of a lake. */
const box = computed(() => {
  const flown = extent(
    props.flights,
    [...props.dots, ...props.room, ...(props.mark ? [props.mark] : [])],
    props.zone,
    props.gates,
  )
  const spots = props.things.flatMap(outline)
  const aside = (sign: number) =>
    Math.min(0.4 * flown.far_m, Math.max(0, ...spots.map((s) => sign * s.left_m + 1)))
  return { ...flown, left_m: Math.max(flown.left_m, aside(1)), right_m: Math.max(flown.right_m, aside(-1)) }
})
const perM = computed(() =>
  Math.min(
    (props.height - 2 * MARGIN) / box.value.far_m,
    (props.widest - 3 * MARGIN) / (box.value.left_m + box.value.right_m),
  ),
)
const zoneEnd = computed(() => {
  if (!props.zone) return 0
  return props.zone.open ? box.value.far_m : props.zone.distance_m + props.zone.length_m / 2
})
const width = computed(() => (box.value.left_m + box.value.right_m) * perM.value + 3 * MARGIN)
const x = computed(() =>
  scaleLinear([box.value.left_m, -box.value.right_m], [2 * MARGIN, width.value - MARGIN]),
)
const y = computed(() =>
  scaleLinear(
    [0, box.value.far_m],
    [props.height - MARGIN, props.height - MARGIN - box.value.far_m * perM.value],
  ),
)
const { rings, symbol } = useRings(() => box.value.far_m, props.height > 400 ? 8 : 5)
const drawn = computed(() =>
  line<Spot>()
    .x((p) => x.value(p.y_m))
    .y((p) => y.value(p.x_m)),
)

/** Part of a circle around the tee that lies within the picture. */
function ring(m: number): string {
  const at = (left: number) => {
    const y_m = Math.min(Math.abs(left), m * 0.999) * Math.sign(left)
    return { x: x.value(y_m), y: y.value(Math.sqrt(m * m - y_m * y_m)) }
  }
  const [from, to] = [at(box.value.left_m), at(-box.value.right_m)]
  const r = m * perM.value
  return `M${from.x} ${from.y}A${r} ${r} 0 0 1 ${to.x} ${to.y}`
}
const ringLabel = (m: number) => {
  const left = Math.min(box.value.left_m, m * 0.999)
  return { x: x.value(left) - 5, y: y.value(Math.sqrt(m * m - left * left)) + 4 }
}

const ends = computed(() =>
  props.flights.map((f) => ({ touch: f.path.at(-1), rest: f.run?.at(-1) ?? f.path.at(-1) })),
)
const letters = computed(() => {
  const order = ends.value.map((e) => (e.rest ? x.value(e.rest.y_m) : 0))
  return apart(order, 13)
})
/** The way that is being drawn; null while none is. */
const way = ref<Spot[] | null>(null)
function spotAt(event: PointerEvent): Spot {
  const box = (event.currentTarget as Element).getBoundingClientRect()
  const [px, py] = [event.clientX - box.left, event.clientY - box.top]
  const shrunk = width.value / box.width
  return { x_m: y.value.invert(py * shrunk), y_m: x.value.invert(px * shrunk) }
}
function begin(event: PointerEvent) {
  if (!props.drawable || event.button !== 0) return
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  way.value = [spotAt(event)]
}
const go = (event: PointerEvent) => way.value?.push(spotAt(event))
function end() {
  if (way.value) emit('drawn', way.value)
  way.value = null
}
const wayDrawn = computed(() => {
  const spots = way.value?.map((s) => `${x.value(s.y_m)} ${y.value(s.x_m)}`) ?? []
  return spots.length > 1 ? `M${spots.join('L')}` : ''
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
      aria-label="Flights from above"
      data-picture="plan"
      :class="{ drawable }"
      @pointerdown="begin"
      @pointermove="go"
      @pointerup="end"
      @pointercancel="way = null"
    >
      <LandPlan v-if="things.length" :things="things" :x="x" :y="y" :width="width" />
      <line :x1="x(0)" :x2="x(0)" :y1="y(0)" :y2="y(box.far_m)" class="centre" />
      <g v-for="r in rings" :key="r.m">
        <path :d="ring(r.m)" class="ring" />
        <text :x="ringLabel(r.m).x" :y="ringLabel(r.m).y" text-anchor="end">{{ r.label }}</text>
      </g>
      <rect
        v-if="zone"
        class="zone"
        :x="x(zone.width_m / 2)"
        :y="y(zoneEnd)"
        :width="zone.width_m * perM"
        :height="(zoneEnd - zone.distance_m + zone.length_m / 2) * perM"
      />
      <g v-for="(g, k) in gates" :key="k" class="gate">
        <line :x1="x(box.left_m)" :x2="x(g.left_edge_m)" :y1="y(g.at_m)" :y2="y(g.at_m)" />
        <line :x1="x(g.right_edge_m)" :x2="x(-box.right_m)" :y1="y(g.at_m)" :y2="y(g.at_m)" />
      </g>
      <template v-for="(d, k) in dots" :key="k">
        <circle v-if="d.made" class="hit" :cx="x(d.y_m)" :cy="y(d.x_m)" r="2.6" />
        <path v-else class="miss" :d="`M${x(d.y_m) - 2.6} ${y(d.x_m) - 2.6}l5.2 5.2m0 -5.2l-5.2 5.2`" />
      </template>
      <g v-for="(f, k) in flights" :key="`cloud ${k}`" class="cloud" :class="state(k)">
        <circle v-for="(s, i) in f.cloud ?? []" :key="i" :cx="x(s.y_m)" :cy="y(s.x_m)" r="2.2" />
      </g>
      <g v-for="(f, k) in flights" :key="k" :class="state(k)">
        <path class="flight" :d="drawn([...f.path]) ?? ''" :stroke-dasharray="DASHES[k]" />
        <template v-if="ends[k]?.touch && ends[k]?.rest">
          <path v-if="f.run?.length" class="run" :d="drawn([...f.run]) ?? ''" />
          <circle class="end" :cx="x(ends[k]!.rest!.y_m)" :cy="y(ends[k]!.rest!.x_m)" r="4.5" />
          <text
            v-if="lettered"
            class="letter"
            :x="letters[k]"
            :y="y(ends[k]!.rest!.x_m) - 9"
            text-anchor="middle"
          >
            {{ f.label }}
          </text>
        </template>
      </g>
      <path v-if="mark" :d="`M${x(mark.y_m) - 7} ${y(mark.x_m) - 7}l14 14m0 -14l-14 14`" class="mark" />
      <path v-if="wayDrawn" :d="wayDrawn" class="way" />
      <text :x="x(0)" :y="height - 8" text-anchor="middle">tee</text>
    </svg>
    <figcaption>From above, {{ symbol }}</figcaption>
  </figure>
</template>

<style scoped src="../styles/flights.css"></style>
