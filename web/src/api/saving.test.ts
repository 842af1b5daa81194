// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { ProblemError } from './client'
import { merged, useSaving } from './saving'

interface Bag {
  name: string
  capacity: number
  cap: number | null
}
const base: Bag = { name: 'Main', capacity: 25, cap: null }

describe('merged', () => {
  it('takes from each side what only it changed', () => {
    const both = merged(base, { ...base, capacity: 9 }, { ...base, name: 'Winter' })
    expect(both.all).toEqual({ name: 'Winter', capacity: 9, cap: null })
    expect(both.clashes).toEqual([])
    expect(both.taken).toEqual(['name'])
  })

  it('tells what both changed, each its own way', () => {
    const both = merged(base, { ...base, capacity: 9 }, { ...base, capacity: 12 })
    expect(both.clashes).toEqual([{ field: 'capacity', theirs: 12, mine: 9 }])
    expect(both.all.capacity).toBe(9)
  })

  it('sees no clash where both did the same, and nothing where there is nothing', () => {
    expect(merged(base, { ...base, capacity: 9 }, { ...base, capacity: 9 }).clashes).toEqual([])
    const { cap: _cap, ...without } = base
    expect(merged(base, base, without as Bag).clashes).toEqual([])
  })

  it('gives the other side all of what it was, whatever was changed', () => {
    for (let k = 0; k < 200; k++) {
      const pick = (from: Bag): Bag => ({
        name: Math.random() < 0.5 ? from.name : 'x',
        capacity: Math.random() < 0.5 ? from.capacity : 3,
        cap: Math.random() < 0.5 ? from.cap : 150,
      })
      const [mine, theirs] = [pick(base), pick(base)]
      const there = merged(base, mine, theirs)
      const here = merged(base, theirs, mine)
      // Two ways to the same but for what clashes.
      for (const key of Object.keys(base) as (keyof Bag)[])
        if (!there.clashes.some((c) => c.field === key)) expect(there.all[key]).toEqual(here.all[key])
      expect(merged(base, mine, base).all).toEqual(mine)
      expect(merged(base, base, theirs).all).toEqual(theirs)
    }
  })
})

describe('saving', () => {
  /** A server with one bag, changed by another window before the first save. */
  function served(now: Bag) {
    let etag = 'b'
    const store = { bag: { ...now } }
    const saving = useSaving<Bag>((body, seen) => {
      if (seen !== etag)
        return Promise.reject(new ProblemError('changed meanwhile', { now: { ...store.bag, id: 1, etag } }))
      store.bag = { ...body }
      etag = 'c'
      return Promise.resolve()
    })
    saving.begin(base, 'a')
    return { store, saving }
  }

  it('merges what does not touch and says so', async () => {
    const { store, saving } = served({ ...base, name: 'Winter' })
    expect(await saving.save({ ...base, capacity: 9 })).toBe(true)
    expect(store.bag).toEqual({ name: 'Winter', capacity: 9, cap: null })
    expect(saving.kept.value).toContain('name')
  })

  it('saves nothing until the player says which counts', async () => {
    for (const [whose, capacity] of [
      ['mine', 9],
      ['theirs', 12],
    ] as const) {
      const { store, saving } = served({ ...base, capacity: 12 })
      expect(await saving.save({ ...base, capacity: 9, name: 'Other' })).toBe(false)
      expect(saving.clashes.value).toHaveLength(1)
      expect(store.bag.capacity).toBe(12)
      expect(await saving.settle(whose)).toBe(true)
      expect(store.bag).toEqual({ name: 'Other', capacity, cap: null })
      expect(saving.clashes.value).toEqual([])
    }
  })

  it('shows what is wrong with the values themselves', async () => {
    const saving = useSaving<Bag>(() => Promise.reject(new ProblemError('too many', { field: 'capacity' })))
    saving.begin(base, 'a')
    expect(await saving.save(base)).toBe(false)
    expect(saving.problem.value?.field).toBe('capacity')
  })
})
