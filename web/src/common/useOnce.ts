// Work that is done once at a time: a button pressed twice sends once.
import { ref } from 'vue'

export function useOnce(work: () => Promise<unknown>) {
  const busy = ref(false)
  async function run() {
    if (busy.value) return
    busy.value = true
    try {
      await work()
    } finally {
      busy.value = false
    }
  }
  return { busy, run }
}
