// What stands on the range: up to six throws, kept from visit to visit in this browser.
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Ground, RangeThrow, Setting } from '@/api/client'
import { MOST_THROWS } from '@/range/range'

const KEPT = 'zinc-kite-range'
export type CloudsShown = 'chosen' | 'all' | 'none'

interface Kept {
  throws: RangeThrow[]
  chosen: number
  ground: Ground
  clouds: CloudsShown
  together: boolean
}

function kept(): Kept | null {
  try {
    const found = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as Kept | null
    return found && Array.isArray(found.throws) ? found : null
  } catch {
    // Written by something else, or cut off: the range starts afresh.
    return null
  }
}

export const useRange = defineStore('range', () => {
  const before = kept()
  const throws = ref<RangeThrow[]>(before?.throws ?? [])
  const chosen = ref(before?.chosen ?? 0)
  const ground = ref<Ground>(before?.ground ?? 'turf')
  const clouds = ref<CloudsShown>(before?.clouds ?? 'chosen')
  /** Whether dials move all throws. */
  const together = ref(before?.together ?? false)
  const current = computed(() => throws.value[chosen.value])
  const full = computed(() => throws.value.length >= MOST_THROWS)

  watch(
    [throws, chosen, ground, clouds, together],
    () => {
      const state: Kept = {
        throws: throws.value,
        chosen: chosen.value,
        ground: ground.value,
        clouds: clouds.value,
        together: together.value,
      }
      localStorage.setItem(KEPT, JSON.stringify(state))
    },
    { deep: true },
  )

  function replace(next: RangeThrow[], choose = 0) {
    throws.value = next.slice(0, MOST_THROWS)
    chosen.value = Math.max(0, Math.min(choose, throws.value.length - 1))
  }
  function add(one: RangeThrow) {
    if (full.value) return
    throws.value.push(one)
    chosen.value = throws.value.length - 1
  }
  function remove(k: number) {
    throws.value.splice(k, 1)
    chosen.value = Math.max(0, Math.min(chosen.value, throws.value.length - 1))
  }
  function choose(k: number) {
    if (k >= 0 && k < throws.value.length) chosen.value = k
  }
  /** Another disc for the chosen throw. */
  function give(disc: RangeThrow['disc']) {
    if (current.value) Object.assign(current.value, { disc, name: '' })
  }
  /** Turns dials of the chosen throw, or of all that are thrown in its style. */
  function set(part: Partial<Setting>) {
    const style = current.value?.setting.style
    throws.value.forEach((t, k) => {
      if (k === chosen.value || (together.value && t.setting.style === style)) {
        // A dial turned: it is no longer the throw that was copied.
        t.name = ''
        Object.assign(t.setting, part)
      }
    })
  }

  return { throws, chosen, ground, clouds, together, current, full, replace, add, remove, choose, give, set }
})
