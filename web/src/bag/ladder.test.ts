import { describe, expect, it } from 'vitest'
import type { Ladder } from '@/api/client'
import { ladderOption } from './ladder'

const ladder: Ladder = {
  style: 'backhand',
  rungs: [
    { disc_id: 1, soft_m: 20, three_quarter_m: 31, full_m: 52 },
    // Into a strong wind the harder throw came down sooner.
    { disc_id: 2, soft_m: 40, three_quarter_m: 70, full_m: 66 },
  ],
  holes: [{ from_m: 52, to_m: 66, words: '' }],
}
interface Option {
  yAxis: { data: string[] }
  series: { data: number[]; markArea?: { data: { xAxis: number }[][] } }[]
}
const option = (units: 'metric' | 'imperial') =>
  ladderOption(ladder, units, (id) => `disc ${id}`, {
    colour: () => '#000',
    font: 'serif',
  }) as unknown as Option

describe('ladder', () => {
  it('prop: bars lie end to end from soft to full, whatever the unit', () => {
    for (const [units, factor] of [
      ['metric', 1],
      ['imperial', 1 / 0.3048],
    ] as const) {
      const [low, mid, high] = option(units).series.map((s) => s.data)
      ladder.rungs.forEach((r, k) => {
        const ends = [low?.[k] ?? 0, mid?.[k] ?? 0, high?.[k] ?? 0]
        expect(ends.every((x) => x >= 0)).toBe(true)
        expect(ends[0]).toBeCloseTo(r.soft_m * factor)
        expect(ends[0]! + ends[1]! + ends[2]!).toBeCloseTo(Math.max(r.three_quarter_m, r.full_m) * factor)
      })
    }
  })

  it('names every disc and draws every hole', () => {
    const found = option('metric')
    expect(found.yAxis.data).toEqual(['disc 1', 'disc 2'])
    expect(found.series[2]?.markArea?.data).toEqual([[{ xAxis: 52 }, { xAxis: 66 }]])
  })
})
