<script setup lang="ts">
// The best bag as a board, and what it has over today's.
import { computed } from 'vue'
import type { Proposal } from '@/api/client'
import BoardLane from '@/bag/BoardLane.vue'
import DifferenceTable from '@/common/DifferenceTable.vue'
import { numbersText } from '@/common/disc'
import { useSelection } from '@/common/stores/selection'
import { figure } from '@/common/units'

const props = defineProps<{
  proposal: Proposal
  bag: string
  name: (id: number | null | undefined) => string
}>()
const selection = useSelection()

const idle = computed(() => new Set(props.proposal.worths.filter((w) => !w.short).map((w) => w.disc_id)))
const jobs = computed(() => new Map(props.proposal.worths.map((w) => [w.disc_id, w.short] as const)))
const changes = computed(() => [
  { title: 'Comes in', ids: props.proposal.against.comes, test: 'comes' },
  { title: 'Goes out', ids: props.proposal.against.goes, test: 'goes' },
])
const sides = computed(() => {
  const all = props.proposal.against.differences
  return [
    { title: 'Gained', list: all.filter((d) => d.saves_strokes > 0), test: 'gained' },
    { title: 'Lost', list: all.filter((d) => d.saves_strokes < 0).toReversed(), test: 'lost' },
  ]
})
const NONE = new Map<number, never>()
/** What is to be bought has no sheet yet. */
function open(id: number) {
  if (id > 0) selection.discId = id
}
</script>

<template>
  <div>
    <div class="two">
      <section v-for="c in changes" :key="c.test" class="panel" :data-test="c.test">
        <h2>{{ c.title }}</h2>
        <p v-if="c.ids.length === 0" class="soft">nothing</p>
        <ul>
          <li v-for="id in c.ids" :key="id">
            <button v-if="id > 0" type="button" class="as-link" @click="open(id)">{{ name(id) }}</button>
            <template v-else>{{ name(id) }}</template>
          </li>
        </ul>
      </section>
    </div>
    <p v-for="b in proposal.bought" :key="b.disc_id" class="panel">
      To buy: <b>{{ b.name }}</b>, {{ numbersText(b.numbers) }}, about {{ figure(b.price) }}.
    </p>
    <section class="panel" data-test="proposed-board" aria-label="Board of the proposal">
      <BoardLane
        v-for="lane in proposal.board.lanes"
        :key="lane.slot"
        :lane="lane"
        :edge-deg="proposal.board.edge_deg"
        :idle="idle"
        :jobs="jobs"
        :selected="selection.discId"
        :ghosts="NONE"
        @open="open"
      />
    </section>
    <div class="two">
      <section v-for="s in sides" :key="s.test" class="panel" :data-test="s.test">
        <h2>{{ s.title }}</h2>
        <DifferenceTable :differences="s.list" :first="bag" second="Proposal" :name="name" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
  gap: 0 14px;
  align-items: start;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
