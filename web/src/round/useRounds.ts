// What is asked about a course: its card, what to take to it, and the rounds that were played.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, type Course, take, type Wishes } from '@/api/client'
import { useAboutBag } from '@/api/useData'
import { useLater } from '@/offline/later'
import { overlaid } from '@/round/played'

/** Rounds that were played, with what waits on this device laid over them. */
export function useRounds() {
  const later = useLater()
  const query = useQuery({ queryKey: ['rounds'], queryFn: () => take(api.GET('/api/rounds')) })
  const rounds = computed(() => overlaid(query.data.value?.rounds ?? [], later.all))
  return { query, rounds, courses: computed(() => query.data.value?.courses ?? []) }
}

/** A course as the card depends on it: ticks of its pack list aside. */
const played = (course: Course | undefined) => ({
  id: course?.id ?? 0,
  on: JSON.stringify([course?.holes, course?.altitude_m, { ...course?.day, packed: [] }]),
})

/** What to throw hole by hole from the current bag, on the day told of a course. */
export function useRoundCard(course: () => Course | undefined, wanted: () => boolean) {
  return useAboutBag(
    'card',
    () => played(course()),
    (id, asked: ReturnType<typeof played>, signal) =>
      take(api.GET('/api/bags/{id}/card/{course}', { params: { path: { id, course: asked.id } }, signal })),
    () => wanted() && (course()?.holes.length ?? 0) > 0,
  )
}

/** What to take to a course on its day under some wishes. */
export function usePacking(
  course: () => Course | undefined,
  wishes: () => Wishes | undefined,
  wanted: () => boolean,
) {
  return useAboutBag(
    'build pack',
    () => ({ ...played(course()), wishes: wishes() }),
    (id, asked: ReturnType<typeof played> & { wishes: Wishes | undefined }, signal) =>
      take(
        api.POST('/api/bags/{id}/pack/{course}', {
          params: { path: { id, course: asked.id } },
          body: asked.wishes!,
          signal,
        }),
      ),
    () => wanted() && wishes() !== undefined && (course()?.holes.length ?? 0) > 0,
  )
}
