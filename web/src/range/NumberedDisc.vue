<script setup lang="ts">
// A disc that is only its numbers.
import type { RangeThrow } from '@/api/client'

type Numbered = Extract<RangeThrow['disc'], { kind: 'numbers' }>
const disc = defineModel<Numbered>({ required: true })

const NUMBERS = [
  { key: 'speed', min: 1, max: 15 },
  { key: 'glide', min: 0, max: 7 },
  { key: 'turn', min: -6, max: 2 },
  { key: 'fade', min: 0, max: 6 },
] as const

function set(key: (typeof NUMBERS)[number]['key'], value: number | undefined) {
  if (value !== undefined) disc.value = { ...disc.value, numbers: { ...disc.value.numbers, [key]: value } }
}
function setMass(value: number | undefined) {
  if (value !== undefined) disc.value = { ...disc.value, mass_g: value }
}
</script>

<template>
  <div class="numbers">
    <label v-for="n in NUMBERS" :key="n.key">
      <span>{{ n.key }}</span>
      <el-input-number
        :model-value="disc.numbers[n.key]"
        :min="n.min"
        :max="n.max"
        :step="0.5"
        :controls="false"
        :data-test="`range-${n.key}`"
        @update:model-value="set(n.key, $event)"
      />
    </label>
    <label>
      <span>grams</span>
      <el-input-number
        :model-value="disc.mass_g"
        :min="100"
        :max="220"
        :controls="false"
        @update:model-value="setMass"
      />
    </label>
  </div>
</template>

<style scoped>
.numbers {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 6px;
}
.el-input-number {
  width: 100%;
}
span {
  font-size: 13px;
  color: var(--ink-soft);
}
</style>
