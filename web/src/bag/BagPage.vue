<script setup lang="ts">
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import BagBar from '@/bag/BagBar.vue'
import BoardLane from '@/bag/BoardLane.vue'
import DayDials from '@/common/DayDials.vue'
import FixFirst from '@/bag/FixFirst.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useActions, useAnalysis, useBag, useBoard, usePlayer, useSettled, useUnits } from '@/api/useData'
import { percent, shown } from '@/common/units'
import { useDay } from '@/common/stores/day'
import { useSelection } from '@/common/stores/selection'

const day = useDay()
const selection = useSelection()
const actions = useActions()
const units = useUnits()
const player = usePlayer()
const bag = useBag()
const board = useBoard(() => day.conditions)
const analysis = useAnalysis(useSettled(() => day.conditions))

const judged = computed(() => analysis.data.value)
const idle = computed(
  () => new Set((judged.value?.worths ?? []).filter((w) => !w.answers).map((w) => w.disc_id)),
)
const counts = computed(() => {
  const lines = judged.value?.lines ?? []
  const of = (standing: string) => lines.filter((l) => l.standing === standing).length
  return {
    all: lines.filter((l) => l.standing !== 'off').length,
    made: of('made'),
    thin: of('thin'),
    gap: of('gap'),
  }
})
const error = computed(() => board.error.value ?? analysis.error.value ?? bag.error.value)
const focused = ref<number | null>(null)

function retry() {
  void actions.refresh()
}

/** Arrows walk over the discs as they lie: left and right along a lane, up and down between lanes. */
function onKey(event: KeyboardEvent) {
  const lanes = (board.data.value?.lanes ?? []).filter((l) => l.pucks.length > 0)
  const at = lanes.findIndex((l) => l.pucks.some((p) => p.disc_id === focused.value))
  const lane = lanes[at]
  const puck = lane?.pucks.findIndex((p) => p.disc_id === focused.value) ?? -1
  const here = lane?.pucks[puck]
  if (!lane || !here) return
  if (event.key === 'b') {
    void actions.bench({ id: here.disc_id, name: here.name })
    return
  }
  let next
  if (event.key === 'ArrowLeft') next = lane.pucks[puck - 1]
  else if (event.key === 'ArrowRight') next = lane.pucks[puck + 1]
  else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    const other = lanes[at + (event.key === 'ArrowUp' ? -1 : 1)]
    const distance = (deg: number) => Math.abs(deg - here.finish_left_deg)
    next = other?.pucks.toSorted((a, b) => distance(a.finish_left_deg) - distance(b.finish_left_deg))[0]
  } else return
  event.preventDefault()
  if (next) document.querySelector<HTMLElement>(`[data-disc="${next.disc_id}"]`)?.focus()
}
</script>

<template>
  <div class="page">
    <ProblemNote v-if="error" :error="error" @retry="retry" />
    <div class="page-head">
      <div class="grow">
        <h1>{{ bag.data.value?.name ?? 'Bag' }}</h1>
        <p v-if="judged" class="soft" data-test="summary">
          Of {{ counts.all }} lines {{ counts.made }} made, {{ counts.thin }} thin, {{ counts.gap }} gaps;
          best chances {{ percent(judged.score) }} on average
          <a v-if="judged.findings.length" class="jump" href="#fix-title"
            >{{ judged.findings.length }} things to fix ↓</a
          >
        </p>
      </div>
      <BagBar v-if="bag.data.value" :bag="bag.data.value" />
    </div>
    <DayDials />
    <div v-if="bag.data.value?.carried.length === 0" class="start">
      <h2>Start slow, then fast</h2>
      <ol>
        <li><RouterLink to="/player">Say how far you throw</RouterLink>, so that discs fly at your arm.</li>
        <li>
          <RouterLink to="/shelf">Put your discs on the shelf</RouterLink>: putters first, then mid-ranges,
          fairway and distance drivers.
        </li>
        <li>Carry the ones you would take to the course. They appear here where they really finish.</li>
      </ol>
    </div>
    <div class="work">
      <section class="board" aria-label="Board" @keydown="onKey">
        <p class="scale soft" aria-hidden="true">
          <span>← finishes left</span>
          <span v-if="player.data.value && board.data.value">
            {{ board.data.value.style }}, flat, full controlled power; arm
            {{ shown(units, 'speed', board.data.value.arm_m_s, 1) }}
          </span>
          <span>finishes right →</span>
        </p>
        <template v-if="board.data.value">
          <BoardLane
            v-for="lane in board.data.value.lanes"
            :key="lane.slot"
            :lane="lane"
            :edge-deg="board.data.value.edge_deg"
            :idle="idle"
            :selected="selection.discId"
            @open="selection.discId = $event"
            @focus="focused = $event"
          />
        </template>
        <p class="legend soft">
          Broken edge: worn. Hatched: an empty peg this slot wants. Bracket: twins. Line under a disc: how far
          it swings the other way first; “as Drift”: far enough to count there.
        </p>
      </section>
      <FixFirst :findings="judged?.findings ?? []" :busy="analysis.isFetching.value" />
    </div>
  </div>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 350px;
  gap: 16px;
  margin-top: 12px;
  align-items: start;
}
.scale {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 0 0 4px 92px;
  font-size: 13px;
}
.board {
  border-bottom: 2px solid var(--ink);
}
.legend {
  padding: 6px 0 8px 92px;
  font-size: 13px;
  border-top: 2px solid var(--ink);
}
.start {
  margin-top: 12px;
  padding: 14px 18px;
  background: var(--panel);
  border-left: 10px solid var(--accent);
}
.start ol {
  margin: 6px 0 0;
  padding-left: 22px;
}
.jump {
  display: none;
}
@media (max-width: 1000px) {
  .jump {
    display: inline-block;
    padding: 8px 0;
    font-weight: 650;
  }
  .work {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 600px) {
  .scale,
  .legend {
    padding-left: 0;
  }
  .scale span:nth-child(2) {
    display: none;
  }
}
</style>
