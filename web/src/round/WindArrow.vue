<script setup lang="ts">
// Where the wind comes from on a hole, the basket being up the page: the arrow flies as the wind does.
defineProps<{ /** Clockwise from straight ahead, °. */ from: number; strength: number }>()
</script>

<template>
  <svg class="arrow" viewBox="-14 -14 28 28" width="28" height="28" aria-hidden="true">
    <circle v-if="strength < 0.5" r="4" />
    <g v-else :transform="`rotate(${from})`">
      <path d="M0 -11V9M-5 3 0 10 5 3" />
      <path v-if="strength >= 4" d="M-5 -10H5" />
      <path v-if="strength >= 8" d="M-5 -6H5" />
    </g>
  </svg>
</template>

<style scoped>
.arrow {
  flex: none;
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
</style>
