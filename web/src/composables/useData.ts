// What the server knows, cached; and the few ways to change it.
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type MaybeRefOrGetter, type Ref, ref, toValue, watch } from 'vue'
import { api, type Conditions, type Disc, type DiscSpec, type Moves, take, type Units } from '@/api/client'
import { useNotice } from '@/stores/notice'

/** The bag that the screens work on. */
export const BAG_ID = 1

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

export function useBag() {
  return useQuery({
    queryKey: ['bag'],
    queryFn: () => take(api.GET('/api/bags/{id}', { params: { path: { id: BAG_ID } } })),
  })
}

export function useBoard(conditions: MaybeRefOrGetter<Conditions>) {
  return useQuery({
    queryKey: ['board', computed(() => toValue(conditions))],
    queryFn: ({ signal }) =>
      take(
        api.GET('/api/bags/{id}/board', {
          params: { path: { id: BAG_ID }, query: toValue(conditions) },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  })
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
  return useQuery({
    queryKey: ['analysis', conditions],
    queryFn: ({ signal }) =>
      take(
        api.GET('/api/bags/{id}/analysis', {
          params: { path: { id: BAG_ID }, query: conditions.value },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  })
}

export function useSheet(discId: Ref<number | null>, conditions: Ref<Conditions>) {
  return useQuery({
    queryKey: ['sheet', discId, conditions],
    queryFn: () =>
      take(
        api.GET('/api/discs/{id}/sheet', {
          params: { path: { id: discId.value ?? 0 }, query: conditions.value },
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
  const refresh = () => client.invalidateQueries()

  async function attempt(work: () => Promise<void>): Promise<boolean> {
    try {
      await work()
      return true
    } catch (error) {
      notice.failed(error)
      return false
    }
  }

  async function post(moves: Moves): Promise<Moves> {
    const path = { id: BAG_ID }
    const undo = await take(api.POST('/api/bags/{id}/moves', { params: { path }, body: moves }))
    await refresh()
    return undo
  }

  function move(label: string, moves: Moves) {
    return attempt(async () => {
      const undo = await post(moves)
      notice.done(label, async () => void (await post(undo)))
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

  return { attempt, refresh, move, carry, bench, put, remove }
}
