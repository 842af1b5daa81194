// A choice that is part of the address, so that it can be shared and outlives a reload. The first of the values is the usual one
// and is left out.
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

export function useInQuery<T extends string>(name: string, values: readonly [T, ...T[]]) {
  const route = useRoute()
  const router = useRouter()
  return computed<T>({
    get: () => values.find((value) => value === route.query[name]) ?? values[0],
    set: (value) => {
      const { [name]: _before, ...query } = route.query
      void router.replace({
        query: value === values[0] ? query : { ...query, [name]: value },
        hash: route.hash,
      })
    },
  })
}
