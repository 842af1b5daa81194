<script setup lang="ts">
// One tap takes what an instrument says; how old that is and how good its lines are is shown beside it.
import { computed } from 'vue'
import type { LevelShot, HandWind } from '@/api/client'
import { useInstruments, useUnits } from '@/api/useData'
import { figure, shown } from '@/common/units'

const props = defineProps<{
  of: 'rangefinder' | 'wind_meter'
  /** Whether only the direction is taken. */
  aim?: boolean
}>()
const emit = defineEmits<{ shot: [shot: LevelShot]; wind: [wind: HandWind] }>()
const units = useUnits()
const instruments = useInstruments()
const heard = computed(() => instruments.data.value?.[props.of])
const NAMES = { rangefinder: 'rangefinder', wind_meter: 'wind meter' }
/** A reading older than this is of something else, s: what was ranged, or a gust that is over. */
const OLD_S = { rangefinder: 60, wind_meter: 20 }
const isOld = computed(() => (heard.value?.age_s ?? Infinity) > OLD_S[props.of])
const words = computed(() => {
  const reading = heard.value?.reading
  if (!reading) return ''
  if ('level_m' in reading) {
    if (props.aim) return `${figure(reading.bearing_deg)}° as the aim`
    const level = shown(units.value, 'distance', reading.level_m, 1)
    return `${level}, ${figure(reading.bearing_deg)}°, ${figure(reading.slope_deg, 1)}° up`
  }
  const speed = (m_s: number) => shown(units.value, 'speed', m_s, 1)
  return `${speed(reading.at_10_m_m_s)} from ${figure(reading.from_deg)}° (${speed(reading.wind_m_s)} in the hand)`
})
const state = computed(() => {
  const now = heard.value
  if (!now) return ''
  const age = now.age_s == null ? '' : now.age_s < 3 ? 'now' : `${figure(now.age_s)} s ago`
  return [age, now.words === 'good' ? '' : now.words].filter(Boolean).join('; ')
})
function take() {
  const reading = heard.value?.reading
  if (!reading) return
  if ('level_m' in reading) emit('shot', reading)
  else emit('wind', reading)
}
</script>

<template>
  <span v-if="heard" class="reading" :data-test="`hear-${of}`">
    <button type="button" :disabled="!heard.reading || isOld" :data-test="`take-${of}`" @click="take">
      {{ words ? `Take ${words}` : `Take the ${NAMES[of]}’s reading` }}
    </button>
    <small>{{ NAMES[of] }}: {{ state }}</small>
  </span>
</template>

<style scoped>
.reading {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
button {
  min-height: 48px;
  padding: 0 12px;
  background: var(--panel);
  border: 2px solid var(--ink);
  border-radius: 3px;
  color: var(--ink);
  font: inherit;
  font-variant-numeric: tabular-nums;
  cursor: pointer;
}
button:disabled {
  border-color: var(--rule);
  color: var(--ink-soft);
  cursor: default;
}
small {
  font-size: 13.5px;
  color: var(--ink-soft);
}
</style>
