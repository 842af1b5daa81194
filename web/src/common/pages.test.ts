import { describe, expect, it } from 'vitest'
import { GO, PAGES } from '@/common/pages'

describe('the screens', () => {
  it('regress: every screen has a key of its own, and it leads there', () => {
    expect(GO.size).toBe(PAGES.length)
    for (const page of PAGES) {
      expect(page.key).toMatch(/^g [a-z]$/)
      expect(GO.get(page.key.slice(2))).toBe(page.path)
    }
  })
})
