import { expect, it } from 'vitest'
import { bytes, holdsText, when } from './data'

it('says what a file holds', () => {
  const holds = { player: 'Ilse Marrow', discs: 1, bags: 2, own_lines: 0, changed_at: null }
  expect(holdsText(holds)).toBe('Ilse Marrow: 1 disc, 2 bags')
  expect(holdsText({ ...holds, player: '', own_lines: 1 })).toBe('1 disc, 2 bags, 1 line of your own')
})

it('says sizes and moments shortly', () => {
  expect([bytes(10), bytes(81_920), bytes(2_300_000)]).toEqual(['1 kB', '82 kB', '2.3 MB'])
  const now = new Date(2026, 5, 3, 12)
  expect(when(new Date(2026, 5, 3, 9, 5).toISOString(), now)).toBe('09:05')
  expect(when(new Date(2026, 5, 2, 9, 5).toISOString(), now)).toBe('2 Jun 2026, 09:05')
})
