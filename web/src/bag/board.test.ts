import { describe, expect, it } from 'vitest'
import type { Lane } from '@/api/client'
import { across, intoRows, pegFacts } from './board'

describe('board', () => {
  it('left is left', () => {
    expect(across(16, 16)).toBe(0)
    expect(across(0, 16)).toBe(0.5)
    expect(across(-16, 16)).toBe(1)
    expect(across(40, 16)).toBe(0)
  })

  it('prop: no two discs in a row overlap, and none leaves the board', () => {
    const angles = [0.1, 0.12, 0.5, 0.51, 0.9, 0.98, 0.99]
    const placed = intoRows(
      angles.map((a) => [a]),
      600,
      (a) => a,
      () => 90,
    )
    for (const a of placed) {
      expect(a.x).toBeGreaterThanOrEqual(13)
      expect(a.x).toBeLessThanOrEqual(587)
      for (const b of placed) {
        if (a !== b && a.row === b.row) expect(Math.abs(a.x - b.x)).toBeGreaterThan(100)
      }
    }
    expect(Math.max(...placed.map((p) => p.row))).toBeLessThan(4)
  })

  it('keeps twins in neighbouring rows', () => {
    const placed = intoRows(
      [[0.1], [0.12], [0.3, 0.31]],
      600,
      (a) => a,
      () => 150,
    )
    const row = (angle: number) => placed.find((p) => p.item === angle)?.row ?? -1
    expect(row(0.31) - row(0.3)).toBe(1)
  })

  it('tells every peg once, and where no arm wants one', () => {
    const socket = (label: string, left_deg: number, right_deg: number, why_not?: string) => ({
      label,
      meaning: 'goes straight',
      left_deg,
      right_deg,
      why_not: why_not ?? null,
    })
    const lanes = [
      { label: 'mid-ranges', sockets: [socket('Lean', 9.5, 5), socket('Rail', 5, 0)] },
      { label: 'distance', sockets: [socket('Lean', 9.5, 5, 'it comes back too soon')] },
    ] as unknown as Lane[]
    const facts = pegFacts(lanes)
    expect(facts.map((f) => f.label)).toEqual(['Lean', 'Rail'])
    expect(facts[0]?.notWanted).toEqual(['distance: not wanted, it comes back too soon'])
    expect(facts[1]?.degrees).toBe('finishes between 5° left and straight')
  })
})
