import { describe, expect, it } from 'vitest'
import { apart } from './range'

describe('labels apart', () => {
  it('keeps their order and a gap', () => {
    expect(apart([10, 0, 12], 8)).toEqual([10, 0, 18])
    expect(apart([5, 5, 5], 4)).toEqual([5, 9, 13])
  })
})
