<script setup lang="ts">
// How far and how sure each disc went, by how it was meant.
import type { DiscSpread } from '@/api/client'
import { useUnits } from '@/api/useData'
import { figure, unit } from '@/common/units'
import { groupOf, MEANT } from '@/field/log'
import { shapeOf, shapes } from '@/field/shapes'
import { STYLES } from '@/lines/line'

defineProps<{ spreads: readonly DiscSpread[] }>()
const chosen = defineModel<string | null>({ required: true })
const units = useUnits()
const inUnits = (m: number) => unit(units.value, 'distance').toShown(m)
type Mean = NonNullable<DiscSpread['distance_m']>
const spread = ({ mean, sd }: Mean) =>
  sd == null ? figure(inUnits(mean), 1) : `${figure(inUnits(mean), 1)} ± ${figure(inUnits(sd), 1)}`
const sided = (m: Mean) => {
  const side = Math.abs(inUnits(m.mean)) < 0.05 ? '' : m.mean > 0 ? ' left' : ' right'
  return `${spread({ ...m, mean: Math.abs(m.mean) })}${side}`
}
</script>

<template>
  <div class="scroll">
    <table class="figures" data-test="spreads">
      <thead>
        <tr>
          <th scope="col">disc</th>
          <th scope="col">how</th>
          <th scope="col" class="number wide">throws</th>
          <th scope="col" class="number">distance, {{ unit(units, 'distance').symbol }}</th>
          <th scope="col" class="number wide">farthest</th>
          <th scope="col" class="number">side, {{ unit(units, 'distance').symbol }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="s in spreads"
          :key="groupOf(s)"
          :class="{ chosen: chosen === groupOf(s) }"
          :data-spread="s.disc_name"
        >
          <th scope="row">
            <button
              type="button"
              class="as-link"
              :aria-pressed="chosen === groupOf(s)"
              @click="chosen = chosen === groupOf(s) ? null : groupOf(s)"
            >
              <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true">
                <path :d="shapeOf(shapes(spreads).get(groupOf(s)) ?? 0, 90)" />
              </svg>
              {{ s.disc_name }}
            </button>
          </th>
          <td>{{ STYLES[s.style] }}, {{ MEANT[s.meant] }}</td>
          <td class="number wide">{{ s.throws }}</td>
          <td class="number">{{ s.distance_m ? spread(s.distance_m) : '–' }}</td>
          <td class="number wide">{{ s.distance_m ? figure(inUnits(s.distance_m.most), 1) : '–' }}</td>
          <td class="number">{{ s.left_m ? sided(s.left_m) : '–' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.as-link {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 40px;
}
path {
  fill: var(--panel);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.chosen {
  background: var(--ground);
}
.number {
  white-space: nowrap;
}
@media (max-width: 600px) {
  .wide {
    display: none;
  }
  .figures th,
  .figures td {
    padding: 4px 4px;
  }
}
</style>
