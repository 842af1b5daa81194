<script setup lang="ts">
// What is held, and what putting it down would do: under the pointer, or at the foot of the window for keys.
import { computed } from 'vue'
import type { Bag, Board, Preview, SeasonVerdict } from '@/api/client'
import DiscMark from '@/common/DiscMark.vue'
import { comesWords, goesWords, useHeld } from '@/bag/held'
import { useDiscs } from '@/api/useData'

const props = defineProps<{
  preview: Preview | undefined
  board: Board | undefined
  bag: Bag | undefined
  season: SeasonVerdict | undefined
}>()
const held = useHeld()
const discs = useDiscs()
const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? 'a disc'

const words = computed(() => {
  const thing = held.thing
  if (!thing) return []
  if (thing.from === 'bag') return goesWords(thing.id, props.board, props.season)
  return props.preview ? comesWords(props.preview, props.board, props.bag, props.season, name) : []
})
const todo = computed(() => {
  const carries = held.thing?.from === 'shelf'
  if (held.at === null)
    return carries ? 'Enter carries it, Escape puts it back.' : 'Enter benches it, Escape puts it back.'
  if (held.moves) return carries ? 'Let go to carry it.' : 'Let go to bench it.'
  return carries ? 'Drag it onto the board to carry it.' : 'Drag it off the board to bench it.'
})
/** Beside the pointer, on whichever side there is room. */
const place = computed(() => {
  if (!held.at) return undefined
  const { x, y } = held.at
  const right = x > innerWidth / 2
  return {
    [right ? 'right' : 'left']: `${(right ? innerWidth - x : x) + 18}px`,
    [y > innerHeight / 2 ? 'bottom' : 'top']: `${(y > innerHeight / 2 ? innerHeight - y : y) + 18}px`,
  }
})
</script>

<template>
  <div class="visually-hidden" role="status" data-test="held-words">
    {{ held.thing ? `${held.thing.name}. ${words.join(' ')} ${todo}` : '' }}
  </div>
  <div
    v-if="held.thing"
    class="note"
    :class="{ keys: !held.at }"
    :style="place"
    aria-hidden="true"
    data-test="held"
  >
    <b><DiscMark :colour="held.thing.colour" :wear="held.thing.wear" /> {{ held.thing.name }}</b>
    <p v-for="w in words" :key="w">{{ w }}</p>
    <p class="todo">{{ todo }}</p>
  </div>
  <span
    v-if="held.thing && held.at"
    class="under"
    :style="{ left: `${held.at.x}px`, top: `${held.at.y}px` }"
    aria-hidden="true"
    ><DiscMark :colour="held.thing.colour" :wear="held.thing.wear" :size="34"
  /></span>
</template>

<style scoped>
.note,
.under {
  position: fixed;
  z-index: 30;
  pointer-events: none;
}
.note {
  max-width: min(300px, calc(100vw - 24px));
  padding: 8px 12px;
  background: var(--panel);
  border: 2px solid var(--ink);
}
.note.keys {
  left: 50%;
  bottom: 84px;
  transform: translateX(-50%);
}
.note b {
  display: flex;
  gap: 6px;
  align-items: center;
}
.todo {
  margin-top: 2px;
  font-weight: 650;
}
.under {
  transform: translate(-50%, -50%);
}
</style>
