// A dialog's form of a thing that is there, which merges what another window changed, or of a new one.
import { type Ref, ref } from 'vue'
import { asProblem, type ProblemError } from '@/api/client'
import { useSaving } from '@/api/saving'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
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

  const { guard, close } = useGuarded(open, () => spec.value)

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
    close()
  }
  const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

  const { busy, run: save } = useOnce(async () => {
    problem.value = null
    if (isThere()) return saved(await saving.save(spec.value))
    try {
      await add.send(spec.value)
      close()
      actions.did(`${spec.value.name} is ${add.where}`)
      await actions.refresh()
    } catch (error) {
      problem.value = asProblem(error)
    }
  })
  return { problem, busy, guard, close, clashes: saving.clashes, begin, save, settle }
}
