import { expect, test } from 'vitest'
import type { MonthScatter } from '@/api/client'
import { monthWords, scatterMonthsOption } from '@/field/scatterMonths'

const month = (at: string, found: number): MonthScatter => ({
  month: `${at}-01`,
  throws: 12,
  along_pct: { found, low: 0.8 * found, high: 1.5 * found, free: 9 },
  side_deg: null,
})

test('a month says what is known of it and nothing of what is not', () => {
  expect(monthWords(month('2026-06', 4))).toBe('2026-06: distance 4.0 % (3.2 to 6.0), 12 throws')
})

test('each month is a point with its bar, months without a figure are left out', () => {
  const look = { colour: () => '#000', font: 'serif' }
  const months = [month('2026-05', 5), month('2026-06', 4)]
  const [bars, points] = scatterMonthsOption(months, 'along_pct', look).series as { data: number[][] }[]
  expect(points!.data).toEqual([
    [0, 5],
    [1, 4],
  ])
  expect(
    bars!.data.every(([k, low, high]) => low! < points!.data[k!]![1]! && points!.data[k!]![1]! < high!),
  ).toBe(true)
  const none = scatterMonthsOption(months, 'side_deg', look).series as { data: number[][] }[]
  expect(none[1]!.data).toEqual([])
})
