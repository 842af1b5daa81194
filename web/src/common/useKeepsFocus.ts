// A list that is put in another order moves its elements, and an element that is moved loses the focus: it gets it back.
import { onBeforeUpdate, onUpdated } from 'vue'

/** `attribute` is the data attribute that tells the elements apart. */
export function useKeepsFocus(attribute: string) {
  let had: string | undefined
  onBeforeUpdate(() => {
    const active = document.activeElement
    had = active instanceof HTMLElement ? active.dataset[attribute] : undefined
  })
  onUpdated(() => {
    if (had === undefined || document.activeElement !== document.body) return
    document.querySelector<HTMLElement>(`[data-${attribute}="${had}"]`)?.focus({ preventScroll: true })
  })
}
