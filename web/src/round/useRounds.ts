import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { useLater } from '@/offline/later'
import { overlaid } from '@/round/played'

/** Rounds that were played, with what waits on this device laid over them. */
export function useRounds() {
  const later = useLater()
  const query = useQuery({ queryKey: ['rounds'], queryFn: () => take(api.GET('/api/rounds')) })
  const rounds = computed(() => overlaid(query.data.value?.rounds ?? [], later.all))
  return { query, rounds, courses: computed(() => query.data.value?.courses ?? []) }
}
