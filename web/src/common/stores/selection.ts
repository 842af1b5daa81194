// The disc whose drawer is open.
import { defineStore } from 'pinia'
import { ref } from 'vue'

export const useSelection = defineStore('selection', () => {
  const discId = ref<number | null>(null)
  return { discId }
})
