// The screens in the order in which players work, and the keys that lead to them.

export interface Page {
  path: string
  name: string
  key: string
  /** Begins another group. */
  apart?: boolean
  /** On a phone behind "More". */
  further?: boolean
}
export const PAGES: readonly Page[] = [
  { path: '/', name: 'Bag', key: 'g b' },
  { path: '/walk', name: 'Walk', key: 'g w' },
  { path: '/lines', name: 'Lines', key: 'g l' },
  { path: '/shelf', name: 'Shelf', key: 'g s' },
  { path: '/range', name: 'Range', key: 'g r', further: true },
  { path: '/build', name: 'Build', key: 'g u', apart: true, further: true },
  { path: '/season', name: 'Season', key: 'g e', further: true },
  { path: '/round', name: 'Round', key: 'g o', further: true },
  { path: '/field', name: 'Field', key: 'g f', apart: true, further: true },
  { path: '/player', name: 'Player', key: 'g p', further: true },
  { path: '/data', name: 'Data', key: 'g d', further: true },
]

/** Where the letter after g leads. */
export const GO: ReadonlyMap<string, string> = new Map(PAGES.map((page) => [page.key.slice(2), page.path]))
