// Words for the values of a line.
import type { Ground, LineSpec, Style } from '@/api/client'

export const STYLES: Record<Style, string> = {
  backhand: 'backhand',
  forehand: 'forehand',
  thumber: 'thumber',
  tomahawk: 'tomahawk',
  putt: 'putt',
}
export const GROUNDS: Record<Ground, string> = {
  soft: 'soft ground',
  turf: 'short grass',
  hard: 'hard ground',
  snow: 'snow',
}
export const LANDINGS: Record<LineSpec['landing'], string> = {
  any: 'any',
  sit: 'must sit',
  run: 'must run on',
  basket: 'in the basket',
}
export const FOOTINGS: Record<LineSpec['footing'], string> = {
  run_up: 'with a run-up',
  standstill: 'standstill',
  unsteady: 'awkward or slippery',
  jump_putt: 'jump putt',
}
