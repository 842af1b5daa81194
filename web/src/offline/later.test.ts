// @vitest-environment happy-dom
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp } from 'vue'
import { isKept, isLoggedOutHere } from '@/offline/kept'
import { clashesOf, laidOver, onto, type Tap, useLater } from '@/offline/later'
import { useReach } from '@/offline/reach'
import { useLogOut } from '@/offline/useLogOut'

const PATH = '/api/rounds/r-12345678/holes/1'
const tap = (body: Tap['body'], base: Tap['base'] = {}, etag = '"1"'): Tap => ({
  method: 'PUT',
  path: PATH,
  body,
  base,
  etag,
  words: 'Hole 1 on Vell Links',
})
const answer = (status: number, body: object) => new Response(JSON.stringify(body), { status })

describe('a tap that waits', () => {
  it('prop: later taps are laid over earlier ones, of the version that the first was made from', () => {
    const first = laidOver(undefined, tap({ strokes: 3 }, { strokes: null }), 1)
    const second = laidOver(
      first,
      tap({ strokes: 4, came_of: 'left' }, { strokes: 3, came_of: null }, '"9"'),
      2,
    )
    expect(second).toMatchObject({
      id: `PUT ${PATH}`,
      body: { strokes: 4, came_of: 'left' },
      base: { strokes: null, came_of: null },
      etag: '"1"',
      at: 1,
    })
    expect(laidOver(second, tap({ strokes: null }), 3).body.strokes).toBeNull()
  })

  it('prop: what does not touch is moved onto the newer version, what does is told', () => {
    const waits = laidOver(undefined, tap({ strokes: 3 }, { strokes: null }), 1)
    const moved = onto(waits, { etag: '"2"', strokes: null, came_of: 'short' })
    expect(moved).toMatchObject({ etag: '"2"', body: { strokes: 3 } })
    expect(moved.theirs).toBeUndefined()
    const clash = onto(waits, { etag: '"2"', strokes: 5 })
    expect(clashesOf(clash)).toEqual([{ field: 'strokes', mine: 3, theirs: 5 }])
    // The same told twice is no clash.
    expect(onto(waits, { etag: '"2"', strokes: 3 }).theirs).toBeUndefined()
    const disc = (disc_name: string) => ({ disc_id: 1, disc_name })
    const thrown = laidOver(undefined, tap({ threw: disc('Purlin') }, { threw: null }), 1)
    expect(clashesOf(onto(thrown, { etag: '"2"', threw: disc('Teasel') }))[0]).toMatchObject({
      mine: 'Purlin',
      theirs: 'Teasel',
    })
  })

  it('prop: what a newer version does not hold at all is no clash: a disc is to go whatever else went', () => {
    const bench = { carry: [], bench: [4] }
    const moves = laidOver(undefined, { ...tap(bench, bench), method: 'POST', key: 'a' }, 1)
    expect(onto(moves, { etag: '"2"', carried: [] })).toMatchObject({ body: bench, etag: '"2"' })
  })

  it('prop: things of one address that are told apart wait apart', () => {
    const begun = (key: string) => laidOver(undefined, { ...tap({}), method: 'POST', key }, 1)
    expect(begun('a').id).not.toBe(begun('b').id)
  })
})

describe('sending', () => {
  const asked = vi.fn<(path: string, how: RequestInit) => Promise<Response>>()
  beforeEach(() => {
    setActivePinia(createPinia())
    asked.mockReset()
    vi.stubGlobal('fetch', asked)
  })
  afterEach(() => vi.unstubAllGlobals())

  it('out of reach it waits, and goes in the order of the taps when there is an answer', async () => {
    const later = useLater()
    asked.mockRejectedValue(new TypeError('no network'))
    await later.tell(tap({ strokes: 3 }))
    await later.tell({ ...tap({ strokes: 4 }), path: PATH.replace('/1', '/2') })
    await later.tell(tap({ came_of: 'made' }))
    expect(useReach().isOut).toBe(true)
    expect(later.waiting.map((w) => w.body)).toEqual([{ strokes: 3, came_of: 'made' }, { strokes: 4 }])
    asked.mockReset()
    asked.mockImplementation(() => Promise.resolve(answer(200, { etag: '"2"' })))
    const seen: string[] = []
    later.onSent(async (sent) => void seen.push(...sent.map((w) => w.path)))
    await later.sendAll()
    expect(asked.mock.calls.map(([path]) => path)).toEqual([PATH, PATH.replace('/1', '/2')])
    expect(asked.mock.calls[0]?.[1].headers).toMatchObject({ 'if-match': '"1"' })
    expect(seen).toHaveLength(2)
    expect(later.all).toEqual([])
    expect(useReach().isOut).toBe(false)
  })

  it('a tap made while another is under way is sent of the version that this one made', async () => {
    const later = useLater()
    let let_go: (r: Response) => void = () => undefined
    asked.mockImplementationOnce(() => new Promise((resolve) => (let_go = resolve)))
    asked.mockImplementation(() => Promise.resolve(answer(200, { etag: '"3"' })))
    const first = later.tell(tap({ strokes: 3 }, { strokes: null }))
    await vi.waitFor(() => expect(asked).toHaveBeenCalledTimes(1))
    const second = later.tell(tap({ strokes: 4 }, { strokes: 3 }))
    await vi.waitFor(() => expect(later.all[0]?.body.strokes).toBe(4))
    let_go(answer(200, { etag: '"2"' }))
    await Promise.all([first, second])
    expect(asked).toHaveBeenCalledTimes(2)
    expect(asked.mock.calls[1]?.[1]).toMatchObject({ body: '{"strokes":4}', headers: { 'if-match': '"2"' } })
    expect(later.all).toEqual([])
  })

  it('a clash waits for the player, and either side can be kept', async () => {
    const later = useLater()
    const now = { etag: '"2"', strokes: 5 }
    asked.mockImplementation(() => Promise.resolve(answer(412, { now })))
    await later.tell(tap({ strokes: 3 }, { strokes: null }))
    expect(later.clashes).toHaveLength(1)
    expect(asked).toHaveBeenCalledTimes(1)
    asked.mockImplementation(() => Promise.resolve(answer(200, { etag: '"3"' })))
    await later.sendAll()
    expect(asked).toHaveBeenCalledTimes(1)
    await later.settle(`PUT ${PATH}`, 'mine')
    expect(asked.mock.calls[1]?.[1]).toMatchObject({ body: '{"strokes":3}', headers: { 'if-match': '"2"' } })
    expect(later.all).toEqual([])
    asked.mockImplementation(() => Promise.resolve(answer(412, { now })))
    await later.tell(tap({ strokes: 3 }, { strokes: null }))
    await later.settle(`PUT ${PATH}`, 'theirs')
    expect(later.all).toEqual([])
    expect(asked).toHaveBeenCalledTimes(3)
  })

  it('what is refused is told and holds nothing up; a busy or locked program is asked again later', async () => {
    const later = useLater()
    asked.mockImplementationOnce(() => Promise.resolve(answer(404, { detail: 'there is no round' })))
    asked.mockImplementation(() => Promise.resolve(answer(200, {})))
    await later.tell(tap({ strokes: 3 }))
    await later.tell({ ...tap({ strokes: 4 }), path: PATH.replace('/1', '/2') })
    expect(later.refused.map((w) => w.refused)).toEqual(['there is no round'])
    expect(later.waiting).toEqual([])
    await later.drop(`PUT ${PATH}`)
    for (const status of [401, 429, 500, 503]) {
      asked.mockImplementation(() => Promise.resolve(answer(status, {})))
      await later.tell(tap({ strokes: 3 }))
      expect(later.waiting).toHaveLength(1)
    }
  })
})

describe('what is kept', () => {
  it('prop: what screens show, no downloads, no progress, no changes', () => {
    for (const path of [
      '/api/bags',
      '/api/bags/1/board',
      '/api/rounds',
      '/api/session',
      '/api/bags/1/card/2',
    ])
      expect(isKept(path)).toBe(true)
    for (const path of [
      '/api/health',
      '/api/changes',
      '/api/courses/1.gpx',
      '/api/season/progress',
      '/api/data',
      '/round',
      '/api/bagsandmore',
    ])
      expect(isKept(path)).toBe(false)
  })
})

describe('logging out', () => {
  const asked = vi.fn<(path: string, how?: RequestInit) => Promise<Response>>()
  beforeEach(() => {
    localStorage.clear()
    asked.mockReset()
    vi.stubGlobal('fetch', asked)
    vi.stubGlobal('caches', { delete: vi.fn(() => Promise.resolve(true)) })
    const app = createApp({})
    app.use(VueQueryPlugin, { queryClient: new QueryClient() })
    const pinia = createPinia()
    app.use(pinia)
    setActivePinia(pinia)
  })
  afterEach(() => vi.unstubAllGlobals())

  it('forgets at once where the program is away, and ends the session when it answers', async () => {
    const out = useLogOut()
    asked.mockRejectedValue(new TypeError('no network'))
    await out.begin()
    expect(caches.delete).toHaveBeenCalledWith('zinc-kite-known')
    expect([out.isOut, out.isPending, isLoggedOutHere()]).toEqual([true, true, true])
    asked.mockImplementation(() => Promise.resolve(new Response(null, { status: 204 })))
    await out.end()
    expect(asked.mock.calls.at(-1)).toMatchObject(['/api/session', { method: 'DELETE' }])
    expect([out.isOut, out.isPending, isLoggedOutHere()]).toEqual([true, false, false])
  })

  it('asks about taps that wait, and discards them only then', async () => {
    const out = useLogOut()
    const later = useLater()
    asked.mockRejectedValue(new TypeError('no network'))
    await later.tell(tap({ strokes: 3 }))
    await out.begin()
    expect([out.asks, out.isOut, later.all.length]).toEqual([true, false, 1])
    await out.leave()
    expect([out.asks, out.isOut, later.all.length]).toEqual([false, true, 0])
  })
})
