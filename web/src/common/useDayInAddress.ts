// Keeps today's conditions in the address of whichever screen is shown. The address is read once, when the program opens: Back
// leads to another screen, not to another wind.
import { watchDebounced } from '@vueuse/core'
import { type LocationQueryRaw, useRouter } from 'vue-router'
import { dayFromQuery, withDay } from '@/common/dayAddress'
import { useDay } from '@/common/stores/day'

/** A moving dial is not written down at every step. */
const PAUSE_MS = 300

export function useDayInAddress() {
  const router = useRouter()
  const day = useDay()
  const same = (a: object, b: object) =>
    JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort())

  function write() {
    const { query, hash } = router.currentRoute.value
    const next = withDay(query, day.today)
    if (!same(query, next)) void router.replace({ query: next as LocationQueryRaw, hash })
  }
  void router.isReady().then(() => {
    Object.assign(day.today, dayFromQuery(router.currentRoute.value.query))
    router.afterEach((_to, _from, failure) => {
      if (!failure) write()
    })
    watchDebounced(() => day.conditions, write, { debounce: PAUSE_MS })
  })
}
