<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import type { Disc, ShelfDisc } from '@/api/client'
import AddLine from '@/shelf/AddLine.vue'
import { useInQuery, useTextInQuery } from '@/common/useInQuery'
import { useOpenFlag, useOpenThing } from '@/common/useOpenThing'
import DiscForm from '@/shelf/DiscForm.vue'
import ImportDialog from '@/shelf/ImportDialog.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import SeveralBar from '@/shelf/SeveralBar.vue'
import ShelfCards from '@/shelf/ShelfCards.vue'
import ShelfOnPaper from '@/shelf/ShelfOnPaper.vue'
import ShelfTable from '@/shelf/ShelfTable.vue'
import { useBag, useDiscs } from '@/api/useData'
import { SLOTS, STATUSES } from '@/common/disc'
import { useKnown } from '@/shelf/known'
import {
  chosen,
  COLUMNS,
  EVERYTHING,
  type Filter,
  type Order,
  ORDERS,
  PEG_ORDER,
  PEGS,
  sorted,
  type Status,
} from '@/shelf/shelf'

const route = useRoute()
const discs = useDiscs()
const bag = useBag()

const words = useTextInQuery('words')
const slot = useInQuery('slot', ['all', ...(Object.keys(SLOTS) as ShelfDisc['slot'][])])
const peg = useInQuery('peg', ['all', ...PEG_ORDER])
const status = useInQuery('status', [
  'all',
  'carried',
  'home',
  'saves',
  ...(Object.keys(STATUSES) as Status[]),
])
const filter = computed<Filter>(() => ({
  words: words.value,
  slot: slot.value,
  peg: peg.value,
  status: status.value,
}))
const search = ref<{ focus: () => void } | null>(null)
onMounted(() => route.query.find && search.value?.focus())
watch(
  () => route.query.find,
  (find) => find && search.value?.focus(),
)
const isFiltered = computed(() =>
  (Object.keys(EVERYTHING) as (keyof Filter)[]).some((key) => filter.value[key] !== EVERYTHING[key]),
)

const known = useKnown()
const by = useInQuery('by', COLUMNS)
const way = useInQuery('order', ['up', 'down'])
const order = computed<Order, Order>({
  get: () => ({ by: by.value, way: way.value === 'up' ? 1 : -1 }),
  set: (value) => {
    by.value = value.by
    way.value = value.way === 1 ? 'up' : 'down'
  },
})
const rows = computed(() => {
  const found = chosen(discs.data.value ?? [], filter.value, known.facts, known.plasticName)
  return sorted(found, order.value, known.plasticName, known.facts)
})
const narrow = useMediaQuery('(max-width: 900px)')
const asked = useInQuery('as', ['usual', 'table', 'cards'])
const view = computed({
  get: () => (asked.value === 'usual' ? (narrow.value ? 'cards' : 'table') : asked.value),
  set: (value) => (asked.value = value),
})
const chosenIds = ref<ReadonlySet<number>>(new Set())
const several = computed(() => rows.value.filter((d) => chosenIds.value.has(d.id)))
function choose(id: number, on: boolean) {
  const ids = new Set(chosenIds.value)
  if (on) ids.add(id)
  else ids.delete(id)
  chosenIds.value = ids
}
const all = computed({
  get: () => rows.value.length > 0 && several.value.length === rows.value.length,
  set: (on) => (chosenIds.value = new Set(on ? rows.value.map((d) => d.id) : [])),
})

/** Number of the disc that is edited, or "new". */
const editing = useOpenThing('edit')
const edited = computed(() => discs.data.value?.find((d) => String(d.id) === editing.value) ?? null)
const formOpen = computed({
  get: () => editing.value === 'new' || edited.value !== null,
  set: (on) => !on && (editing.value = null),
})
const importOpen = useOpenFlag('import')
const edit = (disc: Disc | null) => (editing.value = disc ? String(disc.id) : 'new')
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Shelf</h1>
        <p class="soft">
          {{ discs.data.value?.length ?? 0 }} discs, {{ bag.data.value?.carried.length ?? 0 }} of them in the
          bag<template v-if="isFiltered">; {{ rows.length }} shown</template>
        </p>
      </div>
      <RouterLink class="as-button" to="/shelf/moulds" data-test="to-moulds">Moulds</RouterLink>
      <el-button data-test="add-disc" @click="edit(null)">Add by form</el-button>
      <el-button data-test="import" @click="importOpen = true">Import CSV</el-button>
      <a class="as-button" href="/api/shelf.csv" download>Export CSV</a>
    </div>
    <AddLine class="adder no-print" />
    <div class="filters no-print">
      <el-input
        ref="search"
        v-model="words"
        placeholder="Find by name, mould, plastic, note, place"
        clearable
        data-test="find"
      />
      <el-select v-model="slot" aria-label="Slot">
        <el-option value="all" label="every slot" />
        <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
      </el-select>
      <el-select v-model="peg" aria-label="Peg">
        <el-option value="all" label="every peg" />
        <el-option v-for="p in PEG_ORDER" :key="p" :value="p" :label="PEGS[p]" />
      </el-select>
      <el-select v-model="status" aria-label="Where it is" data-test="filter-status">
        <el-option value="all" label="wherever it is" />
        <el-option value="carried" label="carried" />
        <el-option value="home" label="at home" />
        <el-option value="saves" label="would save strokes" />
        <el-option v-for="(label, value) in STATUSES" :key="value" :value="value" :label="label" />
      </el-select>
      <el-select v-model="by" aria-label="In order of" data-test="order-by">
        <el-option v-for="c in COLUMNS" :key="c" :value="c" :label="`by ${ORDERS[c]}`" />
      </el-select>
      <el-button
        :aria-label="way === 'up' ? 'The other way about' : 'The usual way about'"
        data-test="order-way"
        @click="way = way === 'up' ? 'down' : 'up'"
        >{{ way === 'up' ? '↑' : '↓' }}</el-button
      >
      <el-radio-group v-model="view" aria-label="As table or cards" data-test="shelf-view">
        <el-radio-button value="table">Table</el-radio-button>
        <el-radio-button value="cards">Cards</el-radio-button>
      </el-radio-group>
    </div>
    <ProblemNote v-if="discs.error.value" :error="discs.error.value" @retry="discs.refetch()" />
    <SeveralBar v-if="several.length" :discs="several" @clear="chosenIds = new Set()" />
    <ShelfOnPaper :rows="rows" :known="known" />
    <ShelfTable
      v-if="view === 'table'"
      v-model:order="order"
      v-model:all="all"
      class="no-print"
      :rows="rows"
      :chosen="chosenIds"
      :known="known"
      @choose="choose"
      @edit="edit"
    />
    <ShelfCards
      v-else
      class="no-print"
      :rows="rows"
      :chosen="chosenIds"
      :known="known"
      @choose="choose"
      @edit="edit"
    />
    <p v-if="discs.data.value && rows.length === 0" class="none">
      {{
        discs.data.value.length
          ? 'No disc fits this search. Shorten it or show every slot.'
          : 'The shelf is empty. Type a disc above, take the walk, or import a table: the import says which columns it reads.'
      }}
    </p>
    <DiscForm v-model="formOpen" :disc="edited" />
    <ImportDialog v-model="importOpen" of="discs" />
  </div>
</template>

<style scoped>
.filters {
  display: grid;
  grid-template-columns: minmax(180px, 1fr) 136px 126px 150px 140px 44px auto;
  gap: 10px;
  margin-bottom: 10px;
}
.adder {
  margin-bottom: 12px;
}
.none {
  padding: 22px;
}
@media (max-width: 900px) {
  .filters {
    grid-template-columns: 1fr 1fr;
  }
  .filters > :first-child {
    grid-column: span 2;
  }
}
</style>
