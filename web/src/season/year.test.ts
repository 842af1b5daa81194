import { describe, expect, it } from 'vitest'
import type { Family, Outlook } from '@/api/client'
import {
  AS_IT_IS,
  changes,
  dayWords,
  isSupposed,
  monthLetter,
  monthWords,
  reach,
  spread,
  when,
} from '@/season/year'

describe('days', () => {
  it('prop: a day reads as people write it, and what is due is now', () => {
    expect(dayWords('2027-05-03')).toBe('3 May 2027')
    expect(monthWords('2027-12-31')).toBe('December 2027')
    expect(monthLetter('2027-09-01')).toBe('S')
    expect(when('2027-05-03', '2027-05-03')).toBe('Now')
    expect(when('2027-05-04', '2027-05-03')).toBe('4 May 2027')
  })
})

describe('what is supposed', () => {
  it('prop: nothing is nothing', () => {
    expect(isSupposed(AS_IT_IS)).toBe(false)
    expect(isSupposed({ ...AS_IT_IS, play: 2 })).toBe(true)
    expect(isSupposed({ ...AS_IT_IS, lost: [3] })).toBe(true)
  })
})

describe('names', () => {
  it('prop: none covers another, they keep their order, and lie within if there is room', () => {
    let state = 7
    const next = () => (state = (state * 48271) % 2147483647) / 2147483647
    for (let n = 1; n <= 7; n += 1) {
      for (let round = 0; round < 30; round += 1) {
        const wanted = Array.from({ length: n }, () => 120 * next())
        const placed = spread(wanted, 15, [10, 110])
        const order = wanted.map((at, k) => ({ at, y: placed[k] ?? 0 })).sort((a, b) => a.at - b.at)
        for (let k = 1; k < n; k += 1) {
          expect((order[k]?.y ?? 0) - (order[k - 1]?.y ?? 0)).toBeGreaterThanOrEqual(15 - 1e-9)
        }
        expect(Math.max(...placed)).toBeLessThanOrEqual(110 + 1e-9)
        expect(Math.min(...placed)).toBeGreaterThanOrEqual(10 - 1e-9)
      }
    }
    expect(spread([40], 15, [0, 100])).toEqual([40])
  })
})

const point = (finish_deg: number, peg: string) => ({
  finish_deg,
  least_worn_finish_deg: finish_deg + 1,
  most_worn_finish_deg: finish_deg - 2,
  peg,
})
const family = {
  zones: [
    { peg: 'rail', label: 'Rail' },
    { peg: 'drift', label: 'Drift' },
  ],
  copies: [
    { name: 'Lintel', is_carried: true, forecast: { points: [point(2, 'rail'), point(-1, 'drift')] } },
    { name: 'Lintel new', is_carried: false, forecast: { points: [point(4, 'rail'), point(-2, 'drift')] } },
  ],
} as unknown as Family

describe('a family', () => {
  it('prop: its chart holds every copy on every day', () => {
    const [least, most] = reach(family)
    expect(least).toBeLessThan(-4)
    expect(most).toBeGreaterThan(5)
  })

  it('prop: of what moves only the carried is told', () => {
    const outlook = { families: [family] } as unknown as Outlook
    expect(changes(outlook, 1)).toEqual(['Lintel from Rail to Drift'])
    expect(changes(outlook, 0)).toEqual([])
  })
})
