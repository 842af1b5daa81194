// @vitest-environment happy-dom
import { expect, it } from 'vitest'
import { ProblemError } from '@/api/client'
import { emptyOnes, fieldLabel, fieldValue, inWords, setBack } from './fields'

it('names fields without their units', () => {
  expect(fieldLabel('event_cap_g')).toBe('event cap')
  expect(fieldLabel('along_m_s')).toBe('along')
  expect(fieldLabel('strong_style')).toBe('strong style')
})

it('gives values in the player’s units', () => {
  expect(fieldValue('metric', 'backhand_m', 104)).toBe('104 m')
  expect(fieldValue('imperial', 'backhand_m', 100)).toBe('328.1 ft')
  expect(fieldValue('imperial', 'mass_g', 173.5)).toBe('173.5 g')
  expect(fieldValue('metric', 'along_m_s', -4)).toBe('−4 m/s')
  expect(fieldValue('metric', 'hyzer_min_deg', -8)).toBe('−8°')
  expect(fieldValue('metric', 'event_cap_g', null)).toBe('nothing')
  expect(fieldValue('metric', 'grade', 'broken_in')).toBe('broken in')
  expect(fieldValue('metric', 'gates', [{}, {}])).toBe('2 entries')
  expect(fieldValue('metric', 'wear', { grade: 'beat', hard_hits: 3 })).toBe('grade beat, hard hits 3')
})

it('tells a range in the player’s units', () => {
  const said = (field: string, least: number, most: number, got: number | null) =>
    inWords('imperial', new ProblemError('in SI', { field, range: { least, most, got } }))
  expect(said('backhand_m', 20, 200, 300)).toBe(
    'backhand must be from 65.6 ft to 656.2 ft; you gave 984.3 ft. Correct it and save again.',
  )
  expect(said('gate at_m', 1, 80, null)).toContain('gate at must be from 3.3 ft')
  expect(inWords('metric', new ProblemError('choose another name', { field: 'name' }))).toBe(
    'choose another name',
  )
})

it('names every empty field at once', () => {
  expect(emptyOnes([])).toBe('')
  expect(emptyOnes(['Name'])).toBe('Name is still empty: fill it in and save again.')
  expect(emptyOnes(['Name', 'Maker', 'Mould'])).toBe(
    'Name, maker and mould are still empty: fill them in and save again.',
  )
})

it.each([
  ['20', 'Speed: 20 is more than 15, the most it takes; it is set to 15.'],
  ['-1', 'Speed: -1 is less than 0.5, the least it takes; it is set to 0.5.'],
  ['15', ''],
  ['', ''],
  ['fast', ''],
])('says what becomes of a speed of %s', (typed, said) => {
  expect(setBack('Speed', typed, 0.5, 15)).toBe(said)
})
