<script setup lang="ts">
// How somebody goes about the bag: pegs, lanes, order, units.
import type { Player } from '@/api/client'
import type { Habits } from '@/player/form'

const form = defineModel<Player>({ required: true })
const habits = defineModel<Habits>('habits', { required: true })
const say = (part: Partial<Habits>) => (habits.value = { ...habits.value, ...part })
</script>

<template>
  <div class="field">
    <span id="pegs-label">Pegs in a slot</span>
    <el-radio-group v-model="form.school" aria-labelledby="pegs-label">
      <el-radio-button value="three">Three: Lean, Rail, Drift</el-radio-button>
      <el-radio-button value="five">Five: Hook to Slide</el-radio-button>
    </el-radio-group>
  </div>
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
  <div class="field">
    <span id="units-label">Units</span>
    <el-radio-group v-model="form.units" aria-labelledby="units-label" data-test="player-units">
      <el-radio-button value="metric">Metres, m/s, °C</el-radio-button>
      <el-radio-button value="imperial">Feet, mph, °F</el-radio-button>
    </el-radio-group>
  </div>
</template>

<style scoped>
.field > span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
</style>
