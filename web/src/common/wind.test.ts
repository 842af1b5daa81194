import { describe, expect, it } from 'vitest'
import { pointedAt, turned, windFrom } from './wind'

describe('wind', () => {
  it.each([
    [0, 'from straight ahead'],
    [22, 'from straight ahead'],
    [23, 'from ahead right'],
    [90, 'from the right'],
    [-90, 'from the left'],
    [350, 'from straight ahead'],
    [540, 'from behind'],
  ])('%d° is %s', (deg, words) => {
    expect(windFrom(deg)).toBe(words)
  })
  it('reads a dial clockwise from the top', () => {
    expect(pointedAt(0, 1, 5)).toBe(0)
    expect(pointedAt(1, 0, 5)).toBe(90)
    expect(pointedAt(-1, 0, 5)).toBe(270)
    expect(pointedAt(1, 1.1, 15)).toBe(45)
  })
  it('keeps directions within a turn', () => {
    expect(turned(-15)).toBe(345)
    expect(turned(360)).toBe(0)
  })
})
