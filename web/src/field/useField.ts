// What is asked about the field: sessions, one of them with its throws, a disc over the season.
import { keepPreviousData, type QueryClient, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, type FieldThrow, type Style, take } from '@/api/client'
import { useBag } from '@/api/useData'
import { logOf, SESSIONS, withWaiting } from '@/field/log'
import { useLater, type Waiting } from '@/offline/later'

/** Sessions, with what waits on this device laid over them. */
export function useSessions() {
  const later = useLater()
  const query = useQuery({ queryKey: ['field'], queryFn: () => take(api.GET('/api/field/sessions')) })
  return { query, sessions: computed(() => withWaiting(query.data.value ?? [], later.all)) }
}

const session = (key: string) => ({
  queryKey: ['field', 'session', key],
  queryFn: () => take(api.GET('/api/field/sessions/{session}', { params: { path: { session: key } } })),
})

/** Asks for sessions that have just reached the program, so that they are shown on without a break. */
export async function askBegun(client: QueryClient, sent: readonly Waiting[]) {
  for (const { method, path, body } of sent)
    if (method === 'POST' && path === SESSIONS) await client.prefetchQuery(session(String(body.key)))
}

/** One session with its throws, those that wait among them. */
export function useLog(key: () => string | null) {
  const later = useLater()
  const asked = computed(key)
  const query = useQuery(
    computed(() => ({
      ...session(asked.value ?? ''),
      // One that has not reached the program yet is only on this device.
      enabled:
        asked.value !== null && !later.all.some((w) => w.path === SESSIONS && w.body.key === asked.value),
    })),
  )
  return {
    query,
    log: computed(() => (asked.value ? logOf(asked.value, query.data.value, later.all) : undefined)),
  }
}

/** What the trial of a session says by its throws, and which are left. */
export function useTrial(key: () => string, wanted: () => boolean) {
  const asked = computed(key)
  return useQuery({
    queryKey: ['field', 'trial', asked],
    queryFn: () =>
      take(api.GET('/api/field/sessions/{session}/trial', { params: { path: { session: asked.value } } })),
    enabled: wanted,
    placeholderData: keepPreviousData,
  })
}

/** What the throws of a session say of the releases behind them. */
export function useSessionReading(key: () => string, wanted: () => boolean) {
  const asked = computed(key)
  return useQuery({
    queryKey: ['field', 'reading', asked],
    queryFn: () =>
      take(api.GET('/api/field/sessions/{session}/reading', { params: { path: { session: asked.value } } })),
    enabled: wanted,
    placeholderData: keepPreviousData,
  })
}

/** What a throw, as it is being told, says of its release. */
export function useThrowReading(session: () => string, told: () => FieldThrow | undefined) {
  const asked = computed(session)
  const it = computed(told)
  return useQuery({
    queryKey: ['field', 'read', asked, it],
    queryFn: () => {
      const params = { path: { session: asked.value } }
      return take(api.POST('/api/field/sessions/{session}/read', { params, body: it.value! }))
    },
    enabled: () => it.value?.disc_id != null,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  })
}

/** Discs that were thrown, the most often thrown first. */
export function useThrownDiscs() {
  return useQuery({ queryKey: ['field', 'discs'], queryFn: () => take(api.GET('/api/field/discs')) })
}

/** What a disc really does, as its throws say. */
export function useFoundNumbers(id: () => number | null) {
  const asked = computed(id)
  return useQuery({
    queryKey: ['field', 'numbers', asked],
    queryFn: () =>
      take(api.GET('/api/field/discs/{id}/numbers', { params: { path: { id: asked.value ?? 0 } } })),
    enabled: () => asked.value !== null,
  })
}

/** What an arm really does in a style, and whether its chances are honest. */
export function useFoundArm(style: () => Style) {
  const asked = computed(style)
  return useQuery({
    queryKey: ['field', 'arm', asked],
    queryFn: () => take(api.GET('/api/field/arm/{style}', { params: { path: { style: asked.value } } })),
  })
}

/** What the errors of the release cost the bag over the season. */
export function usePractice() {
  const bag = useBag()
  const id = computed(() => bag.data.value?.id)
  return useQuery({
    queryKey: ['season', 'practice', id],
    queryFn: ({ signal }) =>
      take(api.GET('/api/bags/{id}/practice', { params: { path: { id: id.value ?? 0 } }, signal })),
    enabled: computed(() => id.value !== undefined),
    placeholderData: keepPreviousData,
  })
}

/** What the log says of practice in a style. */
export function usePractised(style: () => Style) {
  const asked = computed(style)
  return useQuery({
    queryKey: ['field', 'practice', asked],
    queryFn: () => take(api.GET('/api/field/practice/{style}', { params: { path: { style: asked.value } } })),
  })
}

/** How far a disc went, day by day. */
export function useDiscSeason(id: () => number | null) {
  const asked = computed(id)
  return useQuery({
    queryKey: ['field', 'disc', asked],
    queryFn: () => take(api.GET('/api/field/discs/{id}', { params: { path: { id: asked.value ?? 0 } } })),
    enabled: () => asked.value !== null,
  })
}
