<script setup lang="ts">
// A wind rose around the player, who looks up the page: pull the arrow to where the wind comes from.
import { ref } from 'vue'
import { pointedAt, turned, windFrom } from '@/common/wind'

defineProps<{ strength: number }>()
const from = defineModel<number>({ required: true })

const STEP = 15
/** Page up and down: an eighth of the way round. */
const LEAP = 45
const face = ref<SVGSVGElement | null>(null)
let held = false

function point(event: PointerEvent) {
  if (!held || !face.value) return
  const box = face.value.getBoundingClientRect()
  const right = event.clientX - box.left - box.width / 2
  const up = box.top + box.height / 2 - event.clientY
  if (Math.hypot(right, up) > 4) from.value = pointedAt(right, up, 5)
}
function grab(event: PointerEvent) {
  held = true
  face.value?.setPointerCapture(event.pointerId)
  point(event)
}
function turn(event: KeyboardEvent) {
  const to = {
    ArrowRight: from.value + STEP,
    ArrowUp: from.value + STEP,
    ArrowLeft: from.value - STEP,
    ArrowDown: from.value - STEP,
    PageUp: from.value + LEAP,
    PageDown: from.value - LEAP,
    Home: 0,
    End: 360 - STEP,
  }[event.key]
  if (to === undefined) return
  event.preventDefault()
  from.value = turned(to)
}
</script>

<template>
  <svg
    ref="face"
    viewBox="-32 -32 64 64"
    role="slider"
    tabindex="0"
    aria-label="Where the wind comes from"
    aria-valuemin="0"
    aria-valuemax="359"
    :aria-valuenow="from"
    :aria-valuetext="windFrom(from)"
    data-test="dial-from"
    @pointerdown="grab"
    @pointermove="point"
    @pointerup="held = false"
    @pointercancel="held = false"
    @keydown="turn"
  >
    <circle class="rim" r="29" />
    <path v-for="k in 8" :key="k" class="mark" d="M0 -29V-25" :transform="`rotate(${45 * k})`" />
    <path class="ahead" d="M0 7V-9M-4 -5L0 -9.500L4 -5" />
    <g :transform="`rotate(${from})`" :class="{ still: strength === 0 }">
      <path class="arrow" d="M0 -27V-15" />
      <path class="head" d="M0 -9L-6 -18H6Z" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 68px;
  height: 68px;
  cursor: grab;
  touch-action: none;
}
.rim {
  fill: var(--sunk);
  stroke: var(--rule);
  stroke-width: 1.5;
}
.mark {
  stroke: var(--ink-soft);
}
.ahead {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.5;
}
.arrow {
  stroke: var(--accent);
  stroke-width: 5;
}
.head {
  fill: var(--accent);
}
.still .arrow {
  stroke: var(--hatch);
}
.still .head {
  fill: var(--hatch);
}
</style>
