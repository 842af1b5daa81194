<script setup lang="ts">
// The year ahead: how the discs wear, when each leaves its peg, and what to begin so that a copy stands ready.
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Suppose } from '@/api/client'
import { useBag, useDiscs, useSettled, useYear, useYearProgress } from '@/api/useData'
import BoardLane from '@/bag/BoardLane.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useSelection } from '@/common/stores/selection'
import { figure } from '@/common/units'
import { useInQuery } from '@/common/useInQuery'
import FamilyBand from '@/season/FamilyBand.vue'
import LeanBag from '@/season/LeanBag.vue'
import LostTable from '@/season/LostTable.vue'
import PlayCalendar from '@/season/PlayCalendar.vue'
import SupposeBar from '@/season/SupposeBar.vue'
import TaskList from '@/season/TaskList.vue'
import { AS_IT_IS, changes, dayWords, isSupposed } from '@/season/year'

const bag = useBag()
const discs = useDiscs()
const selection = useSelection()
const suppose = ref<Suppose>({ ...AS_IT_IS })
const year = useYear(useSettled(() => suppose.value))
const busy = computed(() => year.isFetching.value)
const progress = useYearProgress(() => busy.value)
const stopped = computed(
  () =>
    !busy.value &&
    !year.error.value &&
    bag.data.value !== undefined &&
    (year.isPending.value || year.isPlaceholderData.value),
)
const now = computed(() => year.data.value)

const view = useInQuery('view', ['year', 'board', 'lost', 'play', 'lean'])
const VIEWS: Record<typeof view.value, string> = {
  year: 'The year',
  board: 'The board then',
  lost: 'If one is lost',
  play: 'How much I play',
  lean: 'Lean winter bag',
}
const isLookedAhead = computed(() => ['year', 'board', 'lost'].includes(view.value))

/** Which of the days is looked at. */
const step = ref(0)
const on = computed(() => now.value?.days[step.value] ?? '')
const supposed = computed(() => isSupposed(suppose.value))
const carried = computed(() => now.value?.families.filter((f) => f.copies.some((c) => c.is_carried)) ?? [])
const atHome = computed(() => now.value?.families.filter((f) => f.copies.every((c) => !c.is_carried)) ?? [])
const board = computed(() => now.value?.boards[step.value])
const moved = computed(() => (now.value ? changes(now.value, step.value) : []))
const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? 'a disc'
const NONE = new Map<number, never>()
const NOBODY = new Set<number>()
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Season</h1>
        <p class="soft">
          How the discs of {{ bag.data.value?.name ?? 'the bag' }} wear over the year, when each leaves its
          peg, and what to begin so that a copy stands ready.
        </p>
      </div>
      <a
        v-if="bag.data.value"
        class="as-button"
        :href="`/api/bags/${bag.data.value.id}/year.ics`"
        download
        data-test="year-ics"
        >Into my calendar</a
      >
      <a
        v-if="bag.data.value"
        class="as-button"
        :href="`/api/bags/${bag.data.value.id}/year.csv`"
        download
        data-test="year-csv"
        >Table (CSV)</a
      >
    </div>
    <ProblemNote v-if="year.error.value" :error="year.error.value" @retry="year.refetch()" />
    <p v-if="bag.data.value?.carried.length === 0" class="panel">
      Nothing is carried yet: what is not thrown does not wear.
      <RouterLink to="/walk">Take the walk</RouterLink> or <RouterLink to="/">fill the bag</RouterLink>.
    </p>
    <p v-if="now" class="value" data-test="year-verdict">
      The bag leaves <b>{{ figure(now.leaves_strokes, 2) }}</b> strokes a round today; with its discs as worn
      as in a year it leaves <b>{{ figure(now.leaves_then_strokes, 2) }}</b><template v-if="supposed"
        >, under what is supposed</template
      >.
    </p>
    <p v-if="busy" class="status" role="status">
      <span class="soft">{{ progress }}</span>
      <el-button data-test="year-stop" @click="year.stop()">Stop</el-button>
    </p>
    <p v-else-if="stopped" class="status" role="status">
      <span class="soft">Looking ahead was stopped.</span>
      <el-button data-test="year-go" @click="year.refetch()">Go on</el-button>
    </p>
    <el-radio-group v-model="view" class="views" aria-label="What to see" data-test="year-view">
      <el-radio-button v-for="(label, key) in VIEWS" :key="key" :value="key">{{ label }}</el-radio-button>
    </el-radio-group>
    <template v-if="isLookedAhead">
      <SupposeBar v-model="suppose" />
      <label v-if="now && view !== 'lost'" class="on">
        <span
          >As it will be on <b data-test="year-on">{{ dayWords(on) }}</b></span
        >
        <input
          v-model.number="step"
          type="range"
          min="0"
          :max="now.days.length - 1"
          step="1"
          :aria-valuetext="dayWords(on)"
          data-test="year-step"
        />
      </label>
    </template>
    <div v-if="now" :aria-busy="busy" :class="{ stale: busy && isLookedAhead }">
      <div v-if="view === 'year'" class="work">
        <TaskList :tasks="now.tasks" :today="now.today" :supposed="supposed" />
        <section class="panel" aria-label="The moulds of the bag">
          <h2>Mould by mould</h2>
          <p class="soft">
            Up is more stable. Solid lines are carried copies, broken ones lie at home; the grey about a line
            is how far the wear is not known. Drag across to another day.
          </p>
          <FamilyBand
            v-for="f in carried"
            :key="`${f.maker} ${f.mould}`"
            v-model="step"
            :family="f"
            :days="now.days"
          />
          <details v-if="atHome.length" data-test="at-home">
            <summary>{{ atHome.length }} more moulds at home</summary>
            <FamilyBand
              v-for="f in atHome"
              :key="`${f.maker} ${f.mould}`"
              v-model="step"
              :family="f"
              :days="now.days"
            />
          </details>
        </section>
      </div>
      <template v-else-if="view === 'board' && board">
        <section class="panel" data-test="year-board" :aria-label="`The board on ${dayWords(on)}`">
          <h2>The board on {{ dayWords(on) }}</h2>
          <p v-if="step > 0" data-test="year-moved">
            {{
              moved.length
                ? `By then: ${moved.join('; ')}.`
                : 'By then every carried disc is still on its peg.'
            }}
          </p>
          <BoardLane
            v-for="lane in board.lanes"
            :key="lane.slot"
            :lane="lane"
            :edge-deg="board.edge_deg"
            :idle="NOBODY"
            :jobs="NONE"
            :selected="selection.discId"
            :ghosts="NONE"
            @open="selection.discId = $event"
          />
        </section>
      </template>
      <LostTable v-else-if="view === 'lost'" :lost="now.lost" :name="name" />
      <PlayCalendar v-else-if="view === 'play'" />
      <LeanBag v-else-if="view === 'lean'" :name="name" />
    </div>
  </div>
</template>

<style scoped>
.value {
  font-size: 17px;
}
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 0 16px;
  align-items: start;
}
.work > :first-child {
  grid-column: 2;
  grid-row: 1;
}
@media (max-width: 1000px) {
  .work {
    display: block;
  }
}
:global(.with-panel .work) {
  display: block;
}
.status {
  display: flex;
  gap: 12px;
  align-items: center;
}
.views {
  margin: 8px 0 6px;
}
.on {
  position: sticky;
  z-index: 3;
  top: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  align-items: center;
  padding: 4px 0;
  background: var(--ground);
}
.on input {
  flex: 1 1 240px;
}
.stale {
  opacity: 0.6;
}
summary {
  padding: 9px 0;
  cursor: pointer;
}
</style>
