<script setup lang="ts">
// The shelf as a strip under the board: discs that could be carried, those first that would save most. Drag one onto the board,
// or pick it up with the space bar.
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { Bag, SeasonVerdict, ShelfDisc } from '@/api/client'
import DiscMark from '@/common/DiscMark.vue'
import { type Thing, useHeld } from '@/bag/held'
import { useDiscs } from '@/api/useData'
import { SLOTS } from '@/common/disc'
import { figure, LEAST_STROKES } from '@/common/units'
import { useKeepsFocus } from '@/common/useKeepsFocus'
import { useSelection } from '@/common/stores/selection'

const props = defineProps<{ bag: Bag; season: SeasonVerdict | undefined }>()
const emit = defineEmits<{ carry: [thing: Thing] }>()

useKeepsFocus('chip')
const held = useHeld()
const discs = useDiscs()
const selection = useSelection()
const shown = useLocalStorage('zinc-kite-strip', matchMedia('(min-width: 600px)').matches)

const saves = computed(() => new Map(props.season?.beside.map((w) => [w.disc_id, w.missed_strokes] as const)))
const chips = computed(() => {
  const carried = new Set(props.bag.carried.map((c) => c.disc_id))
  const free = (discs.data.value ?? []).filter((d) => d.at_hand && !carried.has(d.id))
  return free.toSorted(
    (a, b) =>
      (saves.value.get(b.id) ?? 0) - (saves.value.get(a.id) ?? 0) ||
      a.printed.speed - b.printed.speed ||
      a.name.localeCompare(b.name),
  )
})
/** More are found on the Shelf screen: a strip of hundreds is no help. */
const MOST = 60
const thing = (d: ShelfDisc): Thing => ({
  id: d.id,
  name: d.name,
  colour: d.colour,
  wear: d.wear_share,
  from: 'shelf',
})
const worth = (id: number) => {
  const x = saves.value.get(id)
  return x === undefined ? '' : x >= LEAST_STROKES ? `saves ${figure(x, 2)}` : ''
}
const words = (d: ShelfDisc) => {
  const x = saves.value.get(d.id)
  const told =
    x === undefined
      ? ''
      : x >= LEAST_STROKES
        ? `, would save ${figure(x, 2)} strokes`
        : ', would save nothing'
  return `${d.name}, ${SLOTS[d.slot]}${told}`
}

function onKey(event: KeyboardEvent, d: ShelfDisc) {
  const chip = event.currentTarget as HTMLElement
  const isHeld = held.thing?.id === d.id
  const next =
    event.key === 'ArrowRight'
      ? chip.nextElementSibling
      : event.key === 'ArrowLeft'
        ? chip.previousElementSibling
        : null
  if (next instanceof HTMLElement) next.focus()
  else if (event.key === ' ' && !isHeld) held.hold(thing(d))
  else if (event.key === 'b' || (isHeld && (event.key === ' ' || event.key === 'Enter'))) {
    held.letGo()
    emit('carry', thing(d))
  } else if (event.key === 'Escape' && isHeld) held.letGo()
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <section class="strip" aria-label="Shelf" data-test="strip">
    <button type="button" class="fold" :aria-expanded="shown" data-test="strip-fold" @click="shown = !shown">
      <b>Shelf</b> <span class="soft">{{ chips.length }}</span>
      <span aria-hidden="true">{{ shown ? '▾' : '▸' }}</span>
    </button>
    <div
      v-if="shown"
      class="chips"
      role="group"
      aria-label="Discs that could be carried"
      aria-describedby="strip-how"
    >
      <button
        v-for="d in chips.slice(0, MOST)"
        :key="d.id"
        type="button"
        class="chip"
        :class="{ held: held.thing?.id === d.id }"
        :data-chip="d.id"
        :title="words(d)"
        @click="selection.discId = d.id"
        @pointerdown="held.grab($event, thing(d), (t) => emit('carry', t))"
        @keydown="onKey($event, d)"
        @blur="held.thing?.id === d.id && held.at === null && held.letGo()"
      >
        <DiscMark :colour="d.colour" :wear="d.wear_share" />
        <span>{{ d.name }}</span>
        <b v-if="worth(d.id)">{{ worth(d.id) }}</b><span class="visually-hidden">, {{ SLOTS[d.slot] }}</span>
      </button>
      <RouterLink v-if="chips.length > MOST" class="more" to="/shelf"
        >{{ chips.length - MOST }} more</RouterLink
      >
      <span v-if="chips.length === 0" class="soft none">Every disc at hand is carried.</span>
    </div>
    <span id="strip-how" class="visually-hidden"
      >Drag one onto the board, or press space to pick it up and Enter to carry it; b carries it at
      once.</span
    >
  </section>
</template>

<style scoped>
.strip {
  position: sticky;
  z-index: 4;
  bottom: 0;
  display: flex;
  align-items: stretch;
  background: var(--ground);
  border-top: 2px solid var(--ink);
}
.fold {
  flex: none;
  width: 92px;
  min-height: 46px;
  padding: 0 2px;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.chips {
  display: flex;
  flex: 1;
  gap: 4px;
  align-items: center;
  min-width: 0;
  padding: 3px;
  overflow-x: auto;
}
.chip {
  /* What is hidden in it stays in it: else it would widen the page. */
  position: relative;
  display: inline-flex;
  flex: none;
  gap: 5px;
  align-items: center;
  min-height: 40px;
  padding: 0 9px 0 5px;
  background: var(--panel);
  border: 1px solid var(--rule);
  color: var(--ink);
  font: inherit;
  font-size: 14px;
  white-space: nowrap;
  cursor: grab;
  user-select: none;
}
.chip.held {
  border: 2px dashed var(--accent);
}
.more,
.none {
  flex: none;
  padding: 10px;
}
@media (max-width: 900px) {
  .strip {
    bottom: 56px;
  }
  .fold {
    width: 74px;
  }
}
</style>
