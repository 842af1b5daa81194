// Nothing typed is lost unasked: closing a form, going elsewhere or closing the window asks first while something is not saved.
import { ElMessageBox } from 'element-plus'
import 'element-plus/es/components/message-box/style/css'
import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, type Ref, watch } from 'vue'
import { type RouteLocation, useRouter } from 'vue-router'

async function mayLeave(): Promise<boolean> {
  try {
    await ElMessageBox.confirm('What you typed is not saved.', 'Leave it?', {
      confirmButtonText: 'Leave it',
      cancelButtonText: 'Go on typing',
      closeOnClickModal: false,
    })
    return true
  } catch {
    return false
  }
}

/** Asks before something typed is left by a link, by Back or by closing the window; `leaves` says whether going from one
 *  address to another does that. */
function useAsking(
  unsaved: () => boolean,
  letGo: () => void,
  leaves: (to: RouteLocation, from: RouteLocation) => boolean,
) {
  const router = useRouter()
  const off = router.beforeEach(async (to, from) => {
    if (!unsaved() || !leaves(to, from)) return true
    if (!(await mayLeave())) return false
    letGo()
    return true
  })
  onBeforeUnmount(off)
  useEventListener(window, 'beforeunload', (event) => {
    if (unsaved()) event.preventDefault()
  })
}

/** Asks before a screen is left on which something is `unsaved`. */
export function useUnsaved(unsaved: () => boolean) {
  useAsking(
    unsaved,
    () => undefined,
    (to, from) => to.path !== from.path,
  )
}

/** Asks before a dialog with a form of a `value` is closed. `guard` is what the dialog asks before it closes; `close` closes it
 *  unasked, when it is saved or left on purpose. */
export function useGuarded(open: Ref<boolean>, value: () => unknown) {
  let start: string | undefined
  const now = () => JSON.stringify(value())
  watch(
    () => open.value && value() !== undefined,
    (shown) => (start = shown ? now() : undefined),
    { immediate: true, flush: 'post' },
  )
  const unsaved = () => open.value && start !== undefined && now() !== start
  const letGo = () => (start = undefined)
  // What is open is in the address: an address that names less closes something.
  useAsking(
    unsaved,
    letGo,
    (to, from) => to.path !== from.path || Object.keys(from.query).some((key) => !(key in to.query)),
  )
  const close = () => {
    letGo()
    open.value = false
  }
  const guard = async (done: () => void) => {
    if (unsaved() && !(await mayLeave())) return
    letGo()
    done()
  }
  return { guard, close }
}
