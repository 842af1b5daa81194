<script setup lang="ts">
// The discs as cards: where a table would be wider than the screen.
import { computed, ref } from 'vue'
import type { ShelfDisc, Worth } from '@/api/client'
import DiscActions from '@/shelf/DiscActions.vue'
import DiscMark from '@/common/DiscMark.vue'
import { numbersText, SLOTS } from '@/common/disc'
import type { Known } from '@/shelf/known'
import { useRows } from '@/shelf/rows'
import { figure, strokeCount } from '@/common/units'
import { useSelection } from '@/common/stores/selection'

const props = defineProps<{ rows: readonly ShelfDisc[]; chosen: ReadonlySet<number>; known: Known }>()
const emit = defineEmits<{ choose: [id: number, on: boolean]; edit: [disc: ShelfDisc] }>()
const selection = useSelection()

/** Height of a card and the gap below it, as the style has them. */
const HEIGHT_PX = 132
const list = ref<HTMLElement | null>(null)
const drawn = useRows(
  () => props.rows.length,
  () => HEIGHT_PX,
  list,
)
const inSight = computed(() =>
  drawn.shown.value.map((k) => props.rows[k]).filter((d): d is ShelfDisc => d !== undefined),
)

/** What a disc is for, and what it alone saves; one that another would do as well for saves nothing alone. */
function forWords({ short, jobs, missed_strokes }: Worth): string {
  const what = jobs.length > 0 ? `for: ${short}` : short
  return missed_strokes > 0 ? `${what}, ${strokeCount(missed_strokes)}` : what
}
</script>

<template>
  <ul
    ref="list"
    class="cards"
    :style="{ paddingTop: `${drawn.above.value}px`, paddingBottom: `${drawn.below.value}px` }"
  >
    <li v-for="d in inSight" :key="d.id" class="card" :class="{ away: !d.at_hand }" :data-row="d.id">
      <div class="top">
        <button type="button" class="name" @click="selection.discId = d.id">
          <DiscMark :colour="d.colour" :wear="d.wear_share" :size="34" />
          <span
            >{{ d.name
            }}<small
              >{{ d.maker }} {{ d.mould }}, {{ known.plasticName(d.plastic) }},
              {{ figure(d.mass_g) }} g</small
            ></span
          >
        </button>
        <el-checkbox
          :model-value="chosen.has(d.id)"
          :aria-label="`Choose ${d.name}`"
          @update:model-value="emit('choose', d.id, $event === true)"
        />
      </div>
      <p class="facts">
        <b class="peg">{{ known.facts(d.id).peg ?? SLOTS[d.slot] }}</b> {{ numbersText(d.printed) }} ·
        {{ known.wear(d) }} ·
        {{ known.where(d) }}
      </p>
      <div class="bottom">
        <span class="soft for">
          <b v-if="d.against_standard.length" class="against" :title="d.against_standard.join('; ')"
            >not allowed: {{ d.against_standard[0]?.split(':')[0] }}</b
          >
          <b v-if="d.feels_off.length" class="against" :title="d.feels_off.join('; ')"
            >feels off: {{ d.feels_off[0]?.split(';')[0] }}</b
          >
          <template v-if="known.worths.value.has(d.id)">{{
            known.worths.value.get(d.id)!.short ? forWords(known.worths.value.get(d.id)!) : 'no job'
          }}</template>
        </span>
        <DiscActions :disc="d" :carried="known.carriedAs(d.id) !== undefined" @edit="emit('edit', d)" />
      </div>
    </li>
  </ul>
</template>

<style scoped src="./disc.css"></style>
<style scoped>
.cards {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.card {
  height: 124px;
  padding: 6px 12px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-top: 2px solid var(--ink);
  overflow: hidden;
}
.top,
.bottom {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
}
.bottom .for {
  flex: 1;
  font-size: 14px;
  line-height: 1.15;
}
.facts {
  overflow: hidden;
  font-size: 14px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
