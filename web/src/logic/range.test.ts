import { describe, expect, it } from 'vitest'
import type { Conditions, RangeThrow } from '@/api/client'
import { apart, changed, DIALS } from './range'

const calm: Conditions = {
  wind_m_s: 0,
  wind_from_deg: 0,
  gust_m_s: 0,
  power: 1,
  temperature_c: null,
  altitude_m: null,
  humidity: 0.5,
  wet: false,
}
const base: RangeThrow = {
  name: '',
  disc: { kind: 'shelf', disc_id: 1 },
  setting: {
    style: 'backhand',
    power: 1,
    launch_deg: 11,
    nose_deg: -3,
    hyzer_deg: 0,
    aim_deg: 0,
    spin: 1,
  },
}

describe('one thing changed', () => {
  it('changes it in even steps about the throw and nothing else', () => {
    const five = changed(base, 'hyzer_deg', calm)
    expect(five.map((t) => t.setting.hyzer_deg)).toEqual([-10, -5, 0, 5, 10])
    for (const t of five) expect({ ...t.setting, hyzer_deg: 0 }).toEqual(base.setting)
  })
  it('stays within the limits of the dial', () => {
    for (const dial of DIALS) {
      const high = { ...base, setting: { ...base.setting, [dial.key]: dial.max } }
      const values = changed(high, dial.key, calm).map((t) => t.setting[dial.key])
      expect(Math.max(...values)).toBeLessThanOrEqual(dial.max + 1e-9)
      expect(new Set(values).size).toBe(5)
    }
  })
  it('turns a headwind into a tailwind and leaves the cross wind', () => {
    const day = { ...calm, wind_m_s: 5, wind_from_deg: 90 }
    const five = changed(base, 'wind', day).map((t) => t.setting.conditions ?? calm)
    const left = five.map((c) => c.wind_m_s * Math.sin((c.wind_from_deg * Math.PI) / 180))
    for (const x of left) expect(x).toBeCloseTo(5, 2)
    const tail = five.map((c) => -c.wind_m_s * Math.cos((c.wind_from_deg * Math.PI) / 180))
    const wanted = [-6, -3, 0, 3, 6]
    tail.forEach((x, k) => expect(x).toBeCloseTo(wanted[k] ?? 0, 2))
  })
})

describe('labels apart', () => {
  it('keeps their order and a gap', () => {
    expect(apart([10, 0, 12], 8)).toEqual([10, 0, 18])
    expect(apart([5, 5, 5], 4)).toEqual([5, 9, 13])
  })
})
