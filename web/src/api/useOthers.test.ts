// @vitest-environment happy-dom
import { expect, it } from 'vitest'
import type { Change } from './client'
import { byOthers, inWords } from './useOthers'

const change = (id: number, window: string | null, state: Change['state'] = 'done'): Change => ({
  id,
  window,
  state,
  at: '2026-06-03T10:00:00.000Z',
  words: `step ${id}`,
  things: [],
  further: 0,
})

it('tells what others did or undid, never what this window did', () => {
  const seen = new Map([
    [1, 'done'],
    [2, 'done'],
  ])
  const now = [change(4, 'me'), change(3, 'you'), change(2, 'you', 'undone'), change(1, 'you')]
  const others = byOthers(seen, now, 'me')
  expect(others.map((c) => c.id)).toEqual([3, 2])
  expect(inWords(others)).toBe('In another window: step 3; undone: step 2')
})

it('does not tell old steps that were merely not looked at', () => {
  expect(byOthers(new Map([[9, 'done']]), [change(9, 'you'), change(8, 'you')], 'me')).toEqual([])
})

it('tells a few and counts the rest', () => {
  const many = [5, 4, 3, 2, 1].map((id) => change(id, 'you'))
  expect(inWords(many)).toBe('In another window: step 5; step 4; step 3; and 2 more')
})
