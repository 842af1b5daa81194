import { describe, expect, it } from 'vitest'
import { asWishes, countWishes, freeName, keptForm, newForm } from './wishes'

const START = newForm({ capacity: 19, event_cap_g: null })

describe('wishes', () => {
  it('begins like the bag, with nothing else wished', () => {
    expect(newForm({ capacity: 12, event_cap_g: 160 })).toMatchObject({ capacity: 12, event_cap_g: 160 })
    expect(countWishes(START, START)).toBe(0)
  })

  it('sends what is wished, and no disc that is gone', () => {
    const form = {
      ...START,
      within: [1, 2],
      without: [2, 3, 9],
      slots: { putter: { least: 2, most: null }, fairway: { least: null, most: null } },
    }
    const sent = asWishes(form, (id) => id < 9)
    expect(sent.slots).toEqual([{ slot: 'putter', least: 2, most: null }])
    expect(sent.within).toEqual([1, 2])
    expect(sent.without).toEqual([3])
    expect(countWishes(form, START)).toBe(3)
  })

  it.each([null, 'x', 7, [], { capacity: 'many', within: {}, slots: null }])(
    'prop: keeps nothing that does not fit: %j',
    (kept) => {
      expect(keptForm(kept, START)).toEqual(START)
    },
  )

  it('prop: a form that was kept comes back as it was', () => {
    const form = { ...START, capacity: 7, pegs: true, mass_cap_g: 3000, makers: ['Saltmarsh'], within: [4] }
    expect(keptForm(JSON.parse(JSON.stringify(form)), START)).toEqual(form)
  })

  it('finds a name that is free', () => {
    expect(freeName('Built', ['Moor'])).toBe('Built')
    expect(freeName('Built', ['built', 'Built 2'])).toBe('Built 3')
  })
})
