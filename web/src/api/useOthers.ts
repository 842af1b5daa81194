// What other windows changed, told when this one is looked at again.
import { onBeforeUnmount, onMounted } from 'vue'
import { api, type Change, take, WINDOW } from '@/api/client'
import { useRefresh } from '@/api/useData'
import { useNotice } from '@/common/stores/notice'

const LOOKED_BACK = 20
const TOLD = 3

/** Of the latest steps, the latest first, those that another window did or undid since they were seen last. */
export function byOthers(seen: ReadonlyMap<number, string>, now: readonly Change[], mine: string): Change[] {
  const newest = Math.max(0, ...seen.keys())
  return now.filter((c) => c.window !== mine && (seen.has(c.id) ? seen.get(c.id) !== c.state : c.id > newest))
}

/** Such steps in a sentence. */
export function inWords(changes: readonly Change[]): string {
  const told = changes.slice(0, TOLD).map((c) => (c.state === 'undone' ? `undone: ${c.words}` : c.words))
  const further = changes.length > TOLD ? `; and ${changes.length - TOLD} more` : ''
  return `In another window: ${told.join('; ')}${further}`
}

export function useOthers() {
  const notice = useNotice()
  const refresh = useRefresh()
  let seen: Map<number, string> | undefined

  async function look() {
    if (document.visibilityState !== 'visible') return
    try {
      const { changes } = await take(api.GET('/api/changes', { params: { query: { most: LOOKED_BACK } } }))
      const others = seen ? byOthers(seen, changes, WINDOW) : []
      seen = new Map(changes.map((c) => [c.id, c.state]))
      if (others.length === 0) return
      notice.done(inWords(others))
      await refresh()
    } catch {
      // Whoever asks for something is told that the program does not answer.
    }
  }

  onMounted(() => {
    void look()
    window.addEventListener('focus', look)
    document.addEventListener('visibilitychange', look)
  })
  onBeforeUnmount(() => {
    window.removeEventListener('focus', look)
    document.removeEventListener('visibilitychange', look)
  })
}
