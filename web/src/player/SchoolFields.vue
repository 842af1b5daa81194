<script setup lang="ts">
// How somebody goes about the bag: pegs, lanes, order, moulds, units.
import { computed, ref } from 'vue'
import type { Player } from '@/api/client'
import { SLOTS } from '@/common/disc'
import { SCHOOLS, type Habits } from '@/player/form'

const form = defineModel<Player>({ required: true })
const habits = defineModel<Habits>('habits', { required: true })
const say = (part: Partial<Habits>) => (habits.value = { ...habits.value, ...part })

type School = Player['school']
const PEGGED = ['putter', 'mid_range', 'fairway', 'control', 'distance'] as const
type Pegged = (typeof PEGGED)[number]
const slotted = computed(() => PEGGED.filter((slot) => slot !== 'control' || habits.value.control_lane))
const own = (slot: Pegged) => habits.value.schools.find((s) => s.slot === slot)?.school
function setOwn(slot: Pegged, school: School | '') {
  const rest = habits.value.schools.filter((s) => s.slot !== slot)
  say({ schools: school === '' ? rest : [...rest, { slot, school }] })
}
const bySlot = ref(habits.value.schools.length > 0)
</script>

<template>
  <label class="field">
    <span>Pegs wanted in a slot</span>
    <el-select v-model="form.school" data-test="school">
      <el-option v-for="(s, value) in SCHOOLS" :key="value" :value="value" :label="s.label" />
    </el-select>
    <small class="soft">{{ SCHOOLS[form.school].about }}</small>
  </label>
  <div class="field">
    <span id="control-label">Control drivers, speed 10 and 11</span>
    <el-radio-group
      :model-value="habits.control_lane"
      aria-labelledby="control-label"
      data-test="control-lane"
      @update:model-value="say({ control_lane: $event === true })"
    >
      <el-radio-button :value="false">with the distance drivers</el-radio-button>
      <el-radio-button :value="true">a lane of their own</el-radio-button>
    </el-radio-group>
  </div>
  <div class="field">
    <span id="order-label">The walk goes</span>
    <el-radio-group
      :model-value="habits.fast_first"
      aria-labelledby="order-label"
      data-test="fast-first"
      @update:model-value="say({ fast_first: $event === true })"
    >
      <el-radio-button :value="false">slow to fast</el-radio-button>
      <el-radio-button :value="true">fast to slow</el-radio-button>
    </el-radio-group>
  </div>
  <label class="field">
    <span>A further mould costs, strokes a round</span>
    <el-input-number
      :model-value="habits.mould_strokes"
      :min="0"
      :max="0.5"
      :step="0.01"
      :precision="2"
      controls-position="right"
      data-test="mould-strokes"
      @update:model-value="say({ mould_strokes: $event ?? 0 })"
    />
    <small class="soft">
      0: whatever does the job best. More: few moulds, one shape in several plastics and stages of wear.
    </small>
  </label>
  <div class="field">
    <span id="units-label">Units</span>
    <el-radio-group v-model="form.units" aria-labelledby="units-label" data-test="player-units">
      <el-radio-button value="metric">Metres, m/s, °C</el-radio-button>
      <el-radio-button value="imperial">Feet, mph, °F</el-radio-button>
    </el-radio-group>
  </div>
  <div class="field wide">
    <el-checkbox v-model="bySlot" data-test="by-slot">Some slots have a school of their own</el-checkbox>
    <div v-if="bySlot" class="slots">
      <label v-for="slot in slotted" :key="slot">
        <span>{{ SLOTS[slot] }}</span>
        <el-select
          :empty-values="[null]"
          :model-value="own(slot) ?? ''"
          :data-test="`school-${slot}`"
          @update:model-value="setOwn(slot, $event)"
        >
          <el-option value="" label="as above" />
          <el-option v-for="(s, value) in SCHOOLS" :key="value" :value="value" :label="s.short" />
        </el-select>
      </label>
    </div>
  </div>
</template>

<style scoped>
.field > span,
.slots span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
.el-select,
.el-input-number {
  width: 100%;
}
small {
  display: block;
  margin-top: 2px;
  font-size: 13px;
}
.wide {
  grid-column: 1 / -1;
}
.slots {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
}
</style>
