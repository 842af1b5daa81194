// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Bag, Board, Lane, Preview, Puck, SeasonVerdict } from '@/api/client'
import { comesWords, goesWords, type Thing, useHeld } from './held'
import { boardSvg } from './picture'

const puck = (disc_id: number, name: string, part: Partial<Puck> = {}) =>
  ({
    disc_id,
    name,
    colour: '#c04030',
    wear_share: 0,
    used_for: 'throwing',
    spare: false,
    kept_for: [],
    peg: 'rail',
    finish_left_deg: 2,
    swing_left_deg: 0,
    bend: { finish_deg: 2, swing_deg: 0 },
    ...part,
  }) as Puck
const socket = (peg: 'rail' | 'lean', disc_ids: number[]) => ({
  ...{ peg, label: peg === 'rail' ? 'Rail' : 'Lean', meaning: '', wanted: true, why_not: null, disc_ids },
  ...(peg === 'rail' ? { left_deg: 5, right_deg: 0 } : { left_deg: 9.5, right_deg: 5 }),
})
const lane = (
  pucks: Puck[],
  sockets = [
    socket('lean', []),
    socket(
      'rail',
      pucks.map((p) => p.disc_id),
    ),
  ],
) => ({ slot: 'mid_range', label: 'mid-range', pucks, sockets, twins: [] }) as Lane
const board = (pucks: Puck[]) =>
  ({
    conditions: { wind_m_s: 0 },
    ...{ style: 'backhand', edge_deg: 16, arm_m_s: 25, mass_g: 175 },
    lanes: [lane(pucks)],
  }) as unknown as Board
const bag = (n: number, capacity: number) =>
  ({
    capacity,
    carried: Array.from({ length: n }, (_, k) => ({ disc_id: k, spare: false })),
  }) as unknown as Bag
const season = (part: Partial<SeasonVerdict>) =>
  ({ worths: [], beside: [], ...part }) as unknown as SeasonVerdict
const worth = (disc_id: number, missed_strokes: number) => ({ disc_id, missed_strokes })
const name = (id: number) => `disc ${id}`

describe('what is told before a disc is put down', () => {
  const preview = (part: Partial<Preview>) =>
    ({ slot: 'mid_range', puck: puck(7, 'Tansy'), twins: [], ...part }) as Preview

  it('says place, twins, strokes and whether there is room', () => {
    const told = comesWords(
      preview({ twins: [{ disc_id: 1, overlap: 0.914 }] }),
      board([puck(1, 'Lintel')]),
      bag(3, 3),
      season({ beside: [worth(7, 0.12)] as SeasonVerdict['beside'] }),
      name,
    )
    expect(told[0]).toBe('Lies as Rail of the mid-range lane.')
    expect(told[1]).toMatch(/^A twin of disc 1 \(91 %\)\.$/)
    expect(told[2]).toMatch(/^Saves 0\.1\d? strokes a round\.$/)
    expect(told[3]).toBe('The bag is full: that makes 4 of 3.')
  })

  it('tells an empty peg that is filled, and nothing that is not known', () => {
    const fills = comesWords(
      preview({ puck: puck(7, 'Tansy', { peg: 'lean' }) }),
      board([puck(1, 'Lintel')]),
      bag(1, 3),
      undefined,
      name,
    )
    expect(fills).toEqual(['Fills the empty Lean of the mid-range lane.', 'Its strokes are not judged yet.'])
    const putting = preview({ puck: puck(7, 'Dado', { peg: null }) })
    expect(
      comesWords(putting, board([]), bag(1, 3), season({ beside: [worth(7, 0)] as never }), name),
    ).toEqual(['Lies in the mid-range lane, on no peg.', 'Saves nothing.'])
  })

  it('says what is lost with one that goes, and which peg stands empty then', () => {
    const alone = board([puck(1, 'Lintel')])
    expect(goesWords(1, alone, season({ worths: [worth(1, 0.2)] as never }))).toEqual([
      expect.stringMatching(/^Without it you lose 0\.20? strokes a round\.$/),
      'Rail of the mid-range lane stands empty then.',
    ])
    const two = board([puck(1, 'Lintel'), puck(2, 'Mullion')])
    expect(goesWords(1, two, season({ worths: [worth(1, 0)] as never }))).toEqual([
      'Nothing is lost without it.',
    ])
  })
})

describe('a disc that is dragged', () => {
  const thing: Thing = { id: 7, name: 'Tansy', colour: '#c04030', wear: 0, from: 'shelf' }
  const at = (type: string, clientX: number, clientY: number, more = {}) =>
    Object.assign(new Event(type), {
      clientX,
      clientY,
      button: 0,
      pointerType: 'mouse',
      ...more,
    }) as PointerEvent
  beforeEach(() => {
    setActivePinia(createPinia())
    document.body.innerHTML = '<div id="board" data-drop="bag"></div>'
    const boardElement = document.getElementById('board')
    document.elementFromPoint = (x) => (x > 500 ? boardElement : document.body)
  })

  it('prop: moves only where that moves it: onto the board from the shelf, off it from the bag', () => {
    for (const from of ['shelf', 'bag'] as const)
      for (const x of [100, 600]) {
        const held = useHeld()
        const drop = vi.fn()
        held.grab(at('pointerdown', 300, 300), { ...thing, from }, drop)
        expect(held.thing, 'a press is no drag').toBeNull()
        window.dispatchEvent(at('pointermove', x, 300))
        expect(held.thing?.id).toBe(7)
        window.dispatchEvent(at('pointerup', x, 300))
        expect(drop).toHaveBeenCalledTimes((from === 'shelf') === x > 500 ? 1 : 0)
        expect(held.thing).toBeNull()
      }
  })

  it('a finger that moves at once scrolls; one that rests picks it up; Escape and a call put it back', () => {
    vi.useFakeTimers()
    const held = useHeld()
    const drop = vi.fn()
    const touch = { pointerType: 'touch' }
    held.grab(at('pointerdown', 300, 300, touch), thing, drop)
    window.dispatchEvent(at('pointermove', 300, 340, touch))
    vi.advanceTimersByTime(1000)
    expect(held.thing).toBeNull()
    held.grab(at('pointerdown', 300, 300, touch), thing, drop)
    vi.advanceTimersByTime(1000)
    expect(held.thing?.id).toBe(7)
    window.dispatchEvent(Object.assign(new Event('keydown'), { key: 'Escape' }))
    window.dispatchEvent(at('pointerup', 600, 300, touch))
    expect(held.thing).toBeNull()
    held.grab(at('pointerdown', 300, 300), thing, drop)
    window.dispatchEvent(at('pointermove', 600, 300))
    window.dispatchEvent(at('pointercancel', 600, 300))
    expect(held.thing).toBeNull()
    expect(drop).not.toHaveBeenCalled()
    vi.useRealTimers()
  })
})

describe('the board as a drawing', () => {
  it('prop: is well-formed whatever discs are called, with every disc and peg in it', () => {
    const odd = [puck(1, '<b>"&\'</b>'), puck(2, 'Öl & Æther'), puck(3, ']]>')]
    const svg = boardSvg(board(odd), 'A "bag" & <more>', 'metric')
    const read = new DOMParser().parseFromString(svg, 'image/svg+xml')
    expect(read.querySelector('parsererror')).toBeNull()
    const texts = [...read.querySelectorAll('text')].map((t) => t.textContent)
    for (const p of odd) expect(texts).toContain(p.name)
    expect(texts).toContain('A "bag" & <more>')
    expect(texts).toContain('Lean empty')
    expect(svg).not.toMatch(/NaN|undefined/)
  })
})
