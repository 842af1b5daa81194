<script setup lang="ts">
// Temperature, altitude, humidity and wet: set once a day, so behind a button that tells them.
import { computed, ref } from 'vue'
import { usePlayer, useUnits } from '@/api/useData'
import { percent, type Quantity, shown, unit } from '@/common/units'
import { useDay } from '@/common/stores/day'

const day = useDay()
const units = useUnits()
const player = usePlayer()

/** What opens has the focus, and what closes gives it back. */
const form = ref<HTMLElement | null>(null)
const button = ref<{ $el: HTMLElement } | null>(null)
const open = ref(false)
function close() {
  open.value = false
  button.value?.$el.focus()
}

const temperature = computed(() => day.today.temperature_c ?? player.data.value?.temperature_c ?? 15)
const altitude = computed(() => day.today.altitude_m ?? player.data.value?.altitude_m ?? 0)
const get = (si: number, quantity: Quantity) => Math.round(unit(units.value, quantity).toShown(si))
const set = (value: number | undefined, quantity: Quantity) =>
  value === undefined ? null : unit(units.value, quantity).toSi(value)
</script>

<template>
  <el-popover
    v-model:visible="open"
    trigger="click"
    placement="bottom"
    :width="260"
    @after-enter="form?.querySelector('input')?.focus()"
  >
    <template #reference>
      <el-button ref="button" :aria-expanded="open" data-test="weather">
        {{ shown(units, 'temperature', temperature) }}, {{ day.today.wet ? 'wet' : 'dry' }}
      </el-button>
    </template>
    <div ref="form" class="form" @keydown.esc.stop="close">
      <label>
        <span>Temperature, {{ unit(units, 'temperature').symbol }}</span>
        <el-input-number
          :model-value="get(temperature, 'temperature')"
          controls-position="right"
          :min="get(-30, 'temperature')"
          :max="get(45, 'temperature')"
          data-test="weather-temperature"
          @update:model-value="day.today.temperature_c = set($event, 'temperature')"
        />
      </label>
      <label>
        <span>Altitude, {{ unit(units, 'distance').symbol }}</span>
        <el-input-number
          :model-value="get(altitude, 'distance')"
          controls-position="right"
          :min="get(-400, 'distance')"
          :max="get(5000, 'distance')"
          :step="50"
          data-test="weather-altitude"
          @update:model-value="day.today.altitude_m = set($event, 'distance')"
        />
      </label>
      <label>
        <span
          >Humidity <b>{{ percent(day.today.humidity) }}</b></span
        >
        <input v-model.number="day.today.humidity" type="range" min="0" max="1" step="0.05" />
      </label>
      <el-checkbox v-model="day.today.wet" label="Wet hands, discs and tees" data-test="weather-wet" />
      <p class="soft">
        Cold air is denser; base plastic can crack in the cold, premium slips in the wet. Mind your footing on
        a wet tee.
      </p>
    </div>
  </el-popover>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}
label > span {
  display: flex;
  justify-content: space-between;
}
.el-input-number,
input {
  width: 100%;
}
input {
  accent-color: var(--accent);
}
p {
  font-size: 14px;
}
</style>
