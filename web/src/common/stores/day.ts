// Today's conditions, shared by every screen.
import { defineStore } from 'pinia'
import { computed, reactive } from 'vue'
import type { Conditions } from '@/api/client'

/** A day at home in calm air. */
export const USUAL: Conditions = {
  wind_m_s: 0,
  wind_from_deg: 0,
  gust_m_s: 0,
  power: 1,
  temperature_c: null,
  altitude_m: null,
  humidity: 0.5,
  wet: false,
}

export const useDay = defineStore('day', () => {
  const today = reactive<Conditions>({ ...USUAL })
  const conditions = computed<Conditions>(() => ({ ...today }))
  const usual = computed(() =>
    (Object.keys(USUAL) as (keyof Conditions)[]).every(
      (key) => today[key] === USUAL[key] || (key === 'wind_from_deg' && today.wind_m_s === 0),
    ),
  )

  function reset() {
    Object.assign(today, USUAL)
  }

  return { today, conditions, usual, reset }
})
