<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import BagBar from '@/bag/BagBar.vue'
import BagBoard from '@/bag/BagBoard.vue'
import DayDials from '@/common/DayDials.vue'
import FixFirst from '@/bag/FixFirst.vue'
import PrintSheet from '@/bag/PrintSheet.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import StepsPlot from '@/bag/StepsPlot.vue'
import {
  useActions,
  useAnalysis,
  useBag,
  useBoard,
  useDiscs,
  usePlayer,
  useSeason,
  useSeasonProgress,
  useSettled,
} from '@/api/useData'
import { figure } from '@/common/units'
import { useDay } from '@/common/stores/day'
import { addressOf, useLeft } from '@/walk/walk'

const day = useDay()
const actions = useActions()
const player = usePlayer()
const bag = useBag()
const board = useBoard(() => day.conditions)
const analysis = useAnalysis(useSettled(() => day.conditions))

const season = useSeason(() => analysis.data.value !== undefined)
const progress = useSeasonProgress(() => season.isFetching.value)
const stopped = computed(
  () =>
    analysis.data.value !== undefined &&
    !season.isFetching.value &&
    !season.error.value &&
    (season.isPending.value || season.isPlaceholderData.value),
)

const judged = computed(() => analysis.data.value)
const year = computed(() => season.data.value)
const counts = computed(() => {
  const lines = year.value?.lines ?? []
  const of = (standing: string) => lines.filter((l) => l.standing === standing).length
  return { all: lines.length, made: of('made'), thin: of('thin'), gap: of('gap'), beyond: of('beyond_arm') }
})
const error = computed(
  () => board.error.value ?? season.error.value ?? analysis.error.value ?? bag.error.value,
)
const scope = ref<'season' | 'today'>('season')
const left = useLeft()
const router = useRouter()
const shelf = useDiscs()
/** An empty database begins with the walk, until it is left. */
watch(
  () => [shelf.data.value?.length, player.data.value?.saved] as const,
  ([discs, saved]) => discs === 0 && saved === false && !left.value && void router.replace('/walk'),
  { immediate: true },
)

function retry() {
  void actions.refresh()
}
</script>

<template>
  <div class="page">
    <ProblemNote v-if="error" :error="error" @retry="retry" />
    <div class="page-head">
      <h1 class="grow">{{ bag.data.value?.name ?? 'Bag' }}</h1>
      <BagBar v-if="bag.data.value" :bag="bag.data.value" :board="board.data.value" />
    </div>
    <div class="verdict">
      <div class="grow">
        <p v-if="year && judged" class="value" data-test="summary">
          <template v-if="scope === 'season'">
            Leaves <b>{{ figure(year.leaves_strokes, 1) }}</b> strokes a round over the season; all of your
            shelf {{ figure(year.shelf_leaves_strokes, 1) }}, ideal discs
            {{ figure(year.ideal_leaves_strokes, 1) }}.
          </template>
          <template v-else>
            Leaves <b>{{ figure(judged.leaves_strokes, 1) }}</b> strokes in a round on a day like today.
          </template>
          <span class="soft">
            Of {{ counts.all }} lines {{ counts.made }} made, {{ counts.thin }} thin,
            {{ counts.gap }}
            {{ counts.gap === 1 ? 'gap' : 'gaps'
            }}<template v-if="counts.beyond">, {{ counts.beyond }} beyond this arm</template>.
          </span>
          <a v-if="year.findings.length" class="jump" href="#fix-title"
            >{{ year.findings.length }} things to fix ↓</a
          >
        </p>
        <p v-else class="soft" role="status">
          <template v-if="judged"
            >Leaves {{ figure(judged.leaves_strokes, 1) }} strokes in a round today;
            {{ stopped ? 'the season is not judged' : 'judging the season…' }}</template
          >
          <template v-else>Judging your bag…</template>
        </p>
      </div>
      <el-radio-group v-model="scope" aria-label="What the strokes are for" data-test="scope">
        <el-radio-button value="season">Season</el-radio-button>
        <el-radio-button value="today">Today</el-radio-button>
      </el-radio-group>
    </div>
    <DayDials />
    <p v-if="left && bag.data.value?.carried.length" class="left" data-test="walk-resume">
      <RouterLink :to="addressOf(left)">Go on with the walk</RouterLink>, where you left it.
      <button type="button" class="plain" @click="left = ''">Not now</button>
    </p>
    <div v-if="bag.data.value?.carried.length === 0" class="start">
      <h2>Nothing is carried yet</h2>
      <p>
        The walk goes through the bag lane by lane: who throws, then putters, mid-ranges, fairway and distance
        drivers. It shows what each lane is short of and takes discs in one line each.
      </p>
      <RouterLink class="as-button strong" :to="addressOf(left || 'thrower')" data-test="walk-start">{{
        left ? 'Go on with the walk' : 'Begin the walk'
      }}</RouterLink>
    </div>
    <div class="work">
      <BagBoard
        :bag="bag.data.value"
        :season="year"
        :strong="player.data.value?.strong_style === 'forehand' ? 'forehand' : 'backhand'"
      />
      <div>
        <FixFirst
          :findings="year?.findings"
          :busy="season.isFetching.value"
          :progress="progress"
          :stopped="stopped"
          :carried="bag.data.value?.carried.length ?? 0"
          @stop="season.stop()"
          @judge="season.refetch()"
        />
        <StepsPlot v-if="year" :season="year" :carried="bag.data.value?.carried.length ?? 0" />
      </div>
    </div>
    <PrintSheet
      v-if="bag.data.value && board.data.value"
      :bag="bag.data.value"
      :board="board.data.value"
      :season="year"
    />
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
.start {
  margin-top: 12px;
  padding: 14px 18px;
  background: var(--panel);
  border-left: 10px solid var(--accent);
}
.start p {
  max-width: 76ch;
  margin: 4px 0 10px;
}
.strong {
  border-color: var(--ink);
  font-weight: 650;
}
.left {
  margin-top: 8px;
}
.plain {
  min-height: 40px;
  margin-left: 8px;
  background: none;
  border: 0;
  color: var(--ink-soft);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
.page-head {
  margin-bottom: 2px;
}
.verdict {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: center;
  margin-bottom: 8px;
}
.verdict .grow {
  flex: 1 1 300px;
}
.value b {
  font-size: 19px;
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
    grid-template-columns: minmax(0, 1fr);
  }
}
/* An open disc takes the room beside the board; what there is to fix goes below. */
:global(.with-panel .work) {
  grid-template-columns: minmax(0, 1fr);
}
</style>
