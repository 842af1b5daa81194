// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { PickedDisc, PlayedHole, RoundCard, ShownRound } from '@/api/client'
import { laidOver, newId } from '@/offline/later'
import { bare, begun, dateOf, isWhole, nextHole, overlaid, soFar, tap, toTap } from '@/round/played'

const disc = (id: number): PickedDisc => ({ ...bare({ id, name: `Disc ${id}` }), strokes: 3 + id / 10 })
const hole = (name: string, more: Partial<PlayedHole> = {}): PlayedHole => ({
  name,
  par: 3,
  expected: 3.1,
  card: disc(1),
  ...more,
})
const round = (holes: PlayedHole[]): ShownRound =>
  ({
    key: 'r-12345678',
    course: 'Vell Links',
    date: '2026-05-03',
    etag: '"r"',
    hole_etags: holes.map((_, k) => `"${k}"`),
    account: { holes: 0 },
    holes,
  }) as unknown as ShownRound
const waits = (...taps: Parameters<typeof laidOver>[1][]) => taps.map((t, k) => laidOver(undefined, t, k))

describe('a round that is told', () => {
  it('prop: what waits is shown as told, and its account waits with it', () => {
    const known = round([hole('1'), hole('2', { strokes: 4 })])
    const told = tap(overlaid([known], [])[0]!, 0, { strokes: 2 })!
    const [shown] = overlaid([known], waits(told))
    expect(shown?.holes[0]).toMatchObject({ strokes: 2, threw: disc(1) })
    expect(shown?.account).toBeNull()
    expect(overlaid([known], [])[0]?.account).not.toBeNull()
    expect(soFar(shown!)).toEqual({ holes: 2, strokes: 6, par: 6 })
    expect(isWhole(shown!)).toBe(true)
  })

  it('prop: the card’s disc is taken to be thrown, but only if no other is told', () => {
    const at = (h: PlayedHole, part: Partial<PlayedHole>) =>
      tap(overlaid([round([h])], [])[0]!, 0, part)!.body
    expect(at(hole('1'), { came_of: 'left' })).toEqual({ threw: disc(1), came_of: 'left' })
    expect(at(hole('1', { threw: disc(2) }), { came_of: 'left' })).toEqual({ came_of: 'left' })
    expect(at(hole('1'), { threw: null })).toEqual({ threw: null })
    expect(at(hole('1'), { lost: [] })).toEqual({ lost: [] })
    expect(at(hole('1', { card: null }), { strokes: 3 })).toEqual({ strokes: 3 })
  })

  it('prop: a round begun out of reach is there at once, and once', () => {
    const card = {
      holes: [
        { name: '1', par: 3, strokes: 3.2, from: [], best: { disc_id: 2 }, discs: [disc(2), disc(1)] },
        { name: '2', par: 4, strokes: 4.4, from: [], best: null, discs: [] },
      ],
      rounds: { spread: 1.2 },
    } as unknown as RoundCard
    const begin = begun(card, 'Vell Links', 'Main bag', 'r-00000001', '2026-05-04')
    const [shown, ...more] = overlaid([round([hole('1')])], waits(begin))
    expect(shown).toMatchObject({ key: 'r-00000001', hole_etags: ['*', '*'], account: null })
    expect(shown?.holes.map((h) => h.card?.disc_id)).toEqual([2, undefined])
    expect(more).toHaveLength(1)
    const there = { ...round([hole('1')]), key: 'r-00000001' }
    expect(overlaid([there], waits(begin))).toHaveLength(1)
    const told = tap(shown!, 1, { strokes: 5 })!
    expect(told.etag).toBe('*')
    expect(overlaid([], waits(begin, told))[0]?.holes[1]?.strokes).toBe(5)
  })

  it('prop: the next hole is the first that is not told', () => {
    const told = (...n: (number | null)[]) =>
      overlaid([round(n.map((s, k) => hole(`${k}`, { strokes: s })))], [])[0]!
    expect(nextHole(told(3, null, 4))).toBe(1)
    expect(nextHole(told(3, 4))).toBe(1)
    expect(nextHole(told(null))).toBe(0)
  })

  it('prop: discs to tap begin with the card’s, and the one thrown is always among them', () => {
    const all = [disc(1), disc(2), disc(3), disc(4)]
    expect(toTap(hole('1'), all, 3).map((d) => d.disc_id)).toEqual([1, 2, 3])
    expect(toTap(hole('1', { threw: disc(9) }), all, 3).map((d) => d.disc_id)).toEqual([1, 2, 3, 9])
    expect(toTap(hole('1', { card: null }), all, 2).map((d) => d.disc_id)).toEqual([1, 2])
  })

  it('prop: keys are told apart, days are those of this device', () => {
    const keys = new Set(Array.from({ length: 500 }, newId))
    expect(keys.size).toBe(500)
    for (const key of keys) expect(key).toMatch(/^[a-z0-9-]{8,40}$/)
    expect(dateOf(new Date(2026, 0, 5, 23, 59))).toBe('2026-01-05')
  })
})
