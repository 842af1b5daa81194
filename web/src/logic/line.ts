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

/** What a line of a style usually asks for, where the style leaves no choice or the old values make no sense. */
export function suited(style: Style): Partial<LineSpec> {
  switch (style) {
    case 'putt':
      return {
        slot: 'putter',
        distance_m: 8,
        landing: 'basket',
        footing: 'standstill',
        hyzer_min_deg: -5,
        hyzer_max_deg: 20,
        launch_min_deg: 2,
        launch_max_deg: 20,
        fastest_speed: 3.5,
      }
    case 'thumber':
    case 'tomahawk':
      return {
        landing: 'any',
        footing: 'run_up',
        hyzer_min_deg: -110,
        hyzer_max_deg: -50,
        launch_min_deg: 20,
        launch_max_deg: 55,
        fastest_speed: null,
      }
    default:
      return {
        landing: 'any',
        footing: 'run_up',
        hyzer_min_deg: -10,
        hyzer_max_deg: 25,
        launch_min_deg: 4,
        launch_max_deg: 18,
        fastest_speed: null,
      }
  }
}
