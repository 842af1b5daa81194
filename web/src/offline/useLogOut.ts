// Logging out: what this browser keeps is forgotten at once, also where the program does not answer and the session can only end later.
import { useQueryClient } from '@tanstack/vue-query'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { forgetKept, isLoggedOutHere, loggedOutHere } from '@/offline/kept'
import { useLater } from '@/offline/later'

/** How long the program may take to end a session, ms; after that it is ended later. */
const PATIENCE_MS = 4000

/** Ends the session in the program; whether that was answered. */
async function endSession(): Promise<boolean> {
  try {
    const signal = AbortSignal.timeout(PATIENCE_MS)
    return (await fetch('/api/session', { method: 'DELETE', signal })).ok
  } catch {
    return false
  }
}

export const useLogOut = defineStore('log-out', () => {
  const client = useQueryClient()
  const later = useLater()
  /** This browser is logged out, whatever the program knows of it. */
  const isOut = ref(isLoggedOutHere())
  /** The program has not been reached yet: its session ends when it answers. */
  const isPending = ref(isLoggedOutHere())
  /** Changes wait to be sent, and the player is asked what becomes of them. */
  const asks = ref(false)

  /** Asks about what waits to be sent, or logs out where nothing does. */
  async function begin() {
    if (later.all.length > 0) asks.value = true
    else await leave()
  }

  /** Forgets everything on this device, then ends the session. */
  async function leave() {
    asks.value = false
    isOut.value = true
    isPending.value = true
    loggedOutHere(true)
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'session' })
    await Promise.all([forgetKept(), later.forget()])
    await end()
  }

  /** Ends a session that is still to be ended. */
  async function end() {
    if (!isPending.value || !(await endSession())) return
    isPending.value = false
    loggedOutHere(false)
  }

  /** The password was given. */
  function entered() {
    isOut.value = false
    isPending.value = false
    loggedOutHere(false)
  }
  return { isOut, isPending, asks, begin, leave, end, entered }
})
