// Whether the program answers, and from when what is shown is if it does not.
import { defineStore } from 'pinia'
import { ref } from 'vue'

export const useReach = defineStore('reach', () => {
  const isOut = ref(false)
  /** When the oldest answer that is shown was given; null if none is an old one. */
  const keptAt = ref<Date | null>(null)

  /** An answer came. What is shown may be old all the same, until all is asked anew. */
  function answered() {
    if (keptAt.value === null) isOut.value = false
  }
  /** It is there again, and all is asked anew. */
  function back() {
    isOut.value = false
    keptAt.value = null
  }
  function failed() {
    isOut.value = true
  }
  function kept(at: string) {
    const date = new Date(at)
    isOut.value = true
    if (!Number.isNaN(date.getTime()) && (keptAt.value === null || date < keptAt.value)) keptAt.value = date
  }
  return { isOut, keptAt, answered, back, failed, kept }
})
