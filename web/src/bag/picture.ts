// The board as a drawing that stands alone: the same places, pegs and names as on the screen.
import type { Board, Lane, Puck, Units } from '@/api/client'
import { across, intoRows, PUCK_PX } from '@/bag/board'
import { MARK_EDGE_PX, wearDashes } from '@/common/disc'
import { figure, percent, shown } from '@/common/units'

const WIDTH = 1200
const LABEL_PX = 120
const MARGIN_PX = 20
const HEAD_PX = 24
const ROW_PX = 28
const TITLE_PX = 60
const LETTER_PX = 7.6
const INK = '#14181c'
const SOFT = '#4d565f'
const RULE = '#9aa4ae'

const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

type Attributes = Record<string, string | number>
const tag = (name: string, attributes: Attributes, inside = '') =>
  `<${name}${Object.entries(attributes)
    .map(
      ([key, value]) =>
        ` ${key}="${escaped(typeof value === 'number' ? String(Math.round(value * 100) / 100) : value)}"`,
    )
    .join('')}${inside ? `>${inside}</${name}>` : '/>'}`
const text = (x: number, y: number, words: string, more: Attributes = {}) =>
  tag('text', { x, y, fill: INK, 'font-size': 14, ...more }, escaped(words))

/** A disc as on the screen: its colour, its edge broken by wear. */
function mark(p: Puck, x: number, y: number): string {
  const broken = wearDashes(p.wear_share)
  const dashes: Attributes = broken ? { 'stroke-dasharray': broken } : {}
  const edge = { cx: x, cy: y, r: MARK_EDGE_PX, fill: 'none', stroke: INK, 'stroke-width': 3, ...dashes }
  return tag('circle', { cx: x, cy: y, r: 9.2, fill: p.colour }) + tag('circle', edge)
}

const said = (p: Puck) =>
  [p.name, ...(p.spare ? ['spare'] : []), ...(p.used_for === 'putting' ? ['putting'] : [])].join(', ')

function lane(l: Lane, edgeDeg: number, top: number): { drawn: string; height: number } {
  const left = MARGIN_PX + LABEL_PX
  const width = WIDTH - MARGIN_PX - left
  const placed = intoRows(
    l.pucks.map((p) => [p]),
    width,
    (p) => across(p.finish_left_deg, edgeDeg),
    (p) => 10 + LETTER_PX * said(p).length,
  )
  const rows = Math.max(1, ...placed.map((p) => p.row + 1))
  const height = HEAD_PX + rows * ROW_PX + 6
  const at = (deg: number) => left + PUCK_PX / 2 + across(deg, edgeDeg) * (width - PUCK_PX)
  const sockets = l.sockets.map((s) => {
    const x = s.left_deg >= edgeDeg ? left : at(s.left_deg)
    const end = s.right_deg <= -edgeDeg ? left + width : at(s.right_deg)
    const empty = s.wanted && s.disc_ids.length === 0
    const frame: Attributes = empty
      ? { fill: 'url(#hatch)', stroke: SOFT, 'stroke-width': 2, 'stroke-dasharray': '5 4' }
      : { fill: '#fff', stroke: RULE, 'stroke-width': 1 }
    const head = `${s.label}${empty ? ' empty' : ''}`
    return (
      tag('rect', { x: x + 1, y: top + 1, width: Math.max(0, end - x - 2), height: height - 2, ...frame }) +
      tag('rect', { x: x + 6, y: top + 4, width: 8 + 6.6 * head.length, height: 17, fill: '#fff' }) +
      text(x + 9, top + 17, head, { 'font-size': 12.5, 'font-weight': 600, fill: SOFT })
    )
  })
  const pucks = placed.map(({ item, x, row, flipped }) => {
    const y = top + HEAD_PX + row * ROW_PX + ROW_PX / 2
    const anchor: Attributes = flipped ? { 'text-anchor': 'end' } : {}
    return (
      mark(item, left + x, y) +
      text(left + x + (flipped ? -1 : 1) * (PUCK_PX / 2 + 6), y + 5, said(item), {
        'font-weight': 600,
        stroke: '#fff',
        'stroke-width': 4,
        'paint-order': 'stroke',
        ...anchor,
      })
    )
  })
  const head =
    tag('path', { d: `M${MARGIN_PX} ${top}H${WIDTH - MARGIN_PX}`, stroke: INK, 'stroke-width': 2 }) +
    text(MARGIN_PX, top + 20, l.label.charAt(0).toUpperCase() + l.label.slice(1), {
      'font-weight': 700,
      'font-size': 16,
    }) +
    text(MARGIN_PX, top + 38, `${l.pucks.length} ${l.pucks.length === 1 ? 'disc' : 'discs'}`, { fill: SOFT })
  return { drawn: sockets.join('') + head + pucks.join(''), height }
}

/** The whole board. */
export function boardSvg(board: Board, name: string, units: Units): string {
  let top = TITLE_PX
  const lanes = board.lanes.map((l) => {
    const { drawn, height } = lane(l, board.edge_deg, top)
    top += height
    return drawn
  })
  const twins = board.lanes.flatMap((l) =>
    l.twins.map((t) => {
      const of = (id: number) => l.pucks.find((p) => p.disc_id === id)?.name ?? ''
      return `${of(t.a)} and ${of(t.b)} (${percent(t.overlap)})`
    }),
  )
  const w = board.conditions.wind_m_s
  const wind = w === 0 ? 'calm' : `wind ${shown(units, 'speed', w, 1)}`
  const count = board.lanes.reduce((sum, l) => sum + l.pucks.length, 0)
  const notes = [
    `Where each disc finishes, thrown ${board.style}, flat, at full controlled power; ${wind}; arm ${shown(units, 'speed', board.arm_m_s, 1)}.`,
    ...(twins.length > 0 ? [`Twins: ${twins.join('; ')}.`] : []),
  ]
  const height = top + 16 + 20 * notes.length
  const hatch = tag(
    'pattern',
    { id: 'hatch', width: 9, height: 9, patternUnits: 'userSpaceOnUse', patternTransform: 'rotate(45)' },
    tag('rect', { width: 9, height: 9, fill: '#fff' }) +
      tag('rect', { width: 2, height: 9, fill: '#b9c1c9' }),
  )
  const body = [
    tag('defs', {}, hatch),
    tag('rect', { width: WIDTH, height, fill: '#fff' }),
    text(MARGIN_PX, 30, name, { 'font-size': 22, 'font-weight': 700 }),
    text(MARGIN_PX, 50, `← finishes left`, { fill: SOFT, 'font-size': 12.5 }),
    text(WIDTH - MARGIN_PX, 30, `${count} discs, ${figure(board.mass_g / 1000, 1)} kg`, {
      'text-anchor': 'end',
    }),
    text(WIDTH - MARGIN_PX, 50, 'finishes right →', { fill: SOFT, 'font-size': 12.5, 'text-anchor': 'end' }),
    ...lanes,
    tag('path', { d: `M${MARGIN_PX} ${top}H${WIDTH - MARGIN_PX}`, stroke: INK, 'stroke-width': 2 }),
    ...notes.map((n, k) => text(MARGIN_PX, top + 20 + 20 * k, n, { fill: SOFT })),
  ]
  return tag(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      viewBox: `0 0 ${WIDTH} ${Math.round(height)}`,
      width: WIDTH,
      height: Math.round(height),
      'font-family': 'Atkinson Hyperlegible Next, sans-serif',
    },
    body.join(''),
  )
}
