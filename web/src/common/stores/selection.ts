// The disc that is open beside the page.
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useOpenThing } from '@/common/useOpenThing'

export const useSelection = defineStore('selection', () => {
  const thing = useOpenThing('disc')
  const discId = computed({
    get: () => {
      const id = Number(thing.value)
      return Number.isInteger(id) && id > 0 ? id : null
    },
    set: (id) => (thing.value = id === null ? null : String(id)),
  })
  return { discId }
})
