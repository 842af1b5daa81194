import { describe, expect, it } from 'vitest'
import { inGroups } from './line'

const line = (key: string, slot: 'putter' | 'mid_range' | 'fairway', generated = true) => ({
  line: { key, slot, generated },
})

describe('groups of lines', () => {
  it('prop: pegs come by slot, then special shots, then own lines, none lost', () => {
    const lines = [
      line('own-3', 'putter', false),
      line('fairway-hook', 'fairway'),
      line('flex', 'fairway'),
      line('putter-rail', 'putter', false),
      line('mid-range-slide', 'mid_range'),
      line('circle-putt', 'putter'),
    ]
    const groups = inGroups(lines)
    expect(groups.map((g) => g.lines.map((l) => l.line.key))).toEqual([
      ['putter-rail'],
      ['mid-range-slide'],
      ['fairway-hook'],
      ['flex', 'circle-putt'],
      ['own-3'],
    ])
    expect(groups.flatMap((g) => g.lines)).toHaveLength(lines.length)
  })

  it('prop: no lines make no groups', () => {
    expect(inGroups([])).toEqual([])
  })
})
