import { describe, expect, it } from 'vitest'
import type { SeasonVerdict } from '@/api/client'
import { GRADES, jobOfEach, newDisc, numbersText, SLOTS, TOPS, USES, worthOfEach } from './disc'

describe('numbers of a disc', () => {
  it('stand in the order they are printed, with a true minus sign', () => {
    expect(numbersText({ speed: 9, glide: 5, turn: -1, fade: 2 })).toBe('9 / 5 / −1 / 2')
    expect(numbersText({ speed: 4, glide: 4, turn: -0.5, fade: 1.5 })).toBe('4 / 4 / −0.5 / 1.5')
  })
})

describe('a new disc', () => {
  it('is fresh, ordinary and without a name', () => {
    const disc = newDisc()
    expect(disc.name).toBe('')
    expect(disc.wear.grade).toBe('fresh')
    expect(disc.printed.speed).toBe(5)
  })

  it('is another one each time', () => {
    const one = newDisc()
    one.printed.speed = 14
    expect(newDisc().printed.speed).toBe(5)
  })
})

it('every value has a word', () => {
  for (const words of [GRADES, TOPS, USES, SLOTS]) {
    for (const word of Object.values(words)) expect(word).not.toBe('')
  }
})

describe('the worth of each disc', () => {
  it('is that of the carried ones and of those beside them, and nothing before there is a season', () => {
    const season = {
      worths: [{ disc_id: 1, short: 'Reach' }],
      beside: [{ disc_id: 2, short: 'Over the cap' }],
    }
    const each = worthOfEach(season as unknown as SeasonVerdict)
    expect([1, 2, 3].map((id) => each.get(id)?.short)).toEqual(['Reach', 'Over the cap', undefined])
    expect([...jobOfEach(season as unknown as SeasonVerdict).values()]).toEqual(['Reach', 'Over the cap'])
    expect(worthOfEach(undefined).size).toBe(0)
  })
})
