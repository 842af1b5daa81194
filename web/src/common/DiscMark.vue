<script setup lang="ts">
// A disc in its own colour. Wear breaks its edge: the more worn, the more gaps.
import { MARK_EDGE_PX, wearDashes } from '@/common/disc'

withDefaults(defineProps<{ colour: string; wear: number; idle?: boolean; size?: number }>(), {
  idle: false,
  size: 26,
})
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 26 26" aria-hidden="true">
    <circle cx="13" cy="13" r="9.2" :fill="colour" />
    <circle
      cx="13"
      cy="13"
      :r="MARK_EDGE_PX"
      fill="none"
      stroke="var(--ink)"
      stroke-width="3"
      :stroke-dasharray="wearDashes(wear)"
    />
    <path v-if="idle" d="M7 19 19 7" stroke="var(--ink)" stroke-width="3" />
  </svg>
</template>
