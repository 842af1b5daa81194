<script setup lang="ts">
// The four flight numbers as fields.
import type { Numbers } from '@/api/client'

defineProps<{ legend: string; test?: string }>()
const numbers = defineModel<Numbers>({ required: true })
const NUMBERS = [
  { key: 'speed', label: 'Speed', min: 0.5, max: 15 },
  { key: 'glide', label: 'Glide', min: 0, max: 8 },
  { key: 'turn', label: 'Turn', min: -8, max: 3 },
  { key: 'fade', label: 'Fade', min: -1, max: 7 },
] as const
</script>

<template>
  <fieldset>
    <legend>
      <slot>{{ legend }}</slot>
    </legend>
    <label v-for="n in NUMBERS" :key="n.key">
      <span>{{ n.label }}</span>
      <el-input-number
        v-model="numbers[n.key]"
        :name="n.key"
        :min="n.min"
        :max="n.max"
        :step="0.5"
        controls-position="right"
        :data-test="test ? `${test}-${n.key}` : undefined"
      />
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
  gap: 10px 14px;
  min-width: 0;
  margin: 0 0 12px;
  padding: 6px 12px 12px;
  border: 1px solid var(--rule-soft);
}
legend {
  padding: 0 6px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number {
  width: 100%;
}
</style>
