import { describe, expect, it } from 'vitest'
import type { ShelfDisc } from '@/api/client'
import { newDisc } from '@/common/disc'
import { chosen, type Filter, sorted } from './shelf'

const disc = (id: number, change: Partial<ShelfDisc>): ShelfDisc => ({
  ...newDisc(),
  id,
  name: `disc ${id}`,
  slot: 'mid_range',
  wear_share: 0,
  etag: '"0"',
  ...change,
})
const discs = [
  disc(1, { name: 'Newel', maker: 'Hobb & Tiller', slot: 'putter', mass_g: 174, wear_share: 0.15 }),
  disc(2, { name: 'Armilla', maker: 'Orrery Works', slot: 'distance', mass_g: 175, notes: 'lent to nobody' }),
  disc(3, { name: 'Sorrel', maker: 'Saltmarsh', mass_g: 168, wear_share: 0.7, plastic: 'base' }),
]
const all: Filter = { words: '', slot: 'all', carried: null }
const carried = (id: number) => id === 2
const name = (plastic: string) => plastic
const ids = (found: ShelfDisc[]) => found.map((d) => d.id)

describe('filter', () => {
  it('finds every word anywhere, whatever its case', () => {
    expect(ids(chosen(discs, { ...all, words: 'orrery NOBODY' }, carried, name))).toEqual([2])
    expect(ids(chosen(discs, { ...all, words: 'base' }, carried, name))).toEqual([3])
    expect(ids(chosen(discs, { ...all, words: 'orrery base' }, carried, name))).toEqual([])
  })

  it('keeps to the slot and to what is carried', () => {
    expect(ids(chosen(discs, { ...all, slot: 'putter' }, carried, name))).toEqual([1])
    expect(ids(chosen(discs, { ...all, carried: true }, carried, name))).toEqual([2])
    expect(ids(chosen(discs, { ...all, carried: false }, carried, name))).toEqual([1, 3])
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
    const strokes = (id: number) => [0, 0.1, 0, 0.3][id] ?? 0
    expect(ids(sorted(discs, { by: 'worth', way: 1 }, name, strokes))).toEqual([3, 1, 2])
    expect(ids(sorted(discs, { by: 'worth', way: -1 }, name, strokes))).toEqual([2, 1, 3])
    // Nothing known yet: by speed, as ever.
    expect(ids(sorted(discs, { by: 'worth', way: 1 }, name))).toEqual(
      ids(sorted(discs, { by: 'printed', way: 1 }, name)),
    )
  })

  it('leaves what it is given alone', () => {
    sorted(discs, { by: 'name', way: -1 }, name)
    expect(ids(discs)).toEqual([1, 2, 3])
  })
})
