// Keys that work on every screen.
import { useLocalStorage } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useActions } from '@/api/useData'

export const GO: Record<string, string> = {
  b: '/',
  l: '/lines',
  s: '/shelf',
  r: '/range',
  p: '/player',
  d: '/data',
  w: '/walk',
}

export const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
      !/^(range|checkbox|radio|file)$/.test((target as HTMLInputElement).type)))

/** Behind a dialog no key does anything. */
export const isDialogOpen = () =>
  [...document.querySelectorAll<HTMLElement>('[role="dialog"][aria-modal="true"]')].some(
    (dialog) => dialog.offsetParent !== null || dialog.getClientRects().length > 0,
  )

/** Whether single keys do something: whoever speaks to the machine, or slips, can switch them off (WCAG 2.1.4). */
export const useLetterKeys = () => useLocalStorage('zinc-kite-letter-keys', true)

export function useShortcuts() {
  const letters = useLetterKeys()
  const router = useRouter()
  const actions = useActions()
  const helpOpen = ref(false)
  let going = false

  function onKey(event: KeyboardEvent) {
    if (
      !letters.value ||
      isTyping(event.target) ||
      isDialogOpen() ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey
    )
      return
    if (going) {
      going = false
      const path = GO[event.key]
      if (path) {
        event.preventDefault()
        void router.push(path)
      }
      return
    }
    if (event.key === 'g') going = true
    else if (event.key === 'z') void actions.undo()
    else if (event.key === 'Z') void actions.redo()
    else if (event.key === '?') helpOpen.value = true
    else if (event.key === '/') {
      event.preventDefault()
      void router.push({ path: '/shelf', query: { find: '1' } })
    }
  }

  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
  return { helpOpen }
}
