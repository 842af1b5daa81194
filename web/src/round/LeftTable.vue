<script setup lang="ts">
// How many strokes are left from how far: what a lay-up is worth.
import { computed } from 'vue'
import type { LeftFrom } from '@/api/client'
import { useDiscs, useUnits } from '@/api/useData'
import { figure, percent, shown } from '@/common/units'
import { STYLES } from '@/lines/line'

const props = defineProps<{ left: readonly LeftFrom[]; leave: number | null; words: string }>()
const units = useUnits()
const discs = useDiscs()
const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? ''
/** Farther off nobody plans a lay-up. */
const FARTHEST_M = 130
const near = computed(() => props.left.filter((f) => f.distance_m <= FARTHEST_M))
</script>

<template>
  <details class="left" data-test="left">
    <summary>From how far, how many strokes</summary>
    <p>{{ words }}</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Strokes by distance">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col" class="number">From</th>
            <th scope="col" class="number">strokes</th>
            <th scope="col" class="number">in two</th>
            <th scope="col">with</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in near" :key="f.distance_m" :class="{ most: f.distance_m === leave }">
            <td class="number">{{ shown(units, 'distance', f.distance_m) }}</td>
            <td class="number">{{ figure(f.strokes, 2) }}</td>
            <td class="number">{{ percent(f.in_two) }}</td>
            <td>
              <template v-if="f.disc_id != null">{{ name(f.disc_id) }}, {{ STYLES[f.style] }}</template>
              <template v-else>nothing in the bag is of use</template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft">
      On open ground in calm, from where a disc lies, with your scatter; a throw that is not a putt is never
      taken to go in by itself.
    </p>
  </details>
</template>

<style scoped>
summary {
  padding: 9px 0;
  cursor: pointer;
}
.scroll {
  max-width: 560px;
  overflow-x: auto;
}
.most td {
  border-bottom: 3px solid var(--ink);
}
</style>
