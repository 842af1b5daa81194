<script setup lang="ts">
// A line drawn: from above and from the side, with all that can be taken hold of, by pointer, finger or keys.
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { LineSpec } from '@/api/client'
import { useUnits } from '@/api/useData'
import { DASHES, extent, type Flight, type PathPoint } from '@/common/scene'
import { shown } from '@/common/units'
import { useRings } from '@/common/useRings'
import LandPlan from '@/common/LandPlan.vue'
import LandSide from '@/common/LandSide.vue'
import { groundAt, highest, lowest, outline, overGround } from '@/common/land'
import type { Handle, Level } from '@/lines/grips'
import { handles, levels, moved, raised } from '@/lines/plan'
import { risesOf, thingsOf } from '@/lines/things'

const props = defineProps<{ flights: readonly Flight[] }>()
const spec = defineModel<LineSpec>({ required: true })
/** Which of the things about it shows its edges. */
const chosen = defineModel<number | undefined>('chosen', { required: true })
const emit = defineEmits<{ settled: [] }>()
const units = useUnits()

const HEIGHT = 400
const WIDEST = 340
const WIDE = 340
const MARGIN = 24
/** How much of the picture's length goes to each side at most. */
const WIDEST_SHARE = 0.42
/** How high levels lie above the ground at the tee, m. */
const grounded = (levels: readonly Level[]) => levels.map((l) => l.base_m + l.z_m)

/** What the picture has room for; it stays while something is moved. */
const box = computed(() => held.value?.box ?? room())
function room() {
  const { distance_m, zone_length_m, zone_width_m, open_ended } = spec.value
  const zone = { distance_m, length_m: zone_length_m, width_m: zone_width_m, open: open_ended ?? false }
  const all = extent(props.flights, [], zone, spec.value.gates ?? [])
  const far_m = Math.max(all.far_m, 1.15 * distance_m)
  const high = Math.max(all.high_m, ...grounded(levels(spec.value, chosen.value)).map((z) => z + 1), 4)
  // Beside the line there is room for what lies near it, not for all of a lake.
  const spots = thingsOf(spec.value).flatMap(outline)
  const aside = (sign: number) =>
    Math.min(WIDEST_SHARE * far_m, Math.max(0, ...spots.map((s) => sign * s.left_m + 1)))
  return {
    far_m,
    left_m: Math.max(all.left_m, aside(1)),
    right_m: Math.max(all.right_m, aside(-1)),
    high_m: Math.max(high, highest(risesOf(spec.value)) + 4),
    low_m: 1.3 * lowest(risesOf(spec.value)),
  }
}
/** What is moved, in which picture, and how far from its place it was taken hold of, px. */
const held = ref<{ id: string; box: ReturnType<typeof room>; on: SVGSVGElement; dx: number; dy: number }>()

const perM = computed(() =>
  Math.min(
    (HEIGHT - 2 * MARGIN) / box.value.far_m,
    (WIDEST - 2 * MARGIN) / (box.value.left_m + box.value.right_m),
  ),
)
const width = computed(() => Math.max(200, (box.value.left_m + box.value.right_m) * perM.value + 2 * MARGIN))
const x = computed(() => {
  const middle = width.value / 2 + ((box.value.left_m - box.value.right_m) / 2) * perM.value
  return scaleLinear([0, 1], [middle, middle - perM.value])
})
const y = computed(() => scaleLinear([0, 1], [HEIGHT - MARGIN, HEIGHT - MARGIN - perM.value]))
const { rings } = useRings(() => box.value.far_m, 6)
const { rings: heights } = useRings(() => box.value.high_m, 3)
const along = computed(() => scaleLinear([0, box.value.far_m], [34, WIDE - 10]))
const LOW = 150
const up = computed(() => scaleLinear([box.value.low_m, box.value.high_m], [LOW - 20, 12]))

const plan = computed(() =>
  line<PathPoint>()
    .x((p) => x.value(p.y_m))
    .y((p) => y.value(p.x_m)),
)
const profile = computed(() =>
  line<PathPoint>()
    .x((p) => along.value(p.x_m))
    .y((p) => up.value(p.z_m)),
)
const zone = computed(() => {
  const { distance_m, zone_length_m, zone_width_m, open_ended } = spec.value
  const far = open_ended ? box.value.far_m : distance_m + zone_length_m / 2
  const near = distance_m - zone_length_m / 2
  return { far, near, left: zone_width_m / 2 }
})
const isBasket = computed(() => spec.value.landing === 'basket')
const gates = computed(() => spec.value.gates ?? [])
const grips = computed(() => handles(spec.value, chosen.value))
const bars = computed(() => levels(spec.value, chosen.value))
const ground = (x_m: number) => groundAt(risesOf(spec.value), x_m)
const isCorner = (h: Handle) => h.id.includes('corner')

const m = (value: number) => shown(units.value, 'distance', value, 1)
const where = (h: Handle) =>
  h.moves === 'across' ? `${m(Math.abs(h.y_m))} ${h.y_m >= 0 ? 'left' : 'right'}` : m(h.x_m)

/** A gate is taken as a whole a little before it, so that its edges stay free. */
const BEFORE_PX = 20
const gripAt = (h: Handle) => ({
  x: x.value(h.y_m),
  y: y.value(h.x_m) + (h.id.startsWith('gate') ? BEFORE_PX : 0),
})
const LEAST_REACH_PX = 10
const MOST_REACH_PX = 20
/** How far about it a mark is taken hold of: half way to the next at most. */
const reaches = computed(() => {
  const at = grips.value.map(gripAt)
  return at.map((a, k) => {
    const others = at.filter((_, j) => j !== k).map((b) => Math.hypot(a.x - b.x, a.y - b.y) / 2)
    return Math.max(LEAST_REACH_PX, Math.min(MOST_REACH_PX, ...others))
  })
})

function pointed(event: PointerEvent, on: SVGSVGElement) {
  const matrix = on.getScreenCTM()
  return matrix && new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
}
function choose(h: Handle) {
  if (h.thing !== undefined) chosen.value = h.thing
}
function take(event: PointerEvent, id: string, place: { x: number; y: number }) {
  const on = (event.target as SVGElement).ownerSVGElement
  const at = on && pointed(event, on)
  if (!on || !at) return
  event.preventDefault()
  ;(event.currentTarget as SVGGElement).focus()
  held.value = { id, box: room(), on, dx: at.x - place.x, dy: at.y - place.y }
  on.setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  const at = held.value && pointed(event, held.value.on)
  if (!held.value || !at) return
  const { id, dx, dy } = held.value
  const level = bars.value.find((l) => l.id === id)
  spec.value = level
    ? raised(spec.value, id, {
        x_m: along.value.invert(at.x - dx),
        z_m: up.value.invert(at.y - dy) - level.base_m,
      })
    : moved(spec.value, id, { x_m: y.value.invert(at.y - dy), y_m: x.value.invert(at.x - dx) })
}
function drop() {
  if (!held.value) return
  held.value = undefined
  emit('settled')
}

const STEP_M = 0.1
const LONG_STEP_M = 1
/** Arrows move as the picture is seen: up is away from the tee, left is left; with shift a metre at a time. */
function byKey(event: KeyboardEvent, on: Handle | Level) {
  const step = event.shiftKey ? LONG_STEP_M : STEP_M
  const [far, left] = (
    { ArrowUp: [step, 0], ArrowDown: [-step, 0], ArrowLeft: [0, step], ArrowRight: [0, -step] } as const
  )[event.key] ?? [0, 0]
  if (far === 0 && left === 0) return
  event.preventDefault()
  event.stopPropagation()
  spec.value =
    'z_m' in on
      ? raised(spec.value, on.id, { x_m: on.x_m - left, z_m: on.z_m + far })
      : moved(spec.value, on.id, { x_m: on.x_m + far, y_m: on.y_m + left })
  emit('settled')
}
</script>

<template>
  <div class="drawn">
    <svg
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      :width="width"
      :height="HEIGHT"
      role="group"
      aria-label="The line from above: tee at the bottom"
      data-test="line-plan"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
    >
      <g v-for="r in rings" :key="r.m" aria-hidden="true">
        <line :x1="0" :x2="width" :y1="y(r.m)" :y2="y(r.m)" class="level" />
        <text x="3" :y="y(r.m) - 3">{{ r.label }}</text>
      </g>
      <line :x1="x(0)" :x2="x(0)" :y1="y(0)" :y2="y(box.far_m)" class="centre" />
      <LandPlan :things="spec.things ?? []" :x="x" :y="y" :width="width" />
      <rect
        v-if="!isBasket"
        class="zone"
        :x="x(zone.left)"
        :y="y(zone.far)"
        :width="2 * zone.left * perM"
        :height="(zone.far - zone.near) * perM"
      />
      <g v-for="(g, k) in gates" :key="`gate ${k}`" class="wood">
        <line :x1="0" :x2="x(g.left_edge_m)" :y1="y(g.at_m)" :y2="y(g.at_m)" />
        <line :x1="x(g.right_edge_m)" :x2="width" :y1="y(g.at_m)" :y2="y(g.at_m)" />
      </g>
      <g v-for="(f, k) in flights" :key="f.label" aria-hidden="true">
        <circle
          v-for="(s, i) in f.cloud ?? []"
          :key="i"
          :cx="x(s.y_m)"
          :cy="y(s.x_m)"
          r="1.8"
          class="cloud"
        />
        <path class="flight" :d="plan([...f.path]) ?? ''" :stroke-dasharray="DASHES[k]" />
        <path v-if="f.run?.length" class="run" :d="plan([...f.run]) ?? ''" />
      </g>
      <text :x="x(0)" :y="HEIGHT - 6" text-anchor="middle">tee</text>
      <g
        v-for="(h, k) in grips"
        :key="h.id"
        role="slider"
        tabindex="0"
        class="grip"
        :aria-label="h.label"
        :aria-valuenow="Math.round(h.moves === 'across' ? h.y_m : h.x_m)"
        :aria-valuetext="where(h)"
        :data-handle="h.id"
        @pointerdown="take($event, h.id, { x: x(h.y_m), y: y(h.x_m) })"
        @focus="choose(h)"
        @keydown="byKey($event, h)"
      >
        <line
          v-if="h.id.startsWith('gate')"
          :x1="gripAt(h).x"
          :x2="gripAt(h).x"
          :y1="y(h.x_m)"
          :y2="gripAt(h).y"
          class="stem"
        />
        <circle :cx="gripAt(h).x" :cy="gripAt(h).y" :r="reaches[k]" class="reach" />
        <path v-if="h.id === 'target'" :d="`M${x(0) - 8} ${y(h.x_m)}h16m-8 -8v16`" class="cross" />
        <circle
          v-else
          :cx="gripAt(h).x"
          :cy="gripAt(h).y"
          :r="h.moves === 'both' && !isCorner(h) ? 8 : 6"
          class="knob"
        />
      </g>
    </svg>
    <svg
      :viewBox="`0 0 ${WIDE} ${LOW}`"
      :width="WIDE"
      :height="LOW"
      role="group"
      aria-label="The line from the side"
      data-test="line-profile"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
    >
      <g v-for="l in heights" :key="l.m" aria-hidden="true">
        <line :x1="34" :x2="WIDE - 10" :y1="up(l.m)" :y2="up(l.m)" class="level" />
        <text x="30" :y="up(l.m) + 4" text-anchor="end">{{ l.label }}</text>
      </g>
      <LandSide :things="spec.things ?? []" :rises="spec.rises ?? []" :far="box.far_m" :x="along" :y="up" />
      <line
        v-if="!isBasket"
        :x1="along(zone.near)"
        :x2="along(Math.min(zone.far, box.far_m))"
        :y1="up(ground(zone.near))"
        :y2="up(ground(Math.min(zone.far, box.far_m)))"
        class="bar"
      />
      <line
        v-if="spec.ceiling_m != null"
        :x1="34"
        :x2="WIDE - 10"
        :y1="up(spec.ceiling_m)"
        :y2="up(spec.ceiling_m)"
        class="bar"
      />
      <template v-for="(g, k) in gates" :key="k">
        <line
          v-if="g.ceiling_m != null"
          :x1="along(g.at_m)"
          :x2="along(g.at_m)"
          :y1="up(ground(g.at_m) + g.ceiling_m)"
          y2="0"
          class="bar"
        />
        <line
          v-if="g.floor_m"
          :x1="along(g.at_m)"
          :x2="along(g.at_m)"
          :y1="up(ground(g.at_m))"
          :y2="up(ground(g.at_m) + g.floor_m)"
          class="bar"
        />
      </template>
      <g v-for="(f, k) in flights" :key="f.label" aria-hidden="true">
        <path class="flight" :d="profile([...f.path]) ?? ''" :stroke-dasharray="DASHES[k]" />
        <path v-if="f.run?.length" class="run" :d="profile(overGround(risesOf(spec), f.run)) ?? ''" />
      </g>
      <text x="34" :y="LOW - 4">from the side</text>
      <g
        v-for="l in bars"
        :key="l.id"
        role="slider"
        tabindex="0"
        class="grip"
        aria-orientation="vertical"
        :aria-label="l.label"
        :aria-valuenow="Math.round(l.z_m)"
        :aria-valuetext="m(l.z_m)"
        :data-handle="l.id"
        @pointerdown="take($event, l.id, { x: along(l.x_m), y: up(l.base_m + l.z_m) })"
        @keydown="byKey($event, l)"
      >
        <circle :cx="along(l.x_m)" :cy="up(l.base_m + l.z_m)" r="20" class="reach" />
        <circle :cx="along(l.x_m)" :cy="up(l.base_m + l.z_m)" r="6" class="knob" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.drawn {
  display: grid;
  justify-items: center;
  gap: 6px;
}
svg {
  max-width: 100%;
  height: auto;
  font-size: 12px;
  fill: var(--ink-soft);
  background: var(--ground);
  border: 1px solid var(--rule-soft);
}
.level {
  stroke: var(--rule-soft);
}
.centre {
  stroke: var(--rule);
  stroke-dasharray: 3 4;
}
.zone {
  fill: var(--accent);
  fill-opacity: 0.13;
  stroke: var(--ink);
  stroke-dasharray: 5 4;
}
.wood line,
.bar {
  stroke: var(--ink);
  stroke-width: 5;
}
.flight,
.run {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.run {
  stroke-dasharray: 1 3;
}
.cloud {
  fill: var(--ink);
  opacity: 0.28;
}
.grip {
  cursor: grab;
  touch-action: none;
}
.reach {
  fill: transparent;
}
.stem {
  stroke: var(--ink);
  stroke-width: 2;
}
.knob {
  fill: var(--panel);
  stroke: var(--ink);
  stroke-width: 2.5;
}
.cross {
  stroke: var(--ink);
  stroke-width: 3;
}
.grip:focus {
  outline: none;
}
.grip:focus-visible .reach,
.grip:focus .knob {
  stroke: var(--accent);
  stroke-width: 3;
}
</style>
