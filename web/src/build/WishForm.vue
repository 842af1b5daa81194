<script setup lang="ts">
// What is wished of the bag. What changes here is answered at once.
import { computed } from 'vue'
import type { ShelfDisc } from '@/api/client'
import { SLOTS } from '@/common/disc'
import { SCHOOLS } from '@/player/form'
import type { Form } from '@/common/wishes'

const props = defineProps<{ discs: readonly ShelfDisc[]; lanes: readonly string[]; taste: number }>()
const form = defineModel<Form>({ required: true })

const names = new Intl.Collator(undefined, { numeric: true })
const choices = computed(() =>
  props.discs.filter((d) => d.at_hand).toSorted((a, b) => names.compare(a.name, b.name)),
)
const makers = computed(() => [...new Set(props.discs.map((d) => d.maker))].toSorted(names.compare))
const lanes = computed(() =>
  (Object.entries(SLOTS) as [string, string][]).filter(([slot]) => props.lanes.includes(slot)),
)

type Lists = 'within' | 'without' | 'spared'
const LISTS: readonly { key: Lists; label: string; placeholder: string }[] = [
  { key: 'within', label: 'In, whatever they save', placeholder: 'none' },
  { key: 'without', label: 'Stay at home', placeholder: 'none' },
  { key: 'spared', label: 'Only with a spare that flies alike', placeholder: 'none' },
]
const slotWish = (slot: string) => form.value.slots[slot] ?? { least: null, most: null }
const wishSlot = (slot: string, part: Partial<{ least: number | null; most: number | null }>) =>
  (form.value.slots = { ...form.value.slots, [slot]: { ...slotWish(slot), ...part } })
const kilos = computed({
  get: () => (form.value.mass_cap_g === null ? undefined : form.value.mass_cap_g / 1000),
  set: (value) => (form.value.mass_cap_g = value == null ? null : Math.round(1000 * value)),
})
const buys = computed({
  get: () => form.value.buying !== null,
  set: (on) => (form.value.buying = on ? { budget: 40, usual_price: 15 } : null),
})
const mould = computed({
  get: () => form.value.mould_strokes ?? props.taste,
  set: (value) => (form.value.mould_strokes = value === props.taste ? null : value),
})
</script>

<template>
  <form class="wishes" aria-label="Wishes" @submit.prevent>
    <div class="pair">
      <label>
        <span>Discs it holds</span>
        <el-input-number
          v-model="form.capacity"
          :min="1"
          :max="60"
          controls-position="right"
          data-test="wish-capacity"
        />
      </label>
      <label>
        <span>Event’s cap, g</span>
        <el-input-number
          v-model="form.event_cap_g"
          :min="100"
          :max="220"
          placeholder="none"
          controls-position="right"
          data-test="wish-cap"
        />
      </label>
    </div>
    <label v-for="list in LISTS" :key="list.key">
      <span>{{ list.label }}</span>
      <el-select
        v-model="form[list.key]"
        multiple
        filterable
        :placeholder="list.placeholder"
        :data-test="`wish-${list.key}`"
      >
        <el-option v-for="d in choices" :key="d.id" :value="d.id" :label="d.name" />
      </el-select>
    </label>
    <div class="checks">
      <el-checkbox v-model="form.putting_pair" data-test="wish-pair">A matched putting pair</el-checkbox>
      <el-checkbox v-model="form.pegs" data-test="wish-pegs">Every wanted peg filled</el-checkbox>
      <el-checkbox v-model="form.hand_feel" data-test="wish-feel">Nothing my hand does not like</el-checkbox>
      <el-checkbox v-model="form.one_maker" data-test="wish-maker">All of one maker</el-checkbox>
    </div>
    <label>
      <span
        >A further mould must save <b>{{ mould.toFixed(2) }}</b> strokes</span
      >
      <input
        v-model.number="mould"
        type="range"
        min="0"
        max="0.2"
        step="0.01"
        :aria-valuetext="`${mould.toFixed(2)} strokes`"
        data-test="wish-mould"
      />
    </label>
    <label>
      <span
        >A disc must save <b>{{ form.disc_strokes.toFixed(2) }}</b> strokes</span
      >
      <input
        v-model.number="form.disc_strokes"
        type="range"
        min="0"
        max="0.2"
        step="0.01"
        :aria-valuetext="`${form.disc_strokes.toFixed(2)} strokes`"
        data-test="wish-disc"
      />
    </label>
    <details :open="Object.keys(form.slots).length > 0">
      <summary>Discs by slot</summary>
      <table>
        <thead>
          <tr>
            <th scope="col">Slot</th>
            <th scope="col">at least</th>
            <th scope="col">at most</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="[slot, label] in lanes" :key="slot">
            <th scope="row">{{ label }}</th>
            <td v-for="end in ['least', 'most'] as const" :key="end">
              <el-input-number
                :model-value="slotWish(slot)[end]"
                :min="0"
                :max="60"
                :controls="false"
                placeholder="any"
                :aria-label="`${label}, at ${end}`"
                :data-test="`wish-${slot}-${end}`"
                @update:model-value="wishSlot(slot, { [end]: $event ?? null })"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </details>
    <details :open="form.school !== null || form.makers.length > 0 || form.mass_cap_g !== null || buys">
      <summary>School, makers, mass, new discs</summary>
      <label>
        <span>School</span>
        <el-select v-model="form.school" clearable placeholder="my own" data-test="wish-school">
          <el-option v-for="(school, key) in SCHOOLS" :key="key" :value="key" :label="school.short" />
        </el-select>
      </label>
      <label>
        <span>Only these makers</span>
        <el-select v-model="form.makers" multiple placeholder="any" data-test="wish-makers">
          <el-option v-for="maker in makers" :key="maker" :value="maker" :label="maker" />
        </el-select>
      </label>
      <label>
        <span>All discs together at most, kg</span>
        <el-input-number
          v-model="kilos"
          :min="0.1"
          :max="20"
          :step="0.1"
          placeholder="any"
          controls-position="right"
          data-test="wish-mass"
        />
      </label>
      <el-checkbox v-model="buys" data-test="wish-buy">New discs of my moulds may be bought</el-checkbox>
      <div v-if="form.buying" class="pair">
        <label>
          <span>Budget</span>
          <el-input-number
            v-model="form.buying.budget"
            :min="0"
            :max="100000"
            controls-position="right"
            data-test="wish-budget"
          />
        </label>
        <label>
          <span>A disc costs about</span>
          <el-input-number
            v-model="form.buying.usual_price"
            :min="0"
            :max="10000"
            controls-position="right"
            data-test="wish-price"
          />
        </label>
      </div>
    </details>
  </form>
</template>

<style scoped>
.wishes {
  display: grid;
  gap: 10px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-select,
.el-input-number,
input {
  width: 100%;
}
.checks {
  display: grid;
}
.checks .el-checkbox {
  min-height: 32px;
  height: auto;
}
details label {
  display: block;
  margin-top: 8px;
}
summary {
  min-height: 32px;
  cursor: pointer;
}
table {
  width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
}
thead th {
  font-size: 13px;
  color: var(--ink-soft);
}
td {
  width: 84px;
}
</style>
