// Which discs the shelf shows, and in what order.
import type { ShelfDisc } from '@/api/client'

export type Column = 'name' | 'printed' | 'plastic' | 'mass' | 'wear' | 'slot' | 'worth'

export interface Filter {
  words: string
  slot: ShelfDisc['slot'] | 'all'
  carried: boolean | null
}

export interface Order {
  by: Column
  /** 1 from small to large, −1 the other way. */
  way: 1 | -1
}

type Named = (plastic: ShelfDisc['plastic']) => string

/** Discs in which every word is found somewhere, of the slot, carried or not. */
export function chosen(
  discs: readonly ShelfDisc[],
  filter: Filter,
  isCarried: (id: number) => boolean,
  plasticName: Named,
): ShelfDisc[] {
  const words = filter.words.toLowerCase().split(/\s+/).filter(Boolean)
  return discs.filter((d) => {
    const text = `${d.name} ${d.maker} ${d.mould} ${plasticName(d.plastic)} ${d.notes ?? ''}`.toLowerCase()
    return (
      words.every((w) => text.includes(w)) &&
      (filter.slot === 'all' || d.slot === filter.slot) &&
      (filter.carried === null || filter.carried === isCarried(d.id))
    )
  })
}

const SLOTS: readonly ShelfDisc['slot'][] = ['putter', 'mid_range', 'fairway', 'distance', 'utility']

/** In order; equal ones by speed and then by name. `strokes` is what a disc is worth. */
export function sorted(
  discs: readonly ShelfDisc[],
  order: Order,
  plasticName: Named,
  strokes: (id: number) => number = () => 0,
): ShelfDisc[] {
  const compare: Record<Column, (a: ShelfDisc, b: ShelfDisc) => number> = {
    name: (a, b) => a.name.localeCompare(b.name),
    printed: (a, b) =>
      a.printed.speed - b.printed.speed ||
      b.printed.turn + b.printed.fade - (a.printed.turn + a.printed.fade),
    plastic: (a, b) => plasticName(a.plastic).localeCompare(plasticName(b.plastic)),
    mass: (a, b) => a.mass_g - b.mass_g,
    wear: (a, b) => a.wear_share - b.wear_share,
    slot: (a, b) => SLOTS.indexOf(a.slot) - SLOTS.indexOf(b.slot),
    // The dearest first.
    worth: (a, b) => strokes(b.id) - strokes(a.id),
  }
  return discs.toSorted(
    (a, b) => order.way * compare[order.by](a, b) || compare.printed(a, b) || a.name.localeCompare(b.name),
  )
}
