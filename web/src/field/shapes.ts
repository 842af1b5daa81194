// The shapes by which throws of one disc, meant alike, are told from others: never by colour alone.
import { symbol, symbolsFill } from 'd3-shape'
import type { DiscSpread } from '@/api/client'
import { groupOf } from '@/field/log'

const path = symbol()
/** The outline of the shape of a group, about `area` square pixels large. */
export const shapeOf = (k: number, area: number): string =>
  path.type(symbolsFill[k % symbolsFill.length]!).size(area)() ?? ''

/** Which shape each group of throws has. */
export const shapes = (groups: readonly Pick<DiscSpread, 'disc_id' | 'disc_name' | 'style' | 'meant'>[]) =>
  new Map(groups.map((g, k) => [groupOf(g), k]))
