// Today's conditions, shared by every screen.
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Conditions } from '@/api/client'

export const useDay = defineStore('day', () => {
  const along_m_s = ref(0)
  const left_m_s = ref(0)
  const power = ref(1)
  const conditions = computed<Conditions>(() => ({
    along_m_s: along_m_s.value,
    left_m_s: left_m_s.value,
    power: power.value,
  }))
  const usual = computed(() => along_m_s.value === 0 && left_m_s.value === 0 && power.value === 1)

  function reset() {
    along_m_s.value = 0
    left_m_s.value = 0
    power.value = 1
  }

  return { along_m_s, left_m_s, power, conditions, usual, reset }
})
