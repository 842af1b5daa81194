<script setup lang="ts">
// Chances as they were told against the share that was made: honest ones lie on the slanted stroke.
import { scaleLinear } from 'd3-scale'
import { type ChanceBin } from '@/api/client'
import { percent } from '@/common/units'

defineProps<{ bins: readonly ChanceBin[] }>()
const SIZE = 300
const LEFT = 62
const RIGHT = 22
const FOOT = 40
const x = scaleLinear([0, 1], [LEFT, SIZE - RIGHT])
const y = scaleLinear([0, 1], [SIZE - FOOT, 10])
const TICKS = [0, 0.25, 0.5, 0.75, 1]
</script>

<template>
  <div class="with-table">
    <svg :viewBox="`0 0 ${SIZE} ${SIZE}`" role="img" aria-label="Chance told against the share made">
      <g v-for="t in TICKS" :key="t">
        <line :x1="LEFT" :x2="SIZE - RIGHT" :y1="y(t)" :y2="y(t)" class="grid" />
        <text :x="LEFT - 6" :y="y(t) + 4" text-anchor="end">{{ percent(t) }}</text>
        <text :x="x(t)" :y="SIZE - FOOT + 16" text-anchor="middle">{{ percent(t) }}</text>
      </g>
      <line :x1="x(0)" :y1="y(0)" :x2="x(1)" :y2="y(1)" class="honest" />
      <g v-for="b in bins" :key="b.told">
        <line :x1="x(b.told)" :x2="x(b.told)" :y1="y(b.low)" :y2="y(b.high)" class="sure" />
        <circle :cx="x(b.told)" :cy="y(b.made)" r="5" class="dot" />
      </g>
      <text :x="(LEFT + SIZE - RIGHT) / 2" :y="SIZE - 6" text-anchor="middle">chance told</text>
      <text :transform="`translate(11 ${(SIZE - FOOT) / 2}) rotate(-90)`" text-anchor="middle">made</text>
    </svg>
    <table class="figures">
      <thead>
        <tr>
          <th scope="col" class="number">told</th>
          <th scope="col" class="number">throws</th>
          <th scope="col" class="number">made</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="b in bins" :key="b.told">
          <td class="number">{{ percent(b.told) }}</td>
          <td class="number">{{ b.tried }}</td>
          <td class="number">
            <b>{{ percent(b.made) }}</b>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.with-table {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: flex-start;
}
svg {
  flex: 1 1 220px;
  max-width: 320px;
}
table {
  flex: 0 1 180px;
}
text {
  fill: var(--ink);
  font-size: 12px;
}
.grid {
  stroke: var(--rule-soft);
}
.honest {
  stroke: var(--rule);
  stroke-width: 2;
  stroke-dasharray: 6 4;
}
.sure {
  stroke: var(--ink);
  stroke-width: 2;
}
.dot {
  fill: var(--panel);
  stroke: var(--ink);
  stroke-width: 2.5;
}
</style>
