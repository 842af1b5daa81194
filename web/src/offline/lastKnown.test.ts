// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { KEPT_AT } from '@/offline/kept'
import { lastKnown } from '@/offline/lastKnown'

const BAGS = 'http://localhost/api/bags'
const asked = vi.fn<(request: Request | string, how?: RequestInit) => Promise<Response>>()
let kept: Map<string, Response>

beforeEach(() => {
  kept = new Map()
  asked.mockReset()
  vi.stubGlobal('fetch', asked)
  vi.stubGlobal('caches', {
    open: () =>
      Promise.resolve({
        put: (url: string, answer: Response) => Promise.resolve(void kept.set(url, answer)),
        match: (url: string) => Promise.resolve(kept.get(url)?.clone()),
        keys: () => Promise.resolve([...kept.keys()]),
        delete: (url: string) => Promise.resolve(kept.delete(url)),
      }),
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const says = (what: string, status = 200) =>
  new Response(what, { status, headers: { date: 'Fri, 01 May 2026 12:00:00 GMT' } })
const get = (url = BAGS, how: RequestInit = {}) => lastKnown(new Request(url, how))
/** Said once, and kept. */
async function said(what: string) {
  asked.mockResolvedValueOnce(says(what))
  await get()
  await vi.waitFor(() => expect(kept.size).toBe(1))
}

describe('what was said last', () => {
  it('prop: an answer is the program’s as long as there is one, whatever its status', async () => {
    await said('first')
    for (const [what, status] of [
      ['second', 200],
      ['busy', 503],
      ['gone', 404],
    ] as const) {
      asked.mockResolvedValueOnce(says(what, status))
      const answer = await get()
      expect([await answer.text(), answer.status, answer.headers.get(KEPT_AT)]).toEqual([what, status, null])
    }
    asked.mockRejectedValueOnce(new TypeError('no network'))
    const last = await get()
    expect(await last.text()).toBe('second')
    expect(last.headers.get(KEPT_AT)).toBe('Fri, 01 May 2026 12:00:00 GMT')
  })

  it('prop: what was never said, changes and what whoever asked no longer wants fail as they do', async () => {
    await said('first')
    asked.mockRejectedValue(new TypeError('no network'))
    await expect(get('http://localhost/api/discs')).rejects.toThrow('no network')
    await expect(get('http://localhost/api/changes')).rejects.toThrow('no network')
    await expect(get(BAGS, { method: 'POST', body: '{}' })).rejects.toThrow('no network')
    const hungUp = new AbortController()
    hungUp.abort()
    await expect(get(BAGS, { signal: hungUp.signal })).rejects.toThrow()
  })

  it('prop: a slow answer is waited for while the program lives, a silent program is not', async () => {
    await said('first')
    vi.useFakeTimers()
    let answer: (r: Response) => void = () => undefined
    const slow = () => new Promise<Response>((resolve) => (answer = resolve))
    let alive = true
    asked.mockImplementation((request) => {
      if (typeof request !== 'string') return slow()
      return alive ? Promise.resolve(says('')) : Promise.reject(new TypeError('no network'))
    })
    const waits = get()
    await vi.advanceTimersByTimeAsync(20_000)
    answer(says('second'))
    expect(await (await waits).text()).toBe('second')
    const silent = get()
    alive = false
    await vi.advanceTimersByTimeAsync(4_000)
    expect((await silent).headers.get(KEPT_AT)).not.toBeNull()
  })

  it('prop: of very many answers the oldest are let go', async () => {
    asked.mockImplementation(() => Promise.resolve(says('x')))
    for (let k = 0; k < 420; k++) await get(`${BAGS}/${k}/board`)
    await vi.waitFor(() => expect(kept.size).toBe(400))
    expect(kept.has(`${BAGS}/0/board`)).toBe(false)
    expect(kept.has(`${BAGS}/419/board`)).toBe(true)
  })
})
