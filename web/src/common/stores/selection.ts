// The disc whose drawer is open. It is part of the address: it can be shared, a reload keeps it, Back closes it.
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

export const useSelection = defineStore('selection', () => {
  const route = useRoute()
  const router = useRouter()
  const inAddress = computed(() => {
    const id = Number(route.query.disc)
    return Number.isInteger(id) && id > 0 ? id : null
  })
  /** Whether the page without the drawer is the one before this in the browser's history. */
  let openedHere = false
  watch(inAddress, (id) => id === null && (openedHere = false))

  const discId = computed({
    get: () => inAddress.value,
    set: (id) => {
      const now = inAddress.value
      if (id === now) return
      const { disc: _closed, ...query } = route.query
      const to = { query: id === null ? query : { ...query, disc: id }, hash: route.hash }
      if (id === null && openedHere) router.back()
      else if (id !== null && now === null) {
        openedHere = true
        void router.push(to)
      } else void router.replace(to)
    },
  })
  return { discId }
})
