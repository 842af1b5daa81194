// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { asProblem, ProblemError, take } from './client'

const response = (status: number) => new Response(null, { status })

describe('take', () => {
  it('gives the data of an answer', async () => {
    expect(await take(Promise.resolve({ data: [1, 2], response: response(200) }))).toEqual([1, 2])
  })

  it('says what the server said, and which field', async () => {
    const error = { title: 'Name taken', status: 409, detail: 'choose another name', field: 'name' }
    const failure = await take(Promise.resolve({ error, response: response(409) })).catch((e: unknown) => e)
    expect(failure).toBeInstanceOf(ProblemError)
    expect((failure as ProblemError).message).toBe('choose another name')
    expect((failure as ProblemError).field).toBe('name')
  })

  it('says what to do when the program does not answer', async () => {
    const failure = await take(Promise.reject(new TypeError('fetch failed'))).catch((e: unknown) => e)
    expect((failure as ProblemError).message).toContain('Check that the program is still running')
  })

  it('lets a request that was given up go quietly', async () => {
    const gone = new DOMException('gone', 'AbortError')
    await expect(take(Promise.reject(gone))).rejects.toBe(gone)
  })
})

it('anything thrown can be shown', () => {
  const known = new ProblemError('choose another name', { field: 'name' })
  expect(asProblem(known)).toBe(known)
  expect(asProblem('torn').message).toBe('torn')
})
