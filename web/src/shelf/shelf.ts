// Which discs the shelf shows, and in what order.
import type { ShelfDisc } from '@/api/client'
import { LEAST_STROKES } from '@/common/units'
import { GRADES, type Keeping, SLOTS, STATUSES, USES } from '@/common/disc'

/** What the shelf can be ordered by, the usual first. */
export const COLUMNS = [
  'printed',
  'name',
  'peg',
  'plastic',
  'mass',
  'wear',
  'slot',
  'status',
  'worth',
  'maker',
  'mould',
  'price',
  'place',
  'run',
] as const
export type Column = (typeof COLUMNS)[number]
/** What each is called where it is no head of a column. */
export const ORDERS: Record<Column, string> = {
  printed: 'speed',
  name: 'name',
  peg: 'peg',
  plastic: 'plastic',
  mass: 'weight',
  wear: 'wear',
  slot: 'slot',
  status: 'where it is',
  worth: 'strokes',
  maker: 'maker',
  mould: 'mould',
  price: 'price',
  place: 'place kept',
  run: 'run',
}
export type Status = Keeping['status']

/** What is known of a disc beside what it is: where it lies in the bag and what it is worth. */
export interface Facts {
  carried: boolean
  peg: string | null
  strokes: number
}
const NOTHING: Facts = { carried: false, peg: null, strokes: 0 }

export interface Filter {
  words: string
  slot: ShelfDisc['slot'] | 'all'
  status: 'all' | 'carried' | 'home' | 'saves' | Status
  peg: string
}
export const EVERYTHING: Filter = { words: '', slot: 'all', status: 'all', peg: 'all' }

export interface Order {
  by: Column
  /** 1 from small to large, −1 the other way. */
  way: 1 | -1
}

type Named = (plastic: ShelfDisc['plastic']) => string
type Known = (id: number) => Facts

export const statusOf = (d: ShelfDisc): Status => d.keeping?.status ?? 'ready'

/** Where a disc is, in a word or two. */
export function whereabouts(d: ShelfDisc, carried: { spare: boolean } | undefined, today: string): string {
  const status = statusOf(d)
  const until = d.keeping?.trial_until
  if (status === 'trial' && until) return until < today ? 'trial is over' : `on trial to ${until}`
  if (carried)
    return carried.spare ? 'carried, spare' : status === 'ready' ? 'carried' : `carried, ${STATUSES[status]}`
  return status === 'ready' ? 'at home' : STATUSES[status]
}

/** Discs in which every word is found somewhere and that pass every filter. */
export function chosen(
  discs: readonly ShelfDisc[],
  filter: Filter,
  known: Known,
  plasticName: Named,
): ShelfDisc[] {
  const words = filter.words.toLowerCase().split(/\s+/).filter(Boolean)
  return discs.filter((d) => {
    const { run, place, ties, kept_for } = d.keeping ?? {}
    const words_of = [SLOTS[d.slot], GRADES[d.wear.grade], USES[d.used_for], STATUSES[statusOf(d)]]
    const said = [d.name, d.maker, d.mould, plasticName(d.plastic), d.notes, run, place, ...words_of]
      .concat(ties ?? [])
      .concat(kept_for ?? [])
    const text = said.join(' ').replaceAll('_', ' ').toLowerCase()
    const { carried, peg, strokes } = known(d.id)
    return (
      words.every((w) => text.includes(w)) &&
      (filter.slot === 'all' || d.slot === filter.slot) &&
      (filter.peg === 'all' || peg === filter.peg) &&
      (filter.status === 'all' ||
        (filter.status === 'carried' && carried) ||
        (filter.status === 'home' && !carried && d.at_hand) ||
        (filter.status === 'saves' && !carried && strokes >= LEAST_STROKES) ||
        filter.status === statusOf(d))
    )
  })
}

const SLOT_ORDER = Object.keys(SLOTS)
const STATUS_ORDER = Object.keys(STATUSES)
/** The most stable first; what fills no peg last. */
export const PEG_ORDER = ['hook', 'lean', 'rail', 'drift', 'slide'] as const
type Peg = (typeof PEG_ORDER)[number]
export const PEGS: Record<Peg, string> = {
  hook: 'Hook',
  lean: 'Lean',
  rail: 'Rail',
  drift: 'Drift',
  slide: 'Slide',
}
const pegPlace = (peg: string | null) => (peg === null ? PEG_ORDER.length : PEG_ORDER.indexOf(peg as Peg))

/** In order; equal ones by speed and then by name. */
export function sorted(
  discs: readonly ShelfDisc[],
  order: Order,
  plasticName: Named,
  known: Known = () => NOTHING,
): ShelfDisc[] {
  const names = new Intl.Collator(undefined, { numeric: true })
  const noted = (a = '', b = '') => Number(a === '') - Number(b === '') || names.compare(a, b)
  const compare: Record<Column, (a: ShelfDisc, b: ShelfDisc) => number> = {
    name: (a, b) => names.compare(a.name, b.name),
    peg: (a, b) => pegPlace(known(a.id).peg) - pegPlace(known(b.id).peg),
    printed: (a, b) =>
      a.printed.speed - b.printed.speed ||
      b.printed.turn + b.printed.fade - (a.printed.turn + a.printed.fade),
    plastic: (a, b) => names.compare(plasticName(a.plastic), plasticName(b.plastic)),
    mass: (a, b) => a.mass_g - b.mass_g,
    wear: (a, b) => a.wear_share - b.wear_share,
    slot: (a, b) => SLOT_ORDER.indexOf(a.slot) - SLOT_ORDER.indexOf(b.slot),
    // Carried ones first.
    status: (a, b) =>
      Number(known(b.id).carried) - Number(known(a.id).carried) ||
      STATUS_ORDER.indexOf(statusOf(a)) - STATUS_ORDER.indexOf(statusOf(b)),
    maker: (a, b) => names.compare(a.maker, b.maker),
    mould: (a, b) => names.compare(a.mould, b.mould),
    // What is not noted comes last.
    price: (a, b) => (a.keeping?.price ?? Infinity) - (b.keeping?.price ?? Infinity) || 0,
    place: (a, b) => noted(a.keeping?.place, b.keeping?.place),
    run: (a, b) => noted(a.keeping?.run, b.keeping?.run),
    // The dearest first.
    worth: (a, b) => known(b.id).strokes - known(a.id).strokes,
  }
  return discs.toSorted(
    (a, b) => order.way * compare[order.by](a, b) || compare.printed(a, b) || names.compare(a.name, b.name),
  )
}
