// Keys that work on every screen.
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { useRouter } from 'vue-router'
import { useActions } from '@/api/useData'
import { GO } from '@/common/pages'
import { useOpenFlag } from '@/common/useOpenThing'

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

/** Listens for single keys, unless they are switched off, something is typed or a dialog is open. */
export function useSingleKeys(onKey: (event: KeyboardEvent) => void) {
  const letters = useLetterKeys()
  useEventListener('keydown', (event) => {
    const isCommand = event.ctrlKey || event.metaKey || event.altKey
    if (letters.value && !isCommand && !isTyping(event.target) && !isDialogOpen()) onKey(event)
  })
}

export function useShortcuts() {
  const router = useRouter()
  const actions = useActions()
  const helpOpen = useOpenFlag('keys')
  let going = false

  function onKey(event: KeyboardEvent) {
    if (going) {
      going = false
      const path = GO.get(event.key)
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

  useSingleKeys(onKey)
  return { helpOpen }
}
