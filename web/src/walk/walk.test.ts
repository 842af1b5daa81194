import { describe, expect, it } from 'vitest'
import type { SeasonVerdict, WalkLane } from '@/api/client'
import { addressOf, open, PATHS, ranked, short, stepAt, type StepKey } from './walk'

const peg = (label: string, wanted: boolean, disc_ids: number[]) => ({
  peg: label.toLowerCase() as WalkLane['pegs'][number]['peg'],
  label,
  meaning: '',
  wanted,
  why_not: null,
  line_key: `x-${label}`,
  disc_ids,
})
const lane = (part: Partial<WalkLane>): WalkLane => ({
  step: 'mid_ranges',
  label: 'Mid-ranges',
  question: '',
  slot: 'mid_range',
  pegs: [],
  here: [],
  shelf: [],
  line_keys: [],
  ...part,
})
const season = (part: object) => part as unknown as SeasonVerdict

describe('walk', () => {
  it('prop: every step has an address of its own', () => {
    const steps = Object.keys(PATHS) as StepKey[]
    for (const step of steps) expect(stepAt(addressOf(step).replace('/walk/', ''))).toBe(step)
    expect(new Set(Object.values(PATHS)).size).toBe(steps.length)
    expect(stepAt('nowhere')).toBe('thrower')
  })

  it('prop: what saves most stands first, and the order of the server stays until that is known', () => {
    const discs = [1, 2, 3].map((disc_id) => ({ disc_id, peg: null, fills: disc_id === 1, objections: [] }))
    const one = lane({ shelf: discs })
    expect(ranked(one, undefined).map((d) => d.id)).toEqual([1, 2, 3])
    const beside = [
      { disc_id: 3, missed_strokes: 0.4, words: 'much' },
      { disc_id: 1, missed_strokes: 0, words: 'none' },
      { disc_id: 2, missed_strokes: 0.1, words: 'some' },
    ]
    const known = ranked(one, season({ beside }))
    expect(known.map((d) => d.id)).toEqual([3, 2, 1])
    expect(known[0]?.words).toBe('much')
    const refused = discs.map((d) =>
      d.disc_id === 3 ? { ...d, objections: [{ words: 'too fast', firm: true }] } : d,
    )
    const offered = ranked(lane({ shelf: refused }), season({ beside })).map((d) => d.id)
    expect(offered, 'what the school would not carry stands last').toEqual([2, 1, 3])
  })

  it('prop: only lines of the lane that are not made are open, the dearest first', () => {
    const lines = [
      { key: 'a', standing: 'gap', leaves_strokes: 0.1 },
      { key: 'b', standing: 'thin', leaves_strokes: 0.3 },
      { key: 'c', standing: 'made', leaves_strokes: 0.9 },
      { key: 'd', standing: 'gap', leaves_strokes: 0.8 },
    ]
    const found = open(lane({ line_keys: ['a', 'b', 'c'] }), season({ lines }))
    expect(found.map((l) => l.key)).toEqual(['b', 'a'])
    expect(open(lane({}), undefined)).toEqual([])
  })

  it('says what a lane is short of', () => {
    const pegs = [peg('Hook', false, []), peg('Lean', true, [1]), peg('Rail', true, [])]
    const here = [{ disc_id: 1, peg: 'lean' as const, fills: false, objections: [] }]
    expect(short(lane({ pegs, here }))).toBe('no Rail')
    expect(short(lane({ pegs: pegs.slice(0, 2), here }))).toBe('covered')
    expect(short(lane({ pegs }))).toBe('nothing yet')
    const finding = (check: 'wind' | 'handed_down', ok: boolean) => ({
      check,
      label: 'One for wind',
      ok,
      words: '',
      disc_ids: [],
    })
    const set = lane({ step: 'putting_set', here })
    expect(short(set, { asks: '', discs: [], findings: [finding('wind', false)] })).toBe(
      'missing: one for wind',
    )
    expect(short(set, { asks: '', discs: [], findings: [finding('handed_down', false)] })).toBe(
      'one is worn out',
    )
    expect(short(set, { asks: '', discs: [], findings: [finding('wind', true)] })).toBe('covered')
  })
})
