// What the server knows, cached; and the few ways to change it.
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type MaybeRefOrGetter, type Ref, ref, toValue, watch } from 'vue'
import {
  api,
  asQuery,
  type Conditions,
  type Disc,
  type DiscSpec,
  type Moves,
  take,
  type Units,
} from '@/api/client'
import { useBagChoice } from '@/common/stores/bag'
import { useNotice } from '@/common/stores/notice'

export function usePlayer() {
  return useQuery({ queryKey: ['player'], queryFn: () => take(api.GET('/api/player')) })
}

export function useUnits() {
  const player = usePlayer()
  return computed<Units>(() => player.data.value?.units ?? 'metric')
}

export function useDiscs() {
  return useQuery({ queryKey: ['discs'], queryFn: () => take(api.GET('/api/discs')) })
}

export function usePlastics() {
  return useQuery({
    queryKey: ['plastics'],
    queryFn: () => take(api.GET('/api/plastics')),
    staleTime: Infinity,
  })
}

export function useBags() {
  return useQuery({ queryKey: ['bags'], queryFn: () => take(api.GET('/api/bags')) })
}

/** The bag that the screens work on: the one chosen, else the first. */
export function useBag() {
  const bags = useBags()
  const choice = useBagChoice()
  const data = computed(() => bags.data.value?.find((b) => b.id === choice.bagId) ?? bags.data.value?.[0])
  return { data, error: bags.error }
}

/** An answer about the current bag under some conditions; the last one stays while the next is on its way. */
function useAboutBag<T>(
  name: string,
  conditions: MaybeRefOrGetter<Conditions>,
  ask: (id: number, query: Conditions, signal: AbortSignal) => Promise<T>,
  wanted: () => boolean = () => true,
) {
  const bag = useBag()
  const id = computed(() => bag.data.value?.id)
  return useQuery({
    queryKey: [name, id, computed(() => toValue(conditions))],
    queryFn: ({ signal }) => ask(id.value ?? 0, toValue(conditions), signal),
    enabled: computed(() => id.value !== undefined && wanted()),
    placeholderData: keepPreviousData,
  })
}

export function useBoard(conditions: MaybeRefOrGetter<Conditions>) {
  return useAboutBag('board', conditions, (id, query, signal) =>
    take(api.GET('/api/bags/{id}/board', { params: { path: { id }, query: asQuery(query) }, signal })),
  )
}

const SETTLED_MS = 180

/** A value that follows another once it has stopped moving. */
export function useSettled<T>(source: () => T): Ref<T> {
  const settled = ref(source()) as Ref<T>
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(source, (value) => {
    clearTimeout(timer)
    timer = setTimeout(() => (settled.value = value), SETTLED_MS)
  })
  return settled
}

export function useAnalysis(conditions: Ref<Conditions>) {
  return useAboutBag('analysis', conditions, (id, query, signal) =>
    take(api.GET('/api/bags/{id}/analysis', { params: { path: { id }, query: asQuery(query) }, signal })),
  )
}

/** Every carried disc on every line, worked out in full: only for who looks at the whole table. */
export function useTable(conditions: Ref<Conditions>, wanted: () => boolean) {
  return useAboutBag(
    'table',
    conditions,
    (id, query, signal) =>
      take(api.GET('/api/bags/{id}/table', { params: { path: { id }, query: asQuery(query) }, signal })),
    wanted,
  )
}

/** The judgement for the season; it does not depend on the dials. It takes longer than today's, which goes first. */
export function useSeason(wanted: () => boolean) {
  const bag = useBag()
  const id = computed(() => bag.data.value?.id)
  return useQuery({
    queryKey: ['season', id],
    queryFn: ({ signal }) =>
      take(api.GET('/api/bags/{id}/season', { params: { path: { id: id.value ?? 0 } }, signal })),
    enabled: computed(() => id.value !== undefined && wanted()),
    placeholderData: keepPreviousData,
  })
}

const PROGRESS_MS = 250

/** How far the season's judgement has come, in words, for as long as one is under way. */
export function useSeasonProgress(busy: () => boolean) {
  const query = useQuery({
    queryKey: ['season progress'],
    queryFn: () => take(api.GET('/api/season/progress')),
    enabled: computed(busy),
    refetchInterval: PROGRESS_MS,
    gcTime: 0,
  })
  return computed(() => {
    const { done = 0, of = 0 } = query.data.value ?? {}
    return of > 0 && done < of
      ? `Judging the season: ${Math.round((100 * done) / of)} %`
      : 'Judging the season…'
  })
}

export function useSheet(discId: Ref<number | null>, conditions: Ref<Conditions>) {
  return useQuery({
    queryKey: ['sheet', discId, conditions],
    queryFn: () =>
      take(
        api.GET('/api/discs/{id}/sheet', {
          params: { path: { id: discId.value ?? 0 }, query: asQuery(conditions.value) },
        }),
      ),
    enabled: computed(() => discId.value !== null),
    placeholderData: keepPreviousData,
  })
}

/** Everything that changes the bag or the shelf, with its undo. */
export function useActions() {
  const client = useQueryClient()
  const notice = useNotice()
  const bag = useBag()
  /** Asks everything anew; nothing waits for the judgements, which take a while and say so where they are shown. */
  const refresh = () => {
    const slow = (key: readonly unknown[]) => ['season', 'analysis', 'table'].includes(String(key[0]))
    void client.invalidateQueries({ predicate: (query) => slow(query.queryKey) })
    return client.invalidateQueries({ predicate: (query) => !slow(query.queryKey) })
  }

  async function attempt(work: () => Promise<void>): Promise<boolean> {
    try {
      await work()
      return true
    } catch (error) {
      notice.failed(error)
      return false
    }
  }

  async function post(id: number, moves: Moves): Promise<Moves> {
    const undo = await take(api.POST('/api/bags/{id}/moves', { params: { path: { id } }, body: moves }))
    await refresh()
    return undo
  }

  function move(label: string, moves: Moves) {
    const id = bag.data.value?.id
    if (id === undefined) return Promise.resolve(false)
    return attempt(async () => {
      const undo = await post(id, moves)
      notice.done(label, async () => void (await post(id, undo)))
    })
  }

  const carry = (disc: { id: number; name: string }, spare = false) =>
    move(spare ? `${disc.name} is carried as a spare` : `${disc.name} is carried`, {
      carry: [{ disc_id: disc.id, spare }],
      bench: [],
    })
  const bench = (disc: { id: number; name: string }) =>
    move(`${disc.name} is benched`, { carry: [], bench: [disc.id] })

  function put(disc: Disc, label: string, spec: DiscSpec) {
    const { id, ...before } = disc
    const send = async (body: DiscSpec) => {
      await take(api.PUT('/api/discs/{id}', { params: { path: { id } }, body }))
      await refresh()
    }
    return attempt(async () => {
      await send(spec)
      notice.done(label, () => send(before))
    })
  }

  function remove(disc: { id: number; name: string }) {
    const params = { params: { path: { id: disc.id } } }
    return attempt(async () => {
      await take(api.DELETE('/api/discs/{id}', params))
      await refresh()
      notice.done(`${disc.name} is deleted`, async () => {
        await take(api.POST('/api/discs/{id}/restore', params))
        await refresh()
      })
    })
  }

  async function discard(id: number) {
    await take(api.DELETE('/api/discs/{id}', { params: { path: { id } } }))
  }

  return { attempt, refresh, move, carry, bench, put, remove, discard }
}
