import { describe, expect, it } from 'vitest'
import { figure, shown, side, signed, strokes, unit } from './units'

describe('units', () => {
  it('val: a foot is 0.3048 m and a mile per hour 0.44704 m/s, both exactly', () => {
    expect(unit('imperial', 'distance').toSi(1)).toBeCloseTo(0.3048, 12)
    expect(unit('imperial', 'speed').toSi(1)).toBeCloseTo(0.44704, 12)
    expect(unit('imperial', 'temperature').toShown(100)).toBeCloseTo(212, 12)
  })

  it('prop: shown and back is the same', () => {
    for (const units of ['metric', 'imperial'] as const) {
      for (const quantity of ['distance', 'speed', 'temperature', 'mass'] as const) {
        const u = unit(units, quantity)
        expect(u.toSi(u.toShown(12.5))).toBeCloseTo(12.5, 10)
      }
    }
  })

  it('writes true minus signs and no negative zero', () => {
    expect(figure(-3.26, 1)).toBe('−3.3')
    expect(figure(-0.01, 1)).toBe('0.0')
    expect(signed(2, 0)).toBe('+2')
    expect(signed(0, 1)).toBe('0.0')
  })

  it('says left and right', () => {
    expect(side(6, 'metric')).toBe('6 m left')
    expect(side(-3.048, 'imperial')).toBe('10 ft right')
    expect(side(0.1, 'metric')).toBe('on the line')
    expect(shown('imperial', 'distance', 100)).toBe('328 ft')
  })

  it('prop: strokes read as people say them', () => {
    expect(strokes(0.0004)).toBe('under 0.01 strokes')
    expect(strokes(0.034)).toBe('0.03 strokes')
    expect(strokes(9.96)).toBe('10.0 strokes')
  })
})
