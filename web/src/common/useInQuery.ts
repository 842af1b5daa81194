// A choice that is part of the address, so that it can be shared and outlives a reload. The first of the values is the usual one
// and is left out.
import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { type LocationQuery, useRoute, useRouter } from 'vue-router'

/** An address on its way: what is said a moment later is said beside it. */
let coming: LocationQuery | null = null

function useQuery(name: string) {
  const route = useRoute()
  const router = useRouter()
  const said = computed(() => {
    const value = route.query[name]
    return typeof value === 'string' ? value : ''
  })
  function say(value: string) {
    const { [name]: _before, ...query } = coming ?? route.query
    coming = value === '' ? query : { ...query, [name]: value }
    return router.replace({ query: coming, hash: route.hash }).finally(() => (coming = null))
  }
  return { said, say }
}

export function useInQuery<T extends string>(name: string, values: readonly [T, ...T[]]) {
  const { said, say } = useQuery(name)
  return computed<T>({
    get: () => values.find((value) => value === said.value) ?? values[0],
    set: (value) => void say(value === values[0] ? '' : value),
  })
}

/** Browsers take only so many new addresses a second. */
const PAUSE_MS = 300

/** Free text, written down when the typing rests. */
export function useTextInQuery(name: string) {
  const { said, say } = useQuery(name)
  const text = ref(said.value)
  let written = said.value
  // What is typed while the address follows is newer than the address.
  watch(said, (value) => value !== written && (text.value = value))
  watchDebounced(
    text,
    (value) => {
      written = value
      if (value !== said.value) void say(value)
    },
    { debounce: PAUSE_MS },
  )
  return text
}
