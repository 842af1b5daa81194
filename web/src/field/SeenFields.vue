<script setup lang="ts">
// What was seen of a flight, in figures.
import type { SeenFlight } from '@/api/client'
import { useFigures } from '@/lines/useFigures'

const seen = defineModel<SeenFlight | undefined>({ required: true })
const { get, toSi, symbol } = useFigures()
const LENGTHS = [
  ['swing_m', 'Swing, left +', -60, 60],
  ['apex_m', 'Highest', 0, 60],
  ['skip_m', 'Skip', 0, 100],
] as const
</script>

<template>
  <label v-for="[field, label, least, most] in LENGTHS" :key="field"
    ><span>{{ label }}, {{ symbol('distance') }}</span>
    <el-input-number
      :model-value="get(seen?.[field], 'distance')"
      :min="get(least, 'distance') ?? least"
      :max="get(most, 'distance') ?? most"
      :controls="false"
      inputmode="decimal"
      :data-test="`seen-${field}`"
      @update:model-value="seen = { ...seen, [field]: toSi($event, 'distance') }"
  /></label>
  <label
    ><span>In the air, s</span>
    <el-input-number
      :model-value="seen?.time_s"
      :min="0"
      :max="20"
      :controls="false"
      inputmode="decimal"
      data-test="seen-time_s"
      @update:model-value="seen = { ...seen, time_s: $event ?? null }"
  /></label>
</template>

<style scoped>
label {
  display: grid;
  gap: 2px;
}
label span {
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number {
  width: 100%;
  min-width: 110px;
}
.el-input-number :deep(.el-input__wrapper) {
  min-height: 40px;
}
</style>
