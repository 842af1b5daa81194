// What is open over or beside a screen is part of its address: it can be shared, a reload keeps it, Back closes it.
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** The value of `name` in the address; null if nothing of that name is open. */
export function useOpenThing(name: string) {
  const route = useRoute()
  const router = useRouter()
  const inAddress = computed(() => {
    const value = route.query[name]
    return typeof value === 'string' && value !== '' ? value : null
  })
  /** Whether the page without it is the one before this in the browser's history. */
  let openedHere = false
  watch(inAddress, (value) => value === null && (openedHere = false))

  return computed<string | null>({
    get: () => inAddress.value,
    set: (value) => {
      const now = inAddress.value
      if (value === now) return
      const { [name]: _closed, ...query } = route.query
      const to = { query: value === null ? query : { ...query, [name]: value }, hash: route.hash }
      if (value === null && openedHere) router.back()
      else if (value !== null && now === null) {
        openedHere = true
        void router.push(to)
      } else void router.replace(to)
    },
  })
}

/** The same for something that is open or not. */
export function useOpenFlag(name: string) {
  const thing = useOpenThing(name)
  return computed({ get: () => thing.value !== null, set: (on) => (thing.value = on ? '1' : null) })
}
