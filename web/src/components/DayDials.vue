<script setup lang="ts">
import { computed } from 'vue'
import { useUnits } from '@/composables/useData'
import { shown, percent } from '@/logic/units'
import { useDay } from '@/stores/day'

const day = useDay()
const units = useUnits()

const wind = (speed: number, ahead: string, behind: string) =>
  speed === 0
    ? 'calm'
    : `${shown(units.value, 'speed', Math.abs(speed), units.value === 'metric' ? 1 : 0)} ${speed < 0 ? behind : ahead}`
const along = computed(() => wind(day.along_m_s, 'tailwind', 'headwind'))
const cross = computed(() => wind(day.left_m_s, 'toward the left', 'toward the right'))
// A slider runs left to right; wind toward the left is positive in the model.
const crossDial = computed({
  get: () => -day.left_m_s,
  set: (x: number) => (day.left_m_s = x === 0 ? 0 : -x),
})
</script>

<template>
  <section class="dials" aria-label="Today">
    <label class="dial">
      <span
        >Head or tail wind <b>{{ along }}</b></span
      >
      <input
        v-model.number="day.along_m_s"
        type="range"
        min="-12"
        max="12"
        step="0.5"
        data-test="dial-along"
      />
      <span class="ends"><i>head</i><i>tail</i></span>
    </label>
    <label class="dial">
      <span
        >Cross wind <b>{{ cross }}</b></span
      >
      <input v-model.number="crossDial" type="range" min="-12" max="12" step="0.5" data-test="dial-cross" />
      <span class="ends"><i>to the left</i><i>to the right</i></span>
    </label>
    <label class="dial">
      <span
        >Arm today <b>{{ percent(day.power) }}</b></span
      >
      <input v-model.number="day.power" type="range" min="0.6" max="1.1" step="0.01" data-test="dial-power" />
      <span class="ends"><i>60 %</i><i>110 %</i></span>
    </label>
    <el-button :disabled="day.usual" @click="day.reset()">Calm, usual arm</el-button>
  </section>
</template>

<style scoped>
.dials {
  display: grid;
  grid-template-columns: repeat(3, 1fr) auto;
  gap: 6px 24px;
  align-items: center;
  padding: 8px 14px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
.dial {
  display: block;
}
.dial > span:first-child {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
input[type='range'] {
  width: 100%;
  height: 26px;
  margin: 0;
  accent-color: var(--accent);
}
.ends {
  display: flex;
  justify-content: space-between;
  font-size: 12px;
  color: var(--ink-soft);
  line-height: 1;
}
i {
  font-style: normal;
}
@media (max-width: 760px) {
  .dials {
    grid-template-columns: 1fr;
  }
}
</style>
