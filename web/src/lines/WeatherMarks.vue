<script setup lang="ts">
// How a line stands in each weather of the season, as small marks: full, half, empty by how good the best disc is there.
import type { SeasonLine } from '@/api/client'
import { STANDINGS, WEATHER_MARKS, WEATHERS } from '@/lines/line'
import { percent } from '@/common/units'

defineProps<{ line: SeasonLine; name: (id: number) => string }>()
type Cell = SeasonLine['by_weather'][number]
const words = (w: Cell, name: (id: number) => string) =>
  `${WEATHERS[w.kind]}: ${w.best ? `${name(w.best.disc_id)} ${percent(w.best.chance)}` : 'nothing makes it'}, ${STANDINGS[w.standing].toLowerCase()}`
</script>

<template>
  <ul class="marks" aria-label="By weather">
    <li
      v-for="w in line.by_weather"
      :key="w.kind"
      :class="w.standing"
      :title="words(w, name)"
      :aria-label="words(w, name)"
    >
      <span aria-hidden="true">{{ WEATHER_MARKS[w.kind] }}</span>
      <small aria-hidden="true">{{ w.best ? Math.round(100 * w.best.chance) : '–' }}</small>
    </li>
  </ul>
</template>

<style scoped>
.marks {
  display: flex;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  width: 30px;
  padding: 1px 0;
  text-align: center;
  line-height: 1.1;
  border: 1.5px solid var(--ink);
}
li span {
  font-weight: 700;
}
small {
  display: block;
  font-size: 12px;
}
.thin {
  border-style: dashed;
}
.gap,
.beyond_arm {
  background: var(--ink);
  color: var(--panel);
}
</style>
