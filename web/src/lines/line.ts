// Words for the values of a line.
import type { Ground, LineSpec, Slot, Standing, Style, WeatherKind } from '@/api/client'
import { SLOTS } from '@/common/disc'

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
  roll: 'rolls on its edge',
  basket: 'in the basket',
}
export const FOOTINGS: Record<LineSpec['footing'], string> = {
  run_up: 'with a run-up',
  standstill: 'standstill',
  unsteady: 'awkward or slippery',
  jump_putt: 'jump putt',
}
export const WEATHERS: Record<WeatherKind, string> = {
  calm: 'calm',
  ahead: 'headwind',
  behind: 'tailwind',
  left: 'from the left',
  right: 'from the right',
  wet: 'rain',
}
/** Where the wind comes from, as a mark; calm and rain have their own. */
export const WEATHER_MARKS: Record<WeatherKind, string> = {
  calm: '○',
  ahead: '↓',
  behind: '↑',
  left: '→',
  right: '←',
  wet: '☂',
}
export const STANDINGS: Record<Standing, string> = {
  made: 'Made',
  thin: 'Thin',
  gap: 'Gap',
  beyond_arm: 'Beyond this arm',
  off: 'Off',
}

/** Lines in the order in which players think of them: pegs by slot, special shots, their own. */
export function inGroups<T extends { line: { key: string; slot: Slot; generated: boolean } }>(
  lines: readonly T[],
) {
  const peg = /-(hook|lean|rail|drift|slide)$/
  const groups: { label: string; lines: T[] }[] = []
  const put = (label: string, line: T) => {
    const group = groups.find((g) => g.label === label)
    if (group) group.lines.push(line)
    else groups.push({ label, lines: [line] })
  }
  const order = Object.keys(SLOTS)
  const sorted = lines.toSorted((a, b) => order.indexOf(a.line.slot) - order.indexOf(b.line.slot))
  const rest = (own: boolean) =>
    lines.filter((l) => !peg.test(l.line.key) && l.line.key.startsWith('own-') === own)
  for (const line of sorted) if (peg.test(line.line.key)) put(SLOTS[line.line.slot], line)
  for (const line of rest(false)) put('Special shots', line)
  for (const line of rest(true)) put('Your own lines', line)
  return groups
}
