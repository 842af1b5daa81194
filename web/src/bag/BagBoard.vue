<script setup lang="ts">
// The board with its tools and the shelf strip: every carried disc where it finishes; discs are dragged in and out.
import { computed, nextTick, ref, watch } from 'vue'
import type { Bag, Puck, SeasonVerdict } from '@/api/client'
import BoardLane from '@/bag/BoardLane.vue'
import BoardTools from '@/bag/BoardTools.vue'
import HeldNote from '@/bag/HeldNote.vue'
import ShelfStrip from '@/bag/ShelfStrip.vue'
import { useActions, useBoard, useGhosts, usePreview, useUnits } from '@/api/useData'
import { pegFacts } from '@/bag/board'
import { type Thing, useHeld } from '@/bag/held'
import { jobOfEach } from '@/common/disc'
import { shown } from '@/common/units'
import { useDay } from '@/common/stores/day'
import { useInQuery } from '@/common/useInQuery'
import { useSelection } from '@/common/stores/selection'

const props = defineProps<{
  bag: Bag | undefined
  season: SeasonVerdict | undefined
  strong: 'backhand' | 'forehand'
}>()

const day = useDay()
const units = useUnits()
const actions = useActions()
const selection = useSelection()
const held = useHeld()
const chosen = useInQuery('style', ['strong', 'backhand', 'forehand'])
const style = computed({
  get: () => (chosen.value === 'strong' ? props.strong : chosen.value),
  set: (value) => (chosen.value = value === props.strong ? 'strong' : value),
})
const ghost = useInQuery('also', ['none', 'ahead', 'behind', 'worn'])
/** Without a style named it is the board that the rest of the page asks for. */
const board = useBoard(
  () => day.conditions,
  () => (chosen.value === 'strong' ? undefined : chosen.value),
)
const ghosts = useGhosts(
  () => day.conditions,
  style,
  () => ghost.value !== 'none',
)
const coming = computed(() => (held.thing?.from === 'shelf' ? held.thing.id : null))
const preview = usePreview(coming, () => day.conditions, style)
const comes = computed(() =>
  preview.data.value?.puck.disc_id === coming.value ? preview.data.value : undefined,
)
const sitting = computed(() => {
  const set = ghosts.data.value?.find((g) => g.kind === ghost.value)
  return new Map(set?.discs.map((g) => [g.disc_id, g] as const))
})

const pegs = computed(() => pegFacts(board.data.value?.lanes ?? []))

/** Discs that are never the one to throw. */
const idle = computed(
  () => new Set((props.season?.worths ?? []).filter((w) => !w.short).map((w) => w.disc_id)),
)
/** Where rings and lines go, there is no room for more words. One that the event forbids is told beside the others. */
const jobs = computed(() => jobOfEach(ghost.value === 'none' ? props.season : undefined))
const state = (slot: string) => props.season?.slots.find((s) => s.slot === slot)
const focused = ref<number | null>(null)

/** A disc that was moved keeps the focus, wherever it lies then. */
const toFocus = ref<string | null>(null)
watch([board.data, () => props.bag], async () => {
  if (!toFocus.value) return
  await nextTick()
  const there = document.querySelector<HTMLElement>(toFocus.value)
  if (!there) return
  there.focus()
  toFocus.value = null
})
function carry(thing: Thing) {
  toFocus.value = `[data-disc="${thing.id}"]`
  void actions.carry(thing)
}
function bench(thing: Thing) {
  toFocus.value = `[data-chip="${thing.id}"]`
  void actions.bench(thing)
}
const thing = (p: Puck): Thing => ({
  id: p.disc_id,
  name: p.name,
  colour: p.colour,
  wear: p.wear_share,
  from: 'bag',
})

/** Arrows walk over the discs as they lie: left and right along a lane, up and down between lanes. */
function onKey(event: KeyboardEvent) {
  const lanes = (board.data.value?.lanes ?? []).filter((l) => l.pucks.length > 0)
  const at = lanes.findIndex((l) => l.pucks.some((p) => p.disc_id === focused.value))
  const lane = lanes[at]
  const puck = lane?.pucks.findIndex((p) => p.disc_id === focused.value) ?? -1
  const here = lane?.pucks[puck]
  if (!lane || !here || !(event.target as HTMLElement).matches('.puck')) return
  const isHeld = held.thing?.id === here.disc_id
  let next
  if (event.key === 'b' || (isHeld && (event.key === ' ' || event.key === 'Enter'))) {
    held.letGo()
    bench(thing(here))
  } else if (event.key === ' ') held.hold(thing(here))
  else if (event.key === 'Escape' && isHeld) held.letGo()
  else if (event.key === 'ArrowLeft') next = lane.pucks[puck - 1]
  else if (event.key === 'ArrowRight') next = lane.pucks[puck + 1]
  else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    const other = lanes[at + (event.key === 'ArrowUp' ? -1 : 1)]
    const distance = (deg: number) => Math.abs(deg - here.finish_left_deg)
    next = other?.pucks.toSorted((a, b) => distance(a.finish_left_deg) - distance(b.finish_left_deg))[0]
  } else return
  event.preventDefault()
  event.stopPropagation()
  if (next) document.querySelector<HTMLElement>(`[data-disc="${next.disc_id}"]`)?.focus()
}
function onBlur() {
  if (held.thing?.from === 'bag' && held.at === null) held.letGo()
}
</script>

<template>
  <section class="board" aria-label="Board" data-test="board" @keydown="onKey" @focusout="onBlur">
    <div class="above">
      <BoardTools
        v-if="board.data.value"
        v-model:throws="style"
        v-model:ghost="ghost"
        :board="board.data.value"
        :name="bag?.name ?? 'Bag'"
        :kinds="ghosts.data.value ?? []"
      />
      <p v-if="board.data.value" class="how soft">
        flat, full controlled power; arm {{ shown(units, 'speed', board.data.value.arm_m_s, 1) }}
      </p>
    </div>
    <p class="scale soft" aria-hidden="true">
      <span>← finishes left</span>
      <span>finishes right →</span>
    </p>
    <div v-if="board.data.value" class="lanes" :class="{ target: held.thing && held.moves }" data-drop="bag">
      <BoardLane
        v-for="lane in board.data.value.lanes"
        :key="lane.slot"
        :lane="lane"
        :edge-deg="board.data.value.edge_deg"
        :idle="idle"
        :jobs="jobs"
        :state="state(lane.slot)"
        :selected="selection.discId"
        :ghosts="sitting"
        :coming="comes?.slot === lane.slot ? comes.puck : undefined"
        @open="selection.discId = $event"
        @focus="focused = $event"
        @grab="(event, p) => held.grab(event, thing(p), bench)"
      />
    </div>
    <p class="legend soft">
      Broken edge: worn. Hatched: an empty peg this slot wants. Bracket: twins. Line under a disc: how far it
      swings the other way first; “as Drift”: far enough to count there.<template v-if="ghost !== 'none'">
        Ring at the end of a dashed line: where the disc finishes then.</template
      >
      Drag a disc off the board, or press space on it, to bench it.
    </p>
    <details v-if="board.data.value" class="pegs" data-test="pegs">
      <summary>What the pegs are, and which this arm wants</summary>
      <dl>
        <template v-for="p in pegs" :key="p.label">
          <dt>{{ p.label }}</dt>
          <dd>
            {{ p.meaning }}; {{ p.degrees }}
            <template v-for="n in p.notWanted" :key="n">
              <br /><span class="soft">{{ n }}</span></template
            >
          </dd>
        </template>
      </dl>
    </details>
    <ShelfStrip v-if="bag" :bag="bag" :season="season" @carry="carry" />
    <HeldNote :preview="comes" :board="board.data.value" :bag="bag" :season="season" />
  </section>
</template>

<style scoped>
.above {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}
.how {
  font-size: 13px;
}
.scale {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 0 0 2px 92px;
  font-size: 13px;
}
.lanes.target {
  outline: 3px dashed var(--accent);
  outline-offset: 2px;
}
.legend {
  padding: 6px 0 8px 92px;
  font-size: 13px;
  border-top: 2px solid var(--ink);
}
.pegs {
  padding: 0 0 8px 92px;
  font-size: 14px;
}
.pegs summary {
  min-height: 32px;
  cursor: pointer;
}
.pegs dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
  margin: 4px 0 0;
}
.pegs dt {
  font-weight: 650;
}
.pegs dd {
  margin: 0;
}
@media (max-width: 600px) {
  .pegs {
    padding-left: 0;
  }
  .scale,
  .legend {
    padding-left: 0;
  }
}
</style>
