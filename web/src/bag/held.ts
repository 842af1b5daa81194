// A disc picked up from the shelf or from the board, by pointer or by key, and what putting it down would do.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Bag, Board, Preview, SeasonVerdict } from '@/api/client'
import { percent, strokes } from '@/common/units'

export interface Thing {
  id: number
  name: string
  colour: string
  wear: number
  from: 'shelf' | 'bag'
}

/** A mouse must move so far, px, before it drags; a finger must rest so long, ms, so that it can still scroll. */
const MOVED_PX = 6
const PRESS_MS = 350
/** So near to the edge of the window it scrolls, px. */
const EDGE_PX = 70

export const useHeld = defineStore('held', () => {
  const thing = shallowRef<Thing | null>(null)
  /** Where the pointer has it; none while it is held by keys. */
  const at = ref<{ x: number; y: number } | null>(null)
  const overBoard = ref(false)
  /** Whether putting it down here moves it: a shelf disc over the board, a carried one anywhere else. */
  const moves = computed(
    () => thing.value !== null && (at.value === null || (thing.value.from === 'shelf') === overBoard.value),
  )

  function letGo() {
    thing.value = null
    at.value = null
    overBoard.value = false
  }

  function hold(next: Thing) {
    letGo()
    thing.value = next
  }

  /** Follows a pointer that was pressed on a disc; `drop` is called if it is put down where that moves it. */
  function grab(event: PointerEvent, next: Thing, drop: (thing: Thing) => void) {
    if (event.button !== 0) return
    const start = { x: event.clientX, y: event.clientY }
    const isTouch = event.pointerType === 'touch'
    const ended = new AbortController()
    const { signal } = ended
    let latest = start

    const follow = () => {
      at.value = latest
      overBoard.value =
        document.elementFromPoint(latest.x, latest.y)?.closest('[data-drop="bag"]') instanceof Element
      if (latest.y > innerHeight - EDGE_PX) scrollBy(0, 14)
      else if (latest.y < EDGE_PX) scrollBy(0, -14)
    }
    const begin = () => {
      thing.value = next
      follow()
    }
    const timer = isTouch ? setTimeout(begin, PRESS_MS) : undefined
    const end = () => {
      clearTimeout(timer)
      ended.abort()
      letGo()
    }
    const isHeld = () => thing.value?.id === next.id && at.value !== null

    addEventListener(
      'pointermove',
      (moved) => {
        latest = { x: moved.clientX, y: moved.clientY }
        const far = Math.hypot(latest.x - start.x, latest.y - start.y) > MOVED_PX
        if (isHeld()) follow()
        else if (isTouch && far) end()
        else if (far) begin()
      },
      { signal },
    )
    addEventListener(
      'pointerup',
      () => {
        const put = isHeld() && moves.value
        if (isHeld()) swallowClick()
        end()
        if (put) drop(next)
      },
      { signal },
    )
    addEventListener('pointercancel', end, { signal })
    // The page must not scroll, nor a menu open, under a finger that holds a disc.
    addEventListener('touchmove', (e) => isHeld() && e.preventDefault(), { signal, passive: false })
    addEventListener('contextmenu', (e) => isTouch && e.preventDefault(), { signal })
    addEventListener(
      'keydown',
      (e) => {
        if (e.key !== 'Escape' || !isHeld()) return
        e.preventDefault()
        end()
      },
      { signal, capture: true },
    )
  }

  return { thing, at, overBoard, moves, hold, grab, letGo }
})

/** The click that a browser makes of the end of a drag is none. */
function swallowClick() {
  const ended = new AbortController()
  addEventListener(
    'click',
    (event) => {
      event.stopPropagation()
      event.preventDefault()
      ended.abort()
    },
    { capture: true, signal: ended.signal },
  )
  setTimeout(() => ended.abort(), 50)
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** What carrying a disc of the shelf would do, in short sentences. */
export function comesWords(
  preview: Preview,
  board: Board | undefined,
  bag: Bag | undefined,
  season: SeasonVerdict | undefined,
  name: (id: number) => string,
): string[] {
  const lane = board?.lanes.find((l) => l.slot === preview.slot)
  const peg = preview.puck.peg
  const socket = lane?.sockets.find((s) => s.peg === peg)
  const empty = socket?.wanted && socket.disc_ids.length === 0
  const lies = peg
    ? `${empty ? 'Fills the empty' : 'Lies as'} ${capital(peg)} of the ${lane?.label ?? ''} lane.`
    : `Lies in the ${lane?.label ?? ''} lane, on no peg.`
  const twins = preview.twins.map((t) => `${name(t.disc_id)} (${percent(t.overlap)})`)
  const worth = season?.beside.find((w) => w.disc_id === preview.puck.disc_id)
  const full = bag !== undefined && bag.carried.length >= bag.capacity
  return [
    lies,
    ...(twins.length > 0 ? [`A twin of ${twins.join(', ')}.`] : []),
    worth
      ? worth.missed_strokes > 0
        ? `Saves ${strokes(worth.missed_strokes)} a round.`
        : 'Saves nothing.'
      : 'Its strokes are not judged yet.',
    ...(full ? [`The bag is full: that makes ${bag.carried.length + 1} of ${bag.capacity}.`] : []),
  ]
}

/** What taking a carried disc out would do, in short sentences. */
export function goesWords(id: number, board: Board | undefined, season: SeasonVerdict | undefined): string[] {
  const worth = season?.worths.find((w) => w.disc_id === id)
  const lane = board?.lanes.find((l) => l.pucks.some((p) => p.disc_id === id))
  const socket = lane?.sockets.find((s) => s.wanted && s.disc_ids.length === 1 && s.disc_ids[0] === id)
  return [
    worth
      ? worth.missed_strokes > 0
        ? `Without it you lose ${strokes(worth.missed_strokes)} a round.`
        : 'Nothing is lost without it.'
      : 'Its strokes are not judged yet.',
    ...(socket && lane ? [`${socket.label} of the ${lane.label} lane stands empty then.`] : []),
  ]
}
