// Which bag the screens work on; remembered by the browser.
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'

const KEY = 'zinc-kite-bag'

export const useBagChoice = defineStore('bag', () => {
  const kept = Number(localStorage.getItem(KEY))
  const bagId = ref<number | null>(kept > 0 ? kept : null)
  watch(bagId, (id) => (id === null ? localStorage.removeItem(KEY) : localStorage.setItem(KEY, String(id))))
  return { bagId }
})
