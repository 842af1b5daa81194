<script setup lang="ts">
import { computed, ref } from 'vue'
import WeatherButton from '@/common/WeatherButton.vue'
import WindDial from '@/common/WindDial.vue'
import { useUnits } from '@/api/useData'
import { percent, shown } from '@/common/units'
import { windFrom } from '@/common/wind'
import { useDay } from '@/common/stores/day'

const day = useDay()
const units = useUnits()

const speed = (x: number) => shown(units.value, 'speed', x, units.value === 'metric' ? 1 : 0)
const wind = computed(() =>
  day.today.wind_m_s === 0 ? 'calm' : `${speed(day.today.wind_m_s)} ${windFrom(day.today.wind_from_deg)}`,
)
/** On a phone the dials are one row until somebody wants to turn them. */
const folded = ref(true)
const gusts = computed(() => (day.today.gust_m_s === 0 ? 'steady' : `± ${speed(day.today.gust_m_s)}`))
</script>

<template>
  <section class="dials" :class="{ folded }" aria-label="Today">
    <button type="button" class="fold" :aria-expanded="!folded" data-test="dials" @click="folded = !folded">
      <span
        >Wind <b>{{ wind }}</b></span
      >
      <span v-if="day.today.gust_m_s"
        >gusts <b>{{ gusts }}</b></span
      >
      <span
        >arm <b>{{ percent(day.today.power) }}</b></span
      >
      <span class="sign" aria-hidden="true">{{ folded ? '▾' : '▴' }}</span>
    </button>
    <WindDial v-model="day.today.wind_from_deg" :strength="day.today.wind_m_s" />
    <label class="dial">
      <span
        >Wind <b>{{ wind }}</b></span
      >
      <input
        v-model.number="day.today.wind_m_s"
        type="range"
        min="0"
        max="15"
        step="0.5"
        :aria-valuetext="wind"
        data-test="dial-wind"
      />
    </label>
    <label class="dial">
      <span
        >Gusts <b>{{ gusts }}</b></span
      >
      <input
        v-model.number="day.today.gust_m_s"
        type="range"
        min="0"
        max="6"
        step="0.5"
        :aria-valuetext="gusts"
        data-test="dial-gust"
      />
    </label>
    <label class="dial">
      <span
        >Arm today <b>{{ percent(day.today.power) }}</b></span
      >
      <input
        v-model.number="day.today.power"
        type="range"
        min="0.6"
        max="1.1"
        step="0.01"
        :aria-valuetext="percent(day.today.power)"
        data-test="dial-power"
      />
    </label>
    <WeatherButton />
    <el-button :disabled="day.usual" @click="day.reset()">Usual day</el-button>
  </section>
</template>

<style scoped>
.dials {
  display: grid;
  grid-template-columns: auto 1.4fr 1fr 1fr auto auto;
  gap: 6px 20px;
  align-items: center;
  padding: 4px 14px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
.dials > .el-button {
  margin: 0;
}
.dial {
  display: block;
}
.dial > span:first-child {
  margin-bottom: -6px;
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
input[type='range'] {
  width: 100%;
}
.fold {
  display: none;
}
@media (max-width: 760px) {
  .dials {
    grid-template-columns: auto 1fr 1fr;
  }
  .fold {
    grid-column: 1 / -1;
    display: flex;
    gap: 12px;
    min-height: 40px;
    align-items: center;
    padding: 0;
    color: var(--ink);
    background: none;
    border: 0;
    font: inherit;
    cursor: pointer;
  }
  .fold .sign {
    margin-left: auto;
  }
  .folded > :not(.fold) {
    display: none;
  }
  .dial {
    grid-column: 1 / -1;
  }
  .dial:nth-child(2) {
    grid-column: 2 / -1;
  }
  .dials > .el-button:last-child {
    grid-column: span 2;
    justify-self: start;
  }
}
</style>
