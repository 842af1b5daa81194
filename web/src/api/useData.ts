// What the server knows, cached; and the few ways to change it.
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type MaybeRefOrGetter, type Ref, ref, toValue, watch } from 'vue'
import {
  api,
  asQuery,
  type Cover,
  type Conditions,
  type DiscSpec,
  type Moves,
  type Player,
  type PlayerSheet,
  ProblemError,
  type Progress,
  type ShelfDisc,
  type Suppose,
  take,
  type Units,
  type Wishes,
} from '@/api/client'
import { useSaving } from '@/api/saving'
import { useBagChoice } from '@/common/stores/bag'
import { useNotice } from '@/common/stores/notice'
import { newId, useLater } from '@/offline/later'

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

/** The record of changes, of all there is or of one disc. */
export function useChanges(discId: () => number | undefined = () => undefined) {
  const disc_id = computed(discId)
  return useQuery({
    queryKey: ['changes', disc_id],
    queryFn: () => take(api.GET('/api/changes', { params: { query: { disc_id: disc_id.value } } })),
  })
}

export function useRecords() {
  return useQuery({ queryKey: ['records'], queryFn: () => take(api.GET('/api/data')) })
}

/** Whether the server asks this browser for its password. */
export function useSession() {
  return useQuery({ queryKey: ['session'], queryFn: () => take(api.GET('/api/session')) })
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

export type BuilderPart = 'proposal' | 'sizes' | 'prices' | 'near' | 'schools' | 'shopping'

/** An answer about the current bag under some conditions; the last one stays while the next is on its way. */
export function useAboutBag<T, C = Conditions>(
  name: string,
  conditions: MaybeRefOrGetter<C>,
  ask: (id: number, query: C, signal: AbortSignal) => Promise<T>,
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

/** The style a board is set in; without one the player's strong style. */
type Throws = MaybeRefOrGetter<'backhand' | 'forehand' | undefined>
interface Setting {
  conditions: Conditions
  style: 'backhand' | 'forehand' | undefined
}
const asSetting = ({ conditions, style }: Setting) => ({ ...asQuery(conditions), style })

export function useBoard(conditions: MaybeRefOrGetter<Conditions>, style?: Throws) {
  const setting = () => ({ conditions: toValue(conditions), style: toValue(style) })
  return useAboutBag('board', setting, (id, query: Setting, signal) =>
    take(api.GET('/api/bags/{id}/board', { params: { path: { id }, query: asSetting(query) }, signal })),
  )
}

/** Where carried discs would sit in the season's winds and one grade of wear on. */
export function useGhosts(conditions: MaybeRefOrGetter<Conditions>, style: Throws, wanted: () => boolean) {
  const setting = () => ({ conditions: toValue(conditions), style: toValue(style) })
  return useAboutBag(
    'ghosts',
    setting,
    (id, query: Setting, signal) =>
      take(api.GET('/api/bags/{id}/ghosts', { params: { path: { id }, query: asSetting(query) }, signal })),
    wanted,
  )
}

/** A disc of the shelf as it would lie among the carried ones. */
export function usePreview(
  disc: Ref<number | null>,
  conditions: MaybeRefOrGetter<Conditions>,
  style: Throws,
) {
  const setting = () => ({ conditions: toValue(conditions), style: toValue(style), disc: disc.value ?? 0 })
  return useAboutBag(
    'preview',
    setting,
    (id, { disc, ...query }: Setting & { disc: number }, signal) =>
      take(
        api.GET('/api/bags/{id}/preview/{disc}', {
          params: { path: { id, disc }, query: asSetting(query) },
          signal,
        }),
      ),
    () => disc.value !== null,
  )
}

/** The bag laid out lane by lane. */
export function useWalk() {
  const bag = useBag()
  const id = computed(() => bag.data.value?.id)
  return useQuery({
    queryKey: ['walk', id],
    queryFn: ({ signal }) =>
      take(api.GET('/api/bags/{id}/walk', { params: { path: { id: id.value ?? 0 } }, signal })),
    enabled: computed(() => id.value !== undefined),
    placeholderData: keepPreviousData,
  })
}

/** What the builder answers to some wishes; each is asked for only while it is `wanted`. */
export function useBuilder(wishes: () => Wishes | undefined, wanted: (what: BuilderPart) => boolean) {
  const ask = <T>(
    part: BuilderPart,
    send: (request: { params: { path: { id: number } }; body: Wishes; signal: AbortSignal }) => Promise<T>,
  ) =>
    useAboutBag(
      `build ${part}`,
      wishes,
      (id, body, signal) => send({ params: { path: { id } }, body: body!, signal }),
      () => wishes() !== undefined && wanted(part),
    )
  const client = useQueryClient()
  /** Hangs up: the server stops searching. */
  const stop = () =>
    client.cancelQueries({ predicate: ({ queryKey: [name] }) => String(name).startsWith('build ') })
  return {
    stop,
    proposal: ask('proposal', (r) => take(api.POST('/api/bags/{id}/build', r))),
    sizes: ask('sizes', (r) => take(api.POST('/api/bags/{id}/build/curve', r))),
    prices: ask('prices', (r) => take(api.POST('/api/bags/{id}/build/prices', r))),
    near: ask('near', (r) => take(api.POST('/api/bags/{id}/build/ties', r))),
    schools: ask('schools', (r) => take(api.POST('/api/bags/{id}/build/schools', r))),
    shopping: ask('shopping', (r) => take(api.POST('/api/bags/{id}/build/shopping', r))),
  }
}

/** The year ahead of the bag, under what is supposed. */
export function useYear(suppose: MaybeRefOrGetter<Suppose>) {
  const client = useQueryClient()
  const query = useAboutBag('year', suppose, (id, body: Suppose, signal) =>
    take(api.POST('/api/bags/{id}/year', { params: { path: { id } }, body, signal })),
  )
  /** Hangs up: the server stops looking. */
  const stop = () => client.cancelQueries({ queryKey: ['year'] })
  return { ...query, stop }
}

/** Wishes for a lean bag on some ground. */
export function useLean(on: MaybeRefOrGetter<{ cover: Cover; frost: boolean }>) {
  return useAboutBag('lean', on, (id, query: { cover: Cover; frost: boolean }, signal) =>
    take(api.GET('/api/bags/{id}/lean', { params: { path: { id }, query }, signal })),
  )
}

/** Two bags side by side over the season. */
export function useComparison(first: () => number | undefined, second: () => number | undefined) {
  const ids = computed(() => [first(), second()] as const)
  return useQuery({
    queryKey: ['season comparison', ids],
    queryFn: ({ signal }) => {
      const [id = 0, other = 0] = ids.value
      return take(api.GET('/api/bags/{id}/compare/{other}', { params: { path: { id, other } }, signal }))
    },
    enabled: computed(() => ids.value.every((id) => id !== undefined) && ids.value[0] !== ids.value[1]),
  })
}

/** What could take the place of each carried disc. */
export function useBackups(bag: () => number | undefined) {
  const id = computed(bag)
  return useQuery({
    queryKey: ['backups', id],
    queryFn: () => take(api.GET('/api/bags/{id}/backups', { params: { path: { id: id.value ?? 0 } } })),
    enabled: computed(() => id.value !== undefined),
  })
}

export function useLadder(conditions: MaybeRefOrGetter<Conditions>) {
  return useAboutBag('ladder', conditions, (id, query, signal) =>
    take(api.GET('/api/bags/{id}/ladder', { params: { path: { id }, query: asQuery(query) }, signal })),
  )
}

export function useLines() {
  return useQuery({ queryKey: ['lines'], queryFn: () => take(api.GET('/api/lines')) })
}

export function useMoulds() {
  return useQuery({ queryKey: ['moulds'], queryFn: () => take(api.GET('/api/moulds')) })
}

export function useCourses() {
  return useQuery({ queryKey: ['courses'], queryFn: () => take(api.GET('/api/courses')) })
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
  const client = useQueryClient()
  const id = computed(() => bag.data.value?.id)
  const query = useQuery({
    queryKey: ['season', id],
    queryFn: ({ signal }) =>
      take(api.GET('/api/bags/{id}/season', { params: { path: { id: id.value ?? 0 } }, signal })),
    enabled: computed(() => id.value !== undefined && wanted()),
    placeholderData: keepPreviousData,
  })
  /** Hangs up: the server stops judging. */
  const stop = () => client.cancelQueries({ queryKey: ['season', id.value] })
  return { ...query, stop }
}

const PROGRESS_MS = 250

/** How far some work has come, in words, for as long as it is under way. */
function useProgress(what: string, busy: () => boolean, ask: () => Promise<Progress>) {
  const query = useQuery({
    queryKey: [`progress: ${what}`],
    queryFn: ask,
    enabled: computed(busy),
    refetchInterval: PROGRESS_MS,
    gcTime: 0,
  })
  return computed(() => {
    const { done = 0, of = 0 } = query.data.value ?? {}
    return of > 0 && done < of ? `${what}: ${Math.round((100 * done) / of)} %` : `${what}…`
  })
}

export const useSeasonProgress = (busy: () => boolean) =>
  useProgress('Judging the season', busy, () => take(api.GET('/api/season/progress')))

export const useYearProgress = (busy: () => boolean) =>
  useProgress('Looking ahead', busy, () => take(api.GET('/api/season/progress')))

export const useBuilderProgress = (busy: () => boolean) =>
  useProgress('Putting it together', busy, () => take(api.GET('/api/build/progress')))

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

const HEARD_MS = 1000
const UNHEARD_MS = 10_000

/** What instruments say, asked for as long as something on the screen takes readings. */
export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    queryFn: () => take(api.GET('/api/instruments')),
    refetchInterval: ({ state: { data, error } }) => {
      if (error) return UNHEARD_MS
      return data && !data.rangefinder && !data.wind_meter ? false : HEARD_MS
    },
    gcTime: 0,
  })
}

/** Asks everything anew; nothing waits for the judgements, which take a while and say so where they are shown. */
export function useRefresh() {
  const client = useQueryClient()
  return async () => {
    // A first answer under way is of what was before; asking anew would only wait for it.
    await client.cancelQueries()
    const slow = ([name]: readonly unknown[]) =>
      ['season', 'season comparison', 'analysis', 'table', 'year', 'card'].includes(String(name)) ||
      String(name).startsWith('build ')
    void client.invalidateQueries({ predicate: (query) => slow(query.queryKey) })
    return client.invalidateQueries({ predicate: (query) => !slow(query.queryKey) })
  }
}

/** If-Match for a change made from a version. */
export const ifMatch = (etag: string) => ({ 'If-Match': etag })

/** Everything that changes the bag or the shelf, with its undo. */
export function useActions() {
  const notice = useNotice()
  const later = useLater()
  const bag = useBag()
  const discs = useDiscs()
  const refresh = useRefresh()

  async function attempt(work: () => Promise<void>): Promise<boolean> {
    try {
      await work()
      return true
    } catch (error) {
      // What another window changed shows when it is looked at again.
      if (error instanceof ProblemError && error.now) await refresh()
      notice.failed(error)
      return false
    }
  }

  async function turn(way: 'undo' | 'redo'): Promise<string> {
    const path = way === 'undo' ? '/api/changes/undo' : '/api/changes/redo'
    const change = await take(api.POST(path))
    await refresh()
    return change.words
  }

  /** Says what was done, with the way back: the server keeps it. */
  const did = (label: string) => notice.done(label, async () => void (await turn('undo')))

  /** Undoes what this window did last; after a reload too. */
  const undo = () =>
    notice.undoable.length > 0
      ? notice.undo()
      : attempt(async () => notice.done(`Undone: ${await turn('undo')}`))
  /** Does again what was undone last. */
  const redo = () => attempt(async () => did(`Done again: ${await turn('redo')}`))

  function move(label: string, moves: Moves) {
    const now = bag.data.value
    if (!now) return Promise.resolve(false)
    const send = (etag: string) =>
      take(
        api.POST('/api/bags/{id}/moves', {
          params: { path: { id: now.id }, header: ifMatch(etag) },
          body: moves,
        }),
      )
    return attempt(async () => {
      try {
        await send(now.etag)
      } catch (error) {
        if (error instanceof ProblemError && error.neverSent) {
          const path = `/api/bags/${now.id}/moves`
          const tap = { method: 'POST', path, key: newId(), body: { ...moves }, base: { ...moves } } as const
          await later.tell({ ...tap, etag: now.etag, words: label })
          notice.done(`${label} as soon as Zinc Kite answers`)
          return
        }
        // Whatever else changed in the bag, these discs are to go in or out.
        if (!(error instanceof ProblemError) || !error.now) throw error
        await send(error.now.etag)
      }
      await refresh()
      did(label)
    })
  }

  const carry = (disc: { id: number; name: string }, spare = false) =>
    move(spare ? `${disc.name} is carried as a spare` : `${disc.name} is carried`, {
      carry: [{ disc_id: disc.id, spare }],
      bench: [],
    })
  const bench = (disc: { id: number; name: string }) =>
    move(`${disc.name} is benched`, { carry: [], bench: [disc.id] })

  /** Begins to wear a disc in. */
  const season = (disc: { id: number; name: string }) =>
    attempt(async () => {
      const body = { disc_ids: [disc.id], change: { status: 'seasoning' as const } }
      await take(api.POST('/api/shelf/change', { body }))
      await refresh()
      did(`${disc.name} is worn in from today`)
    })

  /** The version of a disc that the screens show. */
  const shownDisc = (id: number) => discs.data.value?.find((d) => d.id === id)

  const sendDisc = async (id: number, body: DiscSpec, etag: string) => {
    await take(api.PUT('/api/discs/{id}', { params: { path: { id }, header: ifMatch(etag) }, body }))
    await refresh()
  }

  /** Changes a part of something that is shown; what another window changed of the rest stays. */
  const change = <T extends object>(
    label: string,
    { spec, etag }: { spec: T; etag: string },
    part: (spec: T) => T,
    send: (body: T, etag: string) => Promise<unknown>,
  ) =>
    attempt(async () => {
      const saving = useSaving<T>(async (body, seen) => void (await send(body, seen)))
      saving.begin(spec, etag)
      if (await saving.save(part(spec))) did(`${label}${saving.kept.value}`)
      else {
        await refresh()
        const clash = 'Another window changed the same just now. Look at it and choose again.'
        throw saving.problem.value ?? new ProblemError(clash)
      }
    })

  /** Changes a part of a disc. */
  function put(id: number, label: string, part: (spec: DiscSpec) => DiscSpec) {
    const disc = shownDisc(id)
    if (!disc) return Promise.resolve(false)
    return change(label, specOf(disc), part, (body, etag) => sendDisc(id, body, etag))
  }

  /** Changes what is told of the player. */
  async function tellPlayer(label: string, part: (player: Player) => Player) {
    const now = await take(api.GET('/api/player'))
    return change(label, { spec: playerOf(now), etag: now.etag }, part, async (body, etag) => {
      await take(api.PUT('/api/player', { params: { header: ifMatch(etag) }, body }))
      await refresh()
    })
  }

  function remove(disc: { id: number; name: string }) {
    const etag = shownDisc(disc.id)?.etag
    if (!etag) return Promise.resolve(false)
    return attempt(async () => {
      await take(api.DELETE('/api/discs/{id}', { params: { path: { id: disc.id }, header: ifMatch(etag) } }))
      await refresh()
      did(`${disc.name} is deleted`)
    })
  }

  return {
    attempt,
    refresh,
    did,
    undo,
    redo,
    move,
    carry,
    bench,
    season,
    put,
    tellPlayer,
    remove,
    shownDisc,
    sendDisc,
  }
}

/** What of the player a form holds. */
export function playerOf(sheet: PlayerSheet): Player {
  const { saved: _saved, arms: _arms, scatter_used: _used, etag: _etag, ...player } = sheet
  return JSON.parse(JSON.stringify(player)) as Player
}

/** What of a disc a form holds, with the version it is of. */
export function specOf(disc: ShelfDisc): { spec: DiscSpec; etag: string } {
  const {
    id: _id,
    etag,
    slot: _slot,
    wear_share: _share,
    at_hand: _at_hand,
    against_standard: _against,
    feels_off: _off,
    ...spec
  } = disc
  return { spec: JSON.parse(JSON.stringify(spec)) as DiscSpec, etag }
}
