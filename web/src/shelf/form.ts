// A dialog's form of a thing that is there, which merges what another window changed, or of a new one.
import { type Ref, ref } from 'vue'
import { asProblem, type ProblemError } from '@/api/client'
import { useSaving } from '@/api/saving'
import { useActions } from '@/api/useData'

/** `put` saves what is there; `add` makes a new one. Both are told of and close the dialog. */
export function useThingForm<S extends { name: string }>(
  open: Ref<boolean>,
  spec: Ref<S>,
  isThere: () => boolean,
  put: (body: S, etag: string) => Promise<void>,
  add: { send: (body: S) => Promise<unknown>; where: string },
) {
  const actions = useActions()
  const problem = ref<ProblemError | null>(null)
  const saving = useSaving<S>(put)

  /** Shows a thing as it was seen, or starting values of a new one. */
  function begin(start: S, etag?: string) {
    problem.value = null
    spec.value = start
    saving.begin(start, etag ?? '')
  }
  function saved(done: boolean) {
    problem.value = saving.problem.value
    if (!done) return
    actions.did(`${spec.value.name} is saved${saving.kept.value}`)
    open.value = false
  }
  const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

  async function save() {
    problem.value = null
    if (isThere()) return saved(await saving.save(spec.value))
    try {
      await add.send(spec.value)
      await actions.refresh()
      actions.did(`${spec.value.name} is ${add.where}`)
      open.value = false
    } catch (error) {
      problem.value = asProblem(error)
    }
  }
  return { problem, clashes: saving.clashes, begin, save, settle }
}
