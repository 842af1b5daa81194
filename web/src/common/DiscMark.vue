<script setup lang="ts">
// A disc in its own colour. Wear breaks its edge: the more worn, the more gaps.
import { computed } from 'vue'

const props = withDefaults(defineProps<{ colour: string; wear: number; idle?: boolean; size?: number }>(), {
  idle: false,
  size: 26,
})

const AROUND = 2 * Math.PI * 10.6
const PIECES = 9
const dashes = computed(() => {
  if (props.wear < 0.08) return undefined
  const piece = AROUND / PIECES
  const gap = piece * Math.min(0.72, 0.12 + 0.62 * props.wear)
  return `${piece - gap} ${gap}`
})
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 26 26" aria-hidden="true">
    <circle cx="13" cy="13" r="9.2" :fill="colour" />
    <circle
      cx="13"
      cy="13"
      r="10.6"
      fill="none"
      stroke="var(--ink)"
      stroke-width="3"
      :stroke-dasharray="dashes"
    />
    <path v-if="idle" d="M7 19 19 7" stroke="var(--ink)" stroke-width="3" />
  </svg>
</template>
