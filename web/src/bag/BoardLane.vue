<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Ghost, Lane, Puck, SlotState } from '@/api/client'
import { useUnits } from '@/api/useData'
import { across, intoRows, PUCK_PX } from '@/bag/board'
import { percent, shown, signed, strokes } from '@/common/units'
import { useKeepsFocus } from '@/common/useKeepsFocus'
import DiscMark from '@/common/DiscMark.vue'

const props = defineProps<{
  lane: Lane
  edgeDeg: number
  idle: ReadonlySet<number>
  /** What each disc is for, in a word or two. */
  jobs: ReadonlyMap<number, string>
  state?: SlotState
  selected: number | null
  /** Where discs would sit if one thing were otherwise. */
  ghosts: ReadonlyMap<number, Ghost>
  /** A disc that is held over the board, where it would lie. */
  coming?: Puck
}>()
const emit = defineEmits<{
  open: [id: number]
  focus: [id: number]
  grab: [event: PointerEvent, puck: Puck]
}>()

const ROW_PX = 28
const HEAD_PX = 23
const LETTER_PX = 7.1

useKeepsFocus('disc')
const units = useUnits()
const track = ref<HTMLElement | null>(null)
const { width } = useElementSize(track)

const mark = (p: Puck) =>
  p.spare
    ? 'spare'
    : p.used_for === 'putting'
      ? 'putting'
      : p.kept_for.length > 0
        ? `only ${p.kept_for.join(', ')}`
        : props.idle.has(p.disc_id)
          ? 'no job'
          : ''
/** Said beside the second of a pair: the bracket leads to it. */
const twinOf = (p: Puck) => {
  const pair = props.lane.twins.find((t) => t.b === p.disc_id && !t.on_purpose)
  return pair ? `twins ${percent(pair.overlap)}` : ''
}
/** Said of a disc that lies in one peg's window and sits on another: it swings so far first that it counts there. */
const countsAs = (p: Puck) => {
  const seat = props.lane.sockets.find((s) => s.disc_ids.includes(p.disc_id))
  const lies = props.lane.sockets.find(
    (s) => p.finish_left_deg <= s.left_deg && p.finish_left_deg > s.right_deg,
  )
  return seat && lies && seat.peg !== lies.peg ? `as ${seat.label}` : ''
}
/** Where a lane is too narrow for all, the twin above has said where the pair counts. */
const NARROW_PX = 500
const tags = (p: Puck) =>
  [width.value < NARROW_PX && twinOf(p) ? '' : countsAs(p), mark(p), twinOf(p)].filter(Boolean)
/** What a disc is for, in a word or two, where there is room for it. */
const job = (p: Puck) => (width.value < NARROW_PX ? '' : (props.jobs.get(p.disc_id)?.toLowerCase() ?? ''))
const nameWidth = (p: Puck) =>
  10 +
  LETTER_PX * p.name.length +
  (job(p) ? 9 + 6.3 * job(p).length : 0) +
  tags(p).reduce((sum, tag) => sum + 15 + 6.4 * tag.length, 0)
const areTwins = (p: Puck, q: Puck) =>
  props.lane.twins.some(
    (t) => (t.a === p.disc_id && t.b === q.disc_id) || (t.b === p.disc_id && t.a === q.disc_id),
  )
/** Twins two and two, so that they land in neighbouring rows. */
const groups = computed(() => {
  const rest = [...props.lane.pucks]
  const found: Puck[][] = []
  for (let next = rest.shift(); next; next = rest.shift()) {
    const one = next
    const mate = rest.findIndex((p) => areTwins(p, one))
    found.push(mate >= 0 ? [one, ...rest.splice(mate, 1)] : [one])
  }
  return found
})
const placed = computed(() =>
  intoRows(groups.value, width.value, (p) => across(p.finish_left_deg, props.edgeDeg), nameWidth),
)
const rows = computed(() => Math.max(1, ...placed.value.map((p) => p.row + 1)))
/** A disc that comes gets a row of its own below the others. */
const height = computed(() => HEAD_PX + (rows.value + (props.coming ? 1 : 0)) * ROW_PX + 4)
const top = (row: number) => HEAD_PX + row * ROW_PX + ROW_PX / 2
const fullX = (leftDeg: number) =>
  PUCK_PX / 2 + across(leftDeg, props.edgeDeg) * Math.max(0, width.value - PUCK_PX)

const sockets = computed(() =>
  props.lane.sockets.map((s) => ({
    ...s,
    x: s.left_deg >= props.edgeDeg ? 0 : fullX(s.left_deg),
    end: s.right_deg <= -props.edgeDeg ? width.value : fullX(s.right_deg),
    empty: s.disc_ids.length === 0,
  })),
)
const trails = computed(() =>
  placed.value
    .filter((p) => p.item.bend.swing_deg > 0.8 && p.item.bend.swing_deg + p.item.bend.finish_deg > 0.8)
    .map((p) => ({ id: p.item.disc_id, from: fullX(p.item.swing_left_deg), to: p.x, y: top(p.row) })),
)
const ghostly = computed(() =>
  placed.value.flatMap((p) => {
    const ghost = props.ghosts.get(p.item.disc_id)
    if (!ghost) return []
    const to = fullX(ghost.finish_left_deg)
    return Math.abs(to - p.x) < 4 ? [] : [{ id: p.item.disc_id, from: p.x, to, y: top(p.row) }]
  }),
)
const brackets = computed(() =>
  props.lane.twins.flatMap((t) => {
    const a = placed.value.find((p) => p.item.disc_id === t.a)
    const b = placed.value.find((p) => p.item.disc_id === t.b)
    if (!a || !b) return []
    const x = Math.max(8, Math.min(a.x, b.x) - PUCK_PX / 2 - 7)
    const [y1, y2] = [Math.min(top(a.row), top(b.row)), Math.max(top(a.row), top(b.row))]
    return [{ key: `${t.a}-${t.b}`, x, y1, y2, x2: Math.max(a.x, b.x), same: y1 === y2 }]
  }),
)

const stateWords = computed(
  () => `leaves ${strokes(props.state?.leaves_strokes ?? 0)} a round over the season`,
)

/** What is known of a disc on the board beside its name, what it is for and what stands by it. */
function facts(p: Puck): string {
  const where = `finishes ${signed(p.bend.finish_deg)}°, swings ${p.bend.swing_deg.toFixed(1)}°, flies ${shown(units.value, 'distance', p.distance_m)}`
  const ghost = props.ghosts.get(p.disc_id)
  const then = ghost
    ? `; then ${signed(Math.abs(ghost.finish_left_deg))}° ${ghost.finish_left_deg < 0 ? 'right' : 'left'}`
    : ''
  return `${p.peg ?? 'on no peg'}: ${where}, ${percent(p.wear_share)} worn${then}`
}
function words(p: Puck): string {
  const job = props.jobs.get(p.disc_id)?.toLowerCase()
  return `${p.name}, ${facts(p)}${job ? `; ${job}` : ''}`
}
</script>

<template>
  <div class="lane" :data-slot="lane.slot">
    <div class="label">
      <b>{{ lane.label }}</b>
      <span class="soft">{{ lane.pucks.length }} {{ lane.pucks.length === 1 ? 'disc' : 'discs' }}</span>
      <span v-if="state && state.made + state.thin + state.gap > 0" class="state" :title="stateWords">
        {{ state.made }} made<template v-if="state.thin">, {{ state.thin }} thin</template
        ><template v-if="state.gap">, {{ state.gap }} open</template>
      </span>
    </div>
    <div ref="track" class="track" :style="{ height: `${height}px` }">
      <div
        v-for="s in sockets"
        :key="s.peg"
        class="socket"
        :class="{ empty: s.empty && s.wanted, idle: s.empty && !s.wanted }"
        :style="{ left: `${s.x}px`, width: `${s.end - s.x}px` }"
        :title="s.why_not ? `${s.label}: not wanted, ${s.why_not}` : `${s.label}: ${s.meaning}`"
        :data-peg="s.peg"
      >
        <span class="peg" :class="{ tight: s.end - s.x < 88 }"
          >{{ s.label }}<em v-if="s.empty && s.wanted"> empty</em
          ><em v-else-if="s.empty && s.why_not"> not at this arm</em></span
        >
      </div>
      <svg class="ink" :width="width" :height="height" aria-hidden="true">
        <g v-for="t in trails" :key="t.id">
          <path :d="`M${t.to} ${t.y + 12}H${t.from}v-7`" class="trail" />
        </g>
        <g v-for="g in ghostly" :key="`ghost-${g.id}`" class="ghost" :data-ghost="g.id">
          <path :d="`M${g.from} ${g.y}H${g.to}`" />
          <circle :cx="g.to" :cy="g.y" r="8" />
        </g>
        <g v-for="b in brackets" :key="b.key" class="twin">
          <path v-if="!b.same" :d="`M${b.x + 6} ${b.y1} H${b.x} V${b.y2} H${b.x + 6}`" />
          <path v-else :d="`M${b.x + 7} ${b.y1 + 17} v3 H${b.x2} v-3`" />
        </g>
      </svg>
      <button
        v-for="p in placed"
        :key="p.item.disc_id"
        type="button"
        class="puck"
        :class="{ flipped: p.flipped, chosen: p.item.disc_id === selected }"
        :style="{
          top: `${top(p.row)}px`,
          ...(p.flipped ? { right: `${width - p.x - PUCK_PX / 2}px` } : { left: `${p.x - PUCK_PX / 2}px` }),
        }"
        :title="words(p.item)"
        :data-name="p.item.name"
        :data-disc="p.item.disc_id"
        :data-finish="p.item.finish_left_deg.toFixed(2)"
        @click="emit('open', p.item.disc_id)"
        @focus="emit('focus', p.item.disc_id)"
        @pointerdown="emit('grab', $event, p.item)"
      >
        <DiscMark :colour="p.item.colour" :wear="p.item.wear_share" :idle="idle.has(p.item.disc_id)" />
        <span class="name">{{ p.item.name }}</span>
        <span v-if="job(p.item)" class="job">{{ job(p.item) }}</span>
        <span v-for="tag in tags(p.item)" :key="tag" class="mark" :class="{ twin: tag === twinOf(p.item) }">{{
          tag
        }}</span>
        <span class="visually-hidden">, {{ facts(p.item) }}</span>
      </button>
      <div
        v-if="coming"
        class="coming"
        :style="{ left: `${fullX(coming.finish_left_deg)}px`, top: `${top(rows)}px` }"
        aria-hidden="true"
        data-test="coming"
      >
        <DiscMark :colour="coming.colour" :wear="coming.wear_share" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.lane {
  display: grid;
  grid-template-columns: 92px 1fr;
  border-top: 2px solid var(--ink);
}
.label {
  padding: 6px 8px 0 2px;
  line-height: 1.15;
}
.label b {
  display: block;
  font-size: 16px;
}
.label b::first-letter {
  text-transform: uppercase;
}
.state {
  display: block;
  font-size: 12.5px;
}
.track {
  position: relative;
  background: var(--panel);
}
.socket {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}
.socket.empty {
  background: repeating-linear-gradient(
    45deg,
    transparent 0 7px,
    color-mix(in srgb, var(--hatch) 55%, transparent) 7px 9px
  );
  outline: 2px dashed var(--ink-soft);
  outline-offset: -3px;
}
.socket.idle {
  background: var(--ground);
}
.peg {
  position: absolute;
  left: 8px;
  top: 3px;
  padding: 0 3px;
  font-size: 13px;
  font-weight: 650;
  color: var(--ink-soft);
  background: inherit;
  white-space: nowrap;
}
.socket.empty .peg {
  background: var(--panel);
  color: var(--ink);
}
.peg em {
  font-style: normal;
  font-weight: 400;
}
.peg.tight {
  left: 4px;
  font-size: 12px;
}
.peg.tight em {
  display: none;
}
.ink {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.trail {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 2;
}
.ghost path,
.ghost circle {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.ghost path {
  stroke-dasharray: 3 4;
}
.ghost circle {
  fill: color-mix(in srgb, var(--panel) 70%, transparent);
}
.coming {
  position: absolute;
  display: grid;
  width: 34px;
  height: 34px;
  margin: -17px 0 0 -17px;
  place-items: center;
  border: 3px dashed var(--accent);
  border-radius: 50%;
  pointer-events: none;
}
.twin path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 3;
}
.puck {
  position: absolute;
  display: flex;
  align-items: center;
  gap: 5px;
  height: 28px;
  margin-top: -14px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-size: 14px;
  cursor: pointer;
  white-space: nowrap;
  user-select: none;
  -webkit-touch-callout: none;
}
.puck.flipped {
  flex-direction: row-reverse;
}
.puck::before {
  content: '';
  position: absolute;
  inset: -5px 0;
}
.name {
  padding: 0 2px;
  background: color-mix(in srgb, var(--panel) 82%, transparent);
  font-weight: 560;
}
.job {
  font-size: 12.5px;
  color: var(--ink-soft);
  background: color-mix(in srgb, var(--panel) 82%, transparent);
}
.puck:hover .name,
.puck.chosen .name {
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-decoration-color: var(--accent);
}
.mark {
  padding: 0 4px;
  font-size: 12px;
  border: 1px solid var(--ink-soft);
  background: var(--panel);
}
.mark.twin {
  border-color: var(--accent);
  color: var(--accent);
  font-weight: 700;
}
@media (max-width: 600px) {
  .lane {
    grid-template-columns: 1fr;
  }
  .label {
    display: flex;
    gap: 8px;
    padding: 4px 2px;
  }
  .peg {
    left: 2px;
    font-size: 12px;
  }
}
</style>
