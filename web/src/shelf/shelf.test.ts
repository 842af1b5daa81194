import { describe, expect, it } from 'vitest'
import type { ShelfDisc } from '@/api/client'
import { newDisc, newKeeping, STATUSES } from '@/common/disc'
import { chosen, EVERYTHING as all, type Facts, sorted, statusOf, whereabouts } from './shelf'

const disc = (id: number, change: Partial<ShelfDisc>): ShelfDisc => ({
  ...newDisc(),
  id,
  name: `disc ${id}`,
  slot: 'mid_range',
  wear_share: 0,
  etag: '"0"',
  at_hand: true,
  against_standard: [],
  feels_off: [],
  ...change,
})
const discs = [
  disc(1, { name: 'Newel', maker: 'Hobb & Tiller', slot: 'putter', mass_g: 174, wear_share: 0.15 }),
  disc(2, { name: 'Armilla', maker: 'Orrery Works', slot: 'distance', mass_g: 175, notes: 'lent to nobody' }),
  disc(3, { name: 'Sorrel', maker: 'Saltmarsh', mass_g: 168, wear_share: 0.7, plastic: 'base' }),
]
const known = (id: number): Facts => ({
  carried: id === 2,
  peg: [null, 'rail', null, 'hook'][id] ?? null,
  strokes: [0, 0.1, 0, 0.3][id] ?? 0,
})
const name = (plastic: string) => plastic
const ids = (found: ShelfDisc[]) => found.map((d) => d.id)

describe('filter', () => {
  it('finds every word anywhere, whatever its case', () => {
    expect(ids(chosen(discs, { ...all, words: 'orrery NOBODY' }, known, name))).toEqual([2])
    expect(ids(chosen(discs, { ...all, words: 'base' }, known, name))).toEqual([3])
    expect(ids(chosen(discs, { ...all, words: 'orrery base' }, known, name))).toEqual([])
  })

  it('keeps to the slot and to what is carried', () => {
    expect(ids(chosen(discs, { ...all, slot: 'putter' }, known, name))).toEqual([1])
    expect(ids(chosen(discs, { ...all, status: 'carried' }, known, name))).toEqual([2])
    expect(ids(chosen(discs, { ...all, status: 'home' }, known, name))).toEqual([1, 3])
    expect(ids(chosen(discs, { ...all, peg: 'hook' }, known, name))).toEqual([3])
    const idle = (id: number) => ({ ...known(id), strokes: id === 3 ? 0.004 : 0.2 })
    expect(ids(chosen(discs, { ...all, status: 'saves' }, idle, name)), 'one at home that saves').toEqual([1])
  })
})

describe('whereabouts', () => {
  const kept = (part: object) => disc(9, { keeping: { ...newKeeping(), ...part } })

  it('says where a disc is', () => {
    const today = '2026-05-10'
    expect(whereabouts(kept({}), undefined, today)).toBe('at home')
    expect(whereabouts(kept({}), { spare: false }, today)).toBe('carried')
    expect(whereabouts(kept({}), { spare: true }, today)).toBe('carried, spare')
    expect(whereabouts(kept({ status: 'lent' }), undefined, today)).toBe('lent')
    const trial = (trial_until: string) => kept({ status: 'trial', trial_until })
    expect(whereabouts(trial('2026-05-10'), { spare: false }, today)).toBe('on trial to 2026-05-10')
    expect(whereabouts(trial('2026-05-09'), undefined, today)).toBe('trial is over')
  })

  it('prop: every status finds its own discs, and lost ones are not at home', () => {
    const statuses = Object.keys(STATUSES) as (keyof typeof STATUSES)[]
    const shelf = statuses.map((status, k) =>
      disc(k, { at_hand: status !== 'lost', keeping: { ...newKeeping(), status } }),
    )
    const none = () => ({ carried: false, peg: null, strokes: 0 })
    for (const status of statuses) {
      expect(chosen(shelf, { ...all, status }, none, name).map(statusOf)).toEqual([status])
    }
    const home = chosen(shelf, { ...all, status: 'home' }, none, name).map(statusOf)
    expect(home).toEqual(statuses.filter((s) => s !== 'lost'))
  })
})

describe('order', () => {
  it('goes by the column, both ways', () => {
    expect(ids(sorted(discs, { by: 'name', way: 1 }, name))).toEqual([2, 1, 3])
    expect(ids(sorted(discs, { by: 'mass', way: -1 }, name))).toEqual([2, 1, 3])
    expect(ids(sorted(discs, { by: 'wear', way: -1 }, name))).toEqual([3, 1, 2])
    expect(ids(sorted(discs, { by: 'slot', way: 1 }, name))).toEqual([1, 3, 2])
  })

  it('puts the dearest disc first by what it is worth', () => {
    expect(ids(sorted(discs, { by: 'worth', way: 1 }, name, known))).toEqual([3, 1, 2])
    expect(ids(sorted(discs, { by: 'worth', way: -1 }, name, known))).toEqual([2, 1, 3])
    expect(ids(sorted(discs, { by: 'peg', way: 1 }, name, known))).toEqual([3, 1, 2])
    expect(ids(sorted(discs, { by: 'status', way: 1 }, name, known))).toEqual([2, 1, 3])
    // Nothing known yet: by speed, as ever.
    expect(ids(sorted(discs, { by: 'worth', way: 1 }, name))).toEqual(
      ids(sorted(discs, { by: 'printed', way: 1 }, name)),
    )
  })

  it('orders by what is noted, with what is not noted last', () => {
    const kept = (id: number, price: number | null, place: string) =>
      disc(id, { keeping: { ...newKeeping(), price, place } })
    const noted = [kept(1, null, 'shed'), kept(2, 20, ''), kept(3, 8, 'car')]
    expect(ids(sorted(noted, { by: 'price', way: 1 }, name))).toEqual([3, 2, 1])
    expect(ids(sorted(noted, { by: 'place', way: 1 }, name))).toEqual([3, 1, 2])
    expect(ids(sorted(discs, { by: 'maker', way: 1 }, name))).toEqual([1, 2, 3])
  })

  it('leaves what it is given alone', () => {
    sorted(discs, { by: 'name', way: -1 }, name)
    expect(ids(discs)).toEqual([1, 2, 3])
  })
})
