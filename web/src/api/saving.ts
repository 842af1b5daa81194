// Saving what another window may have changed meanwhile: what does not touch is merged, what does is shown.
import { ref, shallowRef } from 'vue'
import { asProblem, ProblemError } from '@/api/client'
import { fieldLabel } from '@/common/fields'

/** A field that both changed, each its own way. */
export interface Clash {
  field: string
  theirs: unknown
  mine: unknown
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)

/** Three versions as one: what only one side changed is taken from it, what both changed is mine, and told. */
export function merged<S extends object>(base: S, mine: S, theirs: S) {
  const all = { ...mine } as Record<string, unknown>
  const clashes: Clash[] = []
  const taken: string[] = []
  for (const field of new Set([...Object.keys(base), ...Object.keys(mine)])) {
    const [was, my, their] = [base, mine, theirs].map((of) => (of as Record<string, unknown>)[field])
    if (same(was, their) || same(my, their)) continue
    if (same(was, my)) {
      all[field] = their
      taken.push(field)
    } else clashes.push({ field, theirs: their, mine: my })
  }
  return { all: all as S, clashes, taken }
}

/** Only the fields that a form holds. */
function picked<S extends object>(from: object, fields: S): S {
  const part = Object.keys(fields).map((key) => [key, (from as Record<string, unknown>)[key]] as const)
  return Object.fromEntries(part) as S
}

/** How a form saves a thing of which it saw a version. */
export function useSaving<S extends object>(send: (body: S, etag: string) => Promise<void>) {
  const problem = ref<ProblemError | null>(null)
  const clashes = ref<Clash[]>([])
  /** What another window changed and this one keeps, in words; empty if nothing. */
  const kept = ref('')
  const seen = shallowRef<{ base: S; etag: string }>()
  let waiting: { mine: S; theirs: S; etag: string } | undefined

  /** The version that the form shows. */
  function begin(base: S, etag: string) {
    seen.value = { base: JSON.parse(JSON.stringify(base)) as S, etag }
    problem.value = null
    clashes.value = []
    kept.value = ''
    waiting = undefined
  }

  async function attempt(body: S, etag: string): Promise<boolean> {
    problem.value = null
    try {
      await send(body, etag)
      clashes.value = []
      return true
    } catch (error) {
      const now = error instanceof ProblemError ? error.now : undefined
      if (!now || !seen.value) {
        problem.value = asProblem(error)
        return false
      }
      const theirs = picked(now, { ...seen.value.base, ...body })
      const together = merged(seen.value.base, body, theirs)
      const next = { mine: together.all, theirs, etag: now.etag }
      if (together.clashes.length > 0) {
        clashes.value = together.clashes
        waiting = next
        return false
      }
      seen.value = { base: theirs, etag: now.etag }
      const done = await attempt(next.mine, next.etag)
      if (done && together.taken.length > 0)
        kept.value = `; what another window changed is kept: ${together.taken.map(fieldLabel).join(', ')}`
      return done
    }
  }

  /** Saves; false if it could not be, and then `problem` or `clashes` say why. */
  const save = (mine: S) => (seen.value ? attempt(mine, seen.value.etag) : Promise.resolve(false))

  /** Saves after a clash, with mine or theirs where both changed. */
  function settle(whose: 'mine' | 'theirs'): Promise<boolean> {
    if (!waiting || !seen.value) return Promise.resolve(false)
    const { mine, theirs, etag } = waiting
    const fields = whose === 'theirs' ? clashes.value.map((c) => c.field) : []
    const part = fields.map((field) => [field, (theirs as Record<string, unknown>)[field]] as const)
    seen.value = { base: theirs, etag }
    return attempt({ ...mine, ...Object.fromEntries(part) }, etag)
  }

  return { problem, clashes, kept, seen, begin, save, settle }
}
