<script setup lang="ts">
// Flights from above and from the side, with a legend and room for more beside them.
import FlightPlan from '@/common/FlightPlan.vue'
import FlightSide from '@/common/FlightSide.vue'
import { DASHES, type Dot, type Flight, type Opening, type Zone } from '@/common/scene'

withDefaults(
  defineProps<{
    flights: readonly Flight[]
    dots?: readonly Dot[]
    zone?: Zone
    gates?: readonly Opening[]
  }>(),
  { dots: () => [], zone: undefined, gates: () => [] },
)
</script>

<template>
  <div class="views">
    <FlightPlan :flights="flights" :dots="dots" :zone="zone" :gates="gates" />
    <div class="side">
      <FlightSide :flights="flights" :zone="zone" :gates="gates" />
      <ul v-if="flights.length > 1" class="legend">
        <li v-for="(f, k) in flights" :key="f.label">
          <svg width="34" height="8" aria-hidden="true">
            <path d="M0 4H34" :stroke-dasharray="DASHES[k]" />
          </svg>
          {{ f.label }}
        </li>
      </ul>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.views {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
}
.side {
  flex: 1 1 260px;
  min-width: 0;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
.legend svg {
  display: inline-block;
  vertical-align: 2px;
}
.legend path {
  stroke: var(--accent);
  stroke-width: 3;
}
</style>
