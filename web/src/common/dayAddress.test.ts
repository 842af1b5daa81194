import { describe, expect, it } from 'vitest'
import type { Conditions } from '@/api/client'
import { USUAL } from '@/common/stores/day'
import { dayFromQuery, dayToQuery, withDay } from './dayAddress'

const DAYS: readonly Conditions[] = [
  USUAL,
  { ...USUAL, wind_m_s: 6.5, wind_from_deg: 225, gust_m_s: 2 },
  { ...USUAL, power: 0.93, temperature_c: -4, altitude_m: 1800, humidity: 0.85, wet: true },
  { ...USUAL, wind_m_s: 4, temperature_c: 3.3, altitude_m: 0 },
]

describe('the day in the address', () => {
  it('prop: what is written is read again', () => {
    for (const day of DAYS) expect(dayFromQuery(dayToQuery(day))).toEqual(day)
  })

  it('says nothing of the usual day, and nothing of where no wind comes from', () => {
    expect(dayToQuery(USUAL)).toEqual({})
    expect(dayToQuery({ ...USUAL, wind_from_deg: 90 })).toEqual({})
  })

  it.each([
    [{ wind: '99' }],
    [{ wind: 'strong' }],
    [{ wind: '' }],
    [{ wind: ['1', '2'] }],
    [{ arm: '1e9', humidity: '-1', altitude: 'NaN', from: '720' }],
    [{ gusts: null, wet: 'yes' }],
  ])('prop: %j is left out', (query) => {
    expect(dayFromQuery(query)).toEqual(USUAL)
  })

  it('leaves what else the address says, and takes an older wind away', () => {
    const before = { disc: '7', wind: '5', from: '90' }
    expect(withDay(before, { ...USUAL, gust_m_s: 1 })).toEqual({ disc: '7', gusts: '1' })
  })
})
