// What just happened, with the way back; and what went wrong.
import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Undo {
  label: string
  run: () => Promise<void>
}

const SHOWN_MS = 9000

export const useNotice = defineStore('notice', () => {
  const message = ref('')
  const isError = ref(false)
  const undoable = ref<Undo[]>([])
  let timer: ReturnType<typeof setTimeout> | undefined

  function show(text: string, error: boolean) {
    clearTimeout(timer)
    message.value = text
    isError.value = error
    // An error stays until it is read.
    if (!error) timer = setTimeout(() => (message.value = ''), SHOWN_MS)
  }

  function done(label: string, undo?: () => Promise<void>) {
    if (undo) undoable.value.push({ label, run: undo })
    show(label, false)
  }

  function failed(error: unknown) {
    show(error instanceof Error ? error.message : String(error), true)
  }

  async function undo() {
    const last = undoable.value.pop()
    if (!last) {
      show('There is nothing to undo.', false)
      return
    }
    try {
      await last.run()
      show(`Undone: ${last.label}`, false)
    } catch (error) {
      failed(error)
    }
  }

  /** Whoever points at it or has come to it by key has the time they need. */
  function hold() {
    clearTimeout(timer)
  }

  function dismiss() {
    message.value = ''
  }

  return { message, isError, undoable, done, failed, undo, hold, dismiss }
})
