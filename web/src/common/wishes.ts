// What a player wishes of a bag that is put together, and the words for it.
import type { Bag, Wishes } from '@/api/client'

/** Wishes as the form has them: everything is there. */
export type Form = Required<Omit<Wishes, 'slots'>> & {
  slots: Record<string, { least: number | null; most: number | null }>
}

/** A bag like this one, and nothing else wished. */
export function newForm(bag: Pick<Bag, 'capacity' | 'event_cap_g'>): Form {
  return {
    capacity: bag.capacity,
    event_cap_g: bag.event_cap_g ?? null,
    mass_cap_g: null,
    within: [],
    without: [],
    slots: {},
    putting_pair: false,
    spared: [],
    makers: [],
    one_maker: false,
    mould_strokes: null,
    disc_strokes: 0,
    hand_feel: false,
    pegs: false,
    school: null,
    buying: null,
  }
}

/** What is kept of a form in this browser, over the starting values; of what was kept by an older program only what still fits. */
export function keptForm(kept: unknown, start: Form): Form {
  if (typeof kept !== 'object' || kept === null) return start
  const fits = Object.entries(kept).filter(([name, value]) => {
    const usual: unknown = start[name as keyof Form]
    return usual === null
      ? value === null || ['number', 'string', 'object'].includes(typeof value)
      : value !== null && typeof value === typeof usual && Array.isArray(value) === Array.isArray(usual)
  })
  return { ...start, ...Object.fromEntries(fits) }
}

/** A form as the server takes it. Discs that are no longer there are wished no longer. */
export function asWishes(form: Form, there: (id: number) => boolean): Wishes {
  const slots = Object.entries(form.slots)
    .filter(([, { least, most }]) => least !== null || most !== null)
    .map(([slot, wish]) => ({ slot: slot as NonNullable<Wishes['slots']>[number]['slot'], ...wish }))
  const without = form.without.filter((id) => there(id) && !form.within.includes(id))
  return { ...form, slots, without, within: form.within.filter(there), spared: form.spared.filter(there) }
}

/** How many wishes a form holds beside the size of the bag. */
export function countWishes(form: Form, start: Form): number {
  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
  const plain = (Object.keys(start) as (keyof Form)[]).filter((key) => key !== 'slots')
  const slots = Object.values(form.slots).filter((s) => s.least !== null || s.most !== null)
  return plain.filter((key) => !same(form[key], start[key])).length + slots.length
}

/** A name that no bag has yet. */
export function freeName(wanted: string, taken: readonly string[]): string {
  const fold = (name: string) => name.trim().toLowerCase()
  const isTaken = (name: string) => taken.some((other) => fold(other) === fold(name))
  if (!isTaken(wanted)) return wanted
  let k = 2
  while (isTaken(`${wanted} ${k}`)) k += 1
  return `${wanted} ${k}`
}
