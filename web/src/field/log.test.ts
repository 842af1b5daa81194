// @vitest-environment happy-dom
import { describe, expect, test } from 'vitest'
import type { FieldThrow, ShownSession } from '@/api/client'
import {
  begun,
  changedOf,
  changedThrow,
  drawnOf,
  groupOf,
  heldFrom,
  leftOf,
  logged,
  logOf,
  offOf,
  restOf,
  type ShownThrow,
  windOffAim,
  withWaiting,
} from '@/field/log'
import { laidOver } from '@/offline/later'

const session = { place: 'Reservoir meadow', date: '2026-05-02' }
const it: FieldThrow = { disc_name: 'Purlin', disc_id: 3, style: 'backhand', distance_m: 80, off_deg: 3 }
const shot = { distance_m: 81, level_m: 80.04, height_m: 1, bearing_deg: 350, slope_deg: 1 }

test('only what differs of a throw is sent, what is taken away as nothing', () => {
  const fields = ['distance_m', 'off_deg', 'note', 'tags'] as const
  expect(changedOf({ ...it }, it, fields)).toBeUndefined()
  expect(changedOf({ ...it, note: undefined, disc_name: 'Other' }, it, fields)).toBeUndefined()
  expect(changedOf({ ...it, off_deg: undefined, tags: ['lost'] }, it, fields)).toEqual({
    off_deg: null,
    tags: ['lost'],
  })
})

describe('what waits', () => {
  const first = laidOver(undefined, begun('session1', session), 1)
  const second = laidOver(undefined, logged('session1', 'throw001', it), 2)

  test('a session and its throws are there before the program has them', () => {
    expect(withWaiting([], [first, second])[0]).toMatchObject({ place: 'Reservoir meadow', throws: 1 })
    const log = logOf('session1', undefined, [first, second])
    expect(log?.throws[0]).toMatchObject({ disc_name: 'Purlin', etag: '*' })
    expect(log?.spreads).toBeNull()
    expect(logOf('other', undefined, [first])).toBeUndefined()
  })
  test('a throw that the program has by now is there once', () => {
    const known = {
      ...session,
      key: 'session1',
      etag: '"1"',
      throws: [{ ...it, key: 'throw001', etag: '"2"' }],
      spreads: [],
    } as unknown as ShownSession
    const log = logOf('session1', known, [second])
    expect(log?.throws).toHaveLength(1)
    expect(log?.spreads).toEqual([])
    const changed = laidOver(undefined, changedThrow('session1', log!.throws[0]!, { distance_m: 75 }), 3)
    expect(changed.base).toEqual({ distance_m: 80 })
    expect(logOf('session1', known, [changed])?.throws[0]?.distance_m).toBe(75)
  })
})

describe('where a throw ended', () => {
  test('left of the aim is positive, over north too', () => {
    expect(restOf(shot, 355, 'tee')).toEqual({ distance_m: 80, off_deg: 5 })
    expect(restOf({ ...shot, bearing_deg: 5 }, 355, 'tee').off_deg).toBe(-10)
    expect(restOf(shot, null, 'tee').off_deg).toBeNull()
  })
  test('read from the disc it is the same', () => {
    expect(restOf({ ...shot, bearing_deg: 170 }, 355, 'disc')).toEqual(restOf(shot, 355, 'tee'))
  })
  test('metres to the side and degrees say the same', () => {
    for (const left of [-30, -4, 0, 12]) {
      const off_deg = offOf(80, left)
      expect(leftOf({ distance_m: 80, off_deg })).toBeCloseTo(left, 0)
    }
    expect(offOf(10, 20)).toBeNull()
    expect(leftOf({ distance_m: 80, off_deg: null })).toBeNull()
  })
  test('the meter’s wind is told from the aim', () => {
    expect(windOffAim(250, 215)).toBe(35)
    expect(windOffAim(10, 350)).toBe(20)
    expect(windOffAim(10, null)).toBeNull()
  })
})

test('the next throw begins as the last was made', () => {
  const last = { ...it, meant: 'hyzer', power_pct: 70, key: 'a', etag: '*' } as ShownThrow
  expect(heldFrom(last, 'forehand')).toMatchObject({
    disc_id: 3,
    style: 'backhand',
    meant: 'hyzer',
    power_pct: 70,
  })
  expect(heldFrom(undefined, 'forehand')).toMatchObject({ disc_id: null, style: 'forehand', meant: 'flat' })
  expect(groupOf(last)).not.toBe(groupOf(it))
})

describe('a way that is drawn', () => {
  const way = (...spots: [number, number][]) => spots.map(([x_m, y_m]) => ({ x_m, y_m }))

  test('a tap says where it ended and nothing else', () => {
    expect(drawnOf(way([80, 8], [80.5, 8.2]), false)).toEqual({ rest: { distance_m: 80.9, off_deg: 5.8 } })
  })
  test('a way to the right first swings there, for a disc that turns that way', () => {
    const right = way([0, 0], [30, -5], [60, -7], [85, 4])
    expect(drawnOf(right, false)).toMatchObject({ swing_m: -7, first: 'right' })
    expect(drawnOf(right, true).swing_m).toBe(4)
  })
  test('it is seen the same in a mirror', () => {
    const left = way([0, 0], [30, 5], [60, 7], [85, -4])
    expect(drawnOf(left, true)).toMatchObject({ swing_m: 7, first: 'left', rest: { off_deg: -2.7 } })
    expect(drawnOf(way([0, 0], [40, 0.5], [80, 10]), false).first).toBe('straight')
  })
})
