<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Disc } from '@/api/client'
import DiscForm from '@/shelf/DiscForm.vue'
import DiscMark from '@/common/DiscMark.vue'
import ImportDialog from '@/shelf/ImportDialog.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useActions, useBag, useDiscs, usePlastics, useSeason } from '@/api/useData'
import { GRADES, numbersText, SLOTS } from '@/common/disc'
import { chosen, type Column, type Order, sorted } from '@/shelf/shelf'
import { figure, strokeCount } from '@/common/units'
import { useSelection } from '@/common/stores/selection'

const route = useRoute()
const discs = useDiscs()
const bag = useBag()
const plastics = usePlastics()
const actions = useActions()
const selection = useSelection()

const find = ref('')
const slot = ref<'all' | keyof typeof SLOTS>('all')
const status = ref<'all' | 'carried' | 'shelf'>('all')
const search = ref<{ focus: () => void } | null>(null)
onMounted(() => route.query.find && search.value?.focus())
watch(
  () => route.fullPath,
  () => route.query.find && search.value?.focus(),
)

const plasticName = (p: Disc['plastic']) => plastics.data.value?.find((f) => f.plastic === p)?.label ?? p
const carriedAs = (id: number) => bag.data.value?.carried.find((c) => c.disc_id === id)

/** What each disc is worth over the season: a carried one, and what any other would be beside them. */
const season = useSeason(() => discs.data.value !== undefined)
const worths = computed(() => {
  const { worths = [], beside = [] } = season.data.value ?? {}
  return new Map([...worths, ...beside].map((w) => [w.disc_id, w] as const))
})

const order = ref<Order>({ by: 'printed', way: 1 })
const rows = computed(() => {
  const filter = {
    words: find.value,
    slot: slot.value,
    carried: status.value === 'all' ? null : status.value === 'carried',
  }
  const found = chosen(discs.data.value ?? [], filter, (id) => carriedAs(id) !== undefined, plasticName)
  return sorted(found, order.value, plasticName, (id) => worths.value.get(id)?.missed_strokes ?? 0)
})
const COLUMNS: readonly { by: Column; label: string; number?: boolean }[] = [
  { by: 'name', label: 'Disc' },
  { by: 'printed', label: 'Printed' },
  { by: 'plastic', label: 'Plastic' },
  { by: 'mass', label: 'Weight', number: true },
  { by: 'wear', label: 'Wear' },
  { by: 'slot', label: 'Slot' },
  { by: 'worth', label: 'For, strokes a round' },
]
function sortBy(by: Column) {
  order.value = { by, way: order.value.by === by && order.value.way === 1 ? -1 : 1 }
}
const direction = (by: Column) =>
  order.value.by !== by ? 'none' : order.value.way === 1 ? 'ascending' : 'descending'
const wear = (d: Disc) =>
  d.wear.throws == null ? GRADES[d.wear.grade] : `${d.wear.throws} throws, ${d.wear.hard_hits} hits`

const formOpen = ref(false)
const edited = ref<Disc | null>(null)
const importOpen = ref(false)
function edit(disc: Disc | null) {
  edited.value = disc
  formOpen.value = true
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Shelf</h1>
        <p class="soft">
          {{ discs.data.value?.length ?? 0 }} discs, {{ bag.data.value?.carried.length ?? 0 }} of them in the
          bag
        </p>
      </div>
      <el-button type="primary" data-test="add-disc" @click="edit(null)">Add a disc</el-button>
      <el-button data-test="import" @click="importOpen = true">Import CSV</el-button>
      <a class="as-button" href="/api/shelf.csv" download>Export CSV</a>
    </div>
    <div class="filters">
      <el-input
        ref="search"
        v-model="find"
        placeholder="Find by name, mould, plastic, note"
        clearable
        data-test="find"
      />
      <el-select v-model="slot" aria-label="Slot">
        <el-option value="all" label="every slot" />
        <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
      </el-select>
      <el-select v-model="status" aria-label="Carried or not">
        <el-option value="all" label="carried or not" />
        <el-option value="carried" label="carried" />
        <el-option value="shelf" label="on the shelf" />
      </el-select>
    </div>
    <ProblemNote v-if="discs.error.value" :error="discs.error.value" @retry="discs.refetch()" />
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th
              v-for="c in COLUMNS"
              :key="c.by"
              scope="col"
              :class="{ number: c.number }"
              :aria-sort="direction(c.by)"
            >
              <button type="button" class="sort" :data-test="`sort-${c.by}`" @click="sortBy(c.by)">
                {{ c.label
                }}<span aria-hidden="true">{{
                  order.by === c.by ? (order.way === 1 ? ' ↑' : ' ↓') : ''
                }}</span>
              </button>
            </th>
            <th scope="col">In the bag</th>
            <th scope="col"><span class="visually-hidden">Actions</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in rows" :key="d.id" :data-row="d.id">
            <th scope="row">
              <button type="button" class="name" @click="selection.discId = d.id">
                <DiscMark :colour="d.colour" :wear="d.wear_share" />
                <span
                  >{{ d.name }}<small>{{ d.maker }} {{ d.mould }}</small
                  ><small v-if="worths.has(d.id)" class="narrow">{{
                    worths.get(d.id)!.short ? `for: ${worths.get(d.id)!.short}` : 'no job'
                  }}</small></span
                >
              </button>
            </th>
            <td class="numbers">{{ numbersText(d.printed) }}</td>
            <td>{{ plasticName(d.plastic) }}</td>
            <td class="number">{{ figure(d.mass_g) }} g</td>
            <td>{{ wear(d) }}</td>
            <td>{{ SLOTS[d.slot] }}</td>
            <td class="worth" :title="worths.get(d.id)?.words" data-test="worth">
              <template v-if="worths.get(d.id)?.jobs.length">
                {{ worths.get(d.id)!.short
                }}<small
                  >{{ carriedAs(d.id) ? 'missed by' : 'would save' }}
                  {{ strokeCount(worths.get(d.id)!.missed_strokes) }}</small
                >
              </template>
              <span v-else-if="worths.has(d.id)" class="soft">no job</span>
              <span v-else-if="season.isFetching.value" class="soft">judging…</span>
            </td>
            <td>
              <b v-if="carriedAs(d.id)">{{ carriedAs(d.id)?.spare ? 'spare' : 'carried' }}</b>
              <span v-else class="soft">–</span>
            </td>
            <td class="acts">
              <el-button v-if="carriedAs(d.id)" data-test="row-bench" @click="actions.bench(d)"
                >Bench</el-button
              >
              <el-button v-else data-test="row-carry" @click="actions.carry(d)">Carry</el-button>
              <el-button data-test="row-edit" @click="edit(d)">Edit</el-button>
              <el-button data-test="row-delete" @click="actions.remove(d)">Delete</el-button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="discs.data.value && rows.length === 0" class="none">
        {{
          discs.data.value.length
            ? 'No disc fits this search. Shorten it or show every slot.'
            : 'The shelf is empty. Add a disc, or import a CSV file: the README lists its columns.'
        }}
      </p>
    </div>
    <DiscForm v-model="formOpen" :disc="edited" />
    <ImportDialog v-model="importOpen" />
  </div>
</template>

<style scoped>
.filters {
  display: grid;
  grid-template-columns: 1fr 170px 170px;
  gap: 10px;
  margin-bottom: 10px;
}
.scroll {
  /* Holds what is hidden by placing it: else it would widen the page. */
  position: relative;
  overflow-x: auto;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 3px 10px;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--rule-soft);
  white-space: nowrap;
}
thead th {
  padding: 0 10px;
  font-weight: 650;
  border-bottom: 2px solid var(--ink);
}
.sort {
  min-height: 40px;
  padding: 0;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  font-weight: 650;
  cursor: pointer;
}
.sort:hover {
  text-decoration: underline;
}
.name {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 42px;
  padding: 0;
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}
.name:hover {
  text-decoration: underline;
}
small {
  display: block;
  font-weight: 400;
  font-size: 13px;
  color: var(--ink-soft);
  line-height: 1.1;
}
/* Where the column of its own lies off the screen. */
.narrow {
  display: none;
}
.number {
  text-align: right;
}
.worth {
  max-width: 170px;
  white-space: normal;
  line-height: 1.15;
}
.acts {
  text-align: right;
}
.none {
  padding: 22px;
}
@media (max-width: 600px) {
  .narrow {
    display: block;
  }
  .filters {
    grid-template-columns: 1fr 1fr;
  }
  .filters > :first-child {
    grid-column: span 2;
  }
}
</style>
