<script setup lang="ts">
// Something as it was told (a diamond in the middle) and as it was found (a stroke), with a bar that holds it in nine cases of ten.
const props = defineProps<{
  figure: { found: number; low: number; high: number }
  /** Where a value is drawn: −1 at the left end, 0 as told, 1 at the right end. */
  place: (value: number) => number
}>()
const WIDTH = 180
const x = (value: number) => (WIDTH / 2) * (1 + Math.max(-1, Math.min(1, props.place(value))))
</script>

<template>
  <svg :width="WIDTH" height="20" aria-hidden="true">
    <line x1="0" :x2="WIDTH" y1="10" y2="10" class="axis" />
    <rect :x="x(figure.low)" y="5" :width="x(figure.high) - x(figure.low)" height="10" class="sure" />
    <line :x1="x(figure.found)" :x2="x(figure.found)" y1="2" y2="18" class="found" />
    <path :d="`M${WIDTH / 2} 4l5 6-5 6-5-6z`" class="told" />
  </svg>
</template>

<style scoped>
.axis {
  stroke: var(--rule);
}
.sure {
  fill: color-mix(in srgb, var(--hatch) 40%, transparent);
  stroke: var(--ink);
}
.found {
  stroke: var(--ink);
  stroke-width: 3;
}
.told {
  fill: var(--panel);
  stroke: var(--ink);
  stroke-width: 1.5;
}
</style>
