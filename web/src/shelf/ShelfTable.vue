<script setup lang="ts">
// The discs as a table that sorts by any column.
import { computed, ref } from 'vue'
import type { ShelfDisc } from '@/api/client'
import DiscActions from '@/shelf/DiscActions.vue'
import DiscMark from '@/common/DiscMark.vue'
import { numbersText, SLOTS } from '@/common/disc'
import type { Known } from '@/shelf/known'
import { useRows } from '@/shelf/rows'
import { figure, strokeCount } from '@/common/units'
import { useSelection } from '@/common/stores/selection'
import type { Column, Order } from '@/shelf/shelf'

const props = defineProps<{ rows: readonly ShelfDisc[]; chosen: ReadonlySet<number>; known: Known }>()
const emit = defineEmits<{ choose: [id: number, on: boolean]; edit: [disc: ShelfDisc] }>()
const order = defineModel<Order>('order', { required: true })
const all = defineModel<boolean>('all', { required: true })
const selection = useSelection()

/** Height of a row, as the style has it. */
const HEIGHT_PX = 48
const list = ref<HTMLElement | null>(null)
const drawn = useRows(
  () => props.rows.length,
  () => HEIGHT_PX,
  list,
)
const inSight = computed(() =>
  drawn.shown.value.map((k) => props.rows[k]).filter((d): d is ShelfDisc => d !== undefined),
)

const COLUMNS: readonly { by: Column; label: string; number?: boolean }[] = [
  { by: 'name', label: 'Disc' },
  { by: 'peg', label: 'Peg' },
  { by: 'printed', label: 'Printed' },
  { by: 'plastic', label: 'Plastic' },
  { by: 'mass', label: 'Weight', number: true },
  { by: 'wear', label: 'Wear' },
  { by: 'slot', label: 'Slot' },
  { by: 'status', label: 'Where' },
  { by: 'worth', label: 'For, strokes' },
]
function sortBy(by: Column) {
  order.value = { by, way: order.value.by === by && order.value.way === 1 ? -1 : 1 }
}
const direction = (by: Column) =>
  order.value.by !== by ? 'none' : order.value.way === 1 ? 'ascending' : 'descending'
</script>

<template>
  <div class="scroll" tabindex="0" aria-label="Discs" role="region">
    <table :aria-rowcount="rows.length + 1">
      <thead>
        <tr>
          <th scope="col" class="check">
            <el-checkbox v-model="all" aria-label="Choose all shown" data-test="choose-all" />
          </th>
          <th
            v-for="c in COLUMNS"
            :key="c.by"
            scope="col"
            :class="{ number: c.number, first: c.by === 'name' }"
            :aria-sort="direction(c.by)"
          >
            <button type="button" class="sort" :data-test="`sort-${c.by}`" @click="sortBy(c.by)">
              {{ c.label
              }}<span aria-hidden="true">{{ order.by === c.by ? (order.way === 1 ? ' ↑' : ' ↓') : '' }}</span>
            </button>
          </th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody ref="list">
        <tr v-if="drawn.above.value > 0" aria-hidden="true">
          <td :style="{ height: `${drawn.above.value}px` }"></td>
        </tr>
        <tr v-for="d in inSight" :key="d.id" :data-row="d.id" :class="{ away: !d.at_hand }">
          <td class="check">
            <el-checkbox
              :model-value="chosen.has(d.id)"
              :aria-label="`Choose ${d.name}`"
              data-test="choose"
              @update:model-value="emit('choose', d.id, $event === true)"
            />
          </td>
          <th scope="row" class="first">
            <button type="button" class="name" @click="selection.discId = d.id">
              <DiscMark :colour="d.colour" :wear="d.wear_share" />
              <span
                >{{ d.name }}<small>{{ d.maker }} {{ d.mould }}</small></span
              >
            </button>
          </th>
          <td class="peg">{{ known.facts(d.id).peg ?? '–' }}</td>
          <td class="numbers">{{ numbersText(d.printed) }}</td>
          <td>{{ known.plasticName(d.plastic) }}</td>
          <td class="number">{{ figure(d.mass_g) }} g</td>
          <td>{{ known.wear(d) }}</td>
          <td>{{ SLOTS[d.slot] }}</td>
          <td class="where">
            <b v-if="known.carriedAs(d.id)">{{ known.where(d) }}</b>
            <span v-else>{{ known.where(d) }}</span>
            <small v-for="o in d.against_standard" :key="o" class="against" :title="o"
              >not allowed: {{ o.split(':')[0] }}</small
            >
            <small
              v-if="d.feels_off.length"
              class="against"
              :title="d.feels_off.join('; ')"
              data-test="feels-off"
              >feels off: {{ d.feels_off[0]?.split(';')[0] }}</small
            >
          </td>
          <td class="worth" :title="known.worths.value.get(d.id)?.words" data-test="worth">
            <template v-if="known.worths.value.get(d.id)?.short">
              {{ known.worths.value.get(d.id)!.short
              }}<small v-if="known.worths.value.get(d.id)!.missed_strokes > 0"
                >{{ known.carriedAs(d.id) ? 'missed by' : 'would save' }}
                {{ strokeCount(known.worths.value.get(d.id)!.missed_strokes) }}</small
              >
            </template>
            <span v-else-if="known.worths.value.has(d.id)" class="soft">no job</span>
            <span v-else-if="known.judging.value" class="soft">judging…</span>
          </td>
          <td class="acts">
            <DiscActions :disc="d" :carried="known.carriedAs(d.id) !== undefined" @edit="emit('edit', d)" />
          </td>
        </tr>
        <tr v-if="drawn.below.value > 0" aria-hidden="true">
          <td :style="{ height: `${drawn.below.value}px` }"></td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped src="./disc.css"></style>
<style scoped>
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
tbody tr {
  height: 48px;
}
th,
td {
  padding: 2px 8px;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--rule-soft);
  white-space: nowrap;
}
tr[aria-hidden] td {
  padding: 0;
  border: 0;
}
thead th {
  padding: 0 8px;
  font-weight: 650;
  border-bottom: 2px solid var(--ink);
}
.first {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--panel);
}
.check {
  width: 30px;
  padding-right: 0;
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
.number {
  text-align: right;
}
.worth,
.where {
  max-width: 150px;
  white-space: normal;
  line-height: 1.15;
}
.acts {
  text-align: right;
}
</style>
