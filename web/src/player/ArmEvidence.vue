<script setup lang="ts">
// What else is known of the arm, and whether it fits together.
import { computed } from 'vue'
import type { Evidence, PlayerSheet, Style, Units } from '@/api/client'
import { SLOTS } from '@/common/disc'
import { STYLES } from '@/lines/line'
import { shown, signed, unit } from '@/common/units'

const props = defineProps<{ arms: PlayerSheet['arms']; units: Units }>()
const evidence = defineModel<Evidence[]>({ required: true })

const THROWN = (Object.keys(STYLES) as Style[]).filter((s) => s !== 'putt')
const MEASURABLE = Object.entries(SLOTS).filter(([slot]) => slot !== 'utility')
const told = computed(() =>
  props.arms.filter((a) => a.evidence.length > 1 || a.style === 'backhand' || a.style === 'forehand'),
)

function add(kind: Evidence['kind']) {
  const one: Evidence =
    kind === 'speed'
      ? { kind, style: 'backhand', speed_m_s: 25 }
      : { kind, style: 'backhand', slot: 'mid_range', distance_m: 75 }
  evidence.value = [...evidence.value, one]
}
function change(k: number, part: Partial<Evidence>) {
  evidence.value = evidence.value.map((e, i) => (i === k ? ({ ...e, ...part } as Evidence) : e))
}
type Told = PlayerSheet['arms'][number]['evidence'][number]
function words({ evidence: e }: Told): string {
  if (!e) return 'the drive above'
  if (e.kind === 'speed') return `${shown(props.units, 'speed', e.speed_m_s, 1)} measured`
  return `${shown(props.units, 'distance', e.distance_m)} with an ordinary ${SLOTS[e.slot]} disc`
}
const rounded = (x: number) => Math.round(10 * x) / 10
</script>

<template>
  <div>
    <div v-for="(e, k) in evidence" :key="k" class="row" data-test="evidence-row">
      <el-select :model-value="e.style" aria-label="Style" @update:model-value="change(k, { style: $event })">
        <el-option v-for="s in THROWN" :key="s" :value="s" :label="STYLES[s]" />
      </el-select>
      <template v-if="e.kind === 'distance'">
        <el-select :model-value="e.slot" aria-label="Slot" @update:model-value="change(k, { slot: $event })">
          <el-option v-for="[slot, label] in MEASURABLE" :key="slot" :value="slot" :label="`${label} disc`" />
        </el-select>
        <el-input-number
          :model-value="rounded(unit(units, 'distance').toShown(e.distance_m))"
          :controls="false"
          aria-label="Distance"
          data-test="evidence-distance"
          @update:model-value="change(k, { distance_m: unit(units, 'distance').toSi($event ?? 0) })"
        />
        <span>{{ unit(units, 'distance').symbol }}</span>
      </template>
      <template v-else>
        <span class="what">measured as it leaves the hand</span>
        <el-input-number
          :model-value="rounded(unit(units, 'speed').toShown(e.speed_m_s))"
          :controls="false"
          aria-label="Speed"
          data-test="evidence-speed"
          @update:model-value="change(k, { speed_m_s: unit(units, 'speed').toSi($event ?? 0) })"
        />
        <span>{{ unit(units, 'speed').symbol }}</span>
      </template>
      <el-button @click="evidence = evidence.filter((_, i) => i !== k)">Remove</el-button>
    </div>
    <el-button data-test="add-distance" @click="add('distance')">Add a distance with another slot</el-button>
    <el-button data-test="add-speed" @click="add('speed')">Add a measured speed</el-button>
    <div v-for="arm in told" :key="arm.style" class="report" :data-test="`arm-${arm.style}`">
      <p>
        <b>{{ STYLES[arm.style] }} arm {{ shown(units, 'speed', arm.speed_m_s, 1) }}</b>
        <template v-if="arm.evidence.length > 1">
          · {{ arm.consistent ? 'all that is known fits together' : 'what is known does not fit together' }}
        </template>
      </p>
      <ul v-if="arm.evidence.length > 1">
        <li v-for="(i, k) in arm.evidence" :key="k" :class="{ odd: i.doubt }">
          {{ words(i) }}: {{ shown(units, 'speed', i.implies_m_s, 1) }} ({{ signed(100 * i.off, 0) }} %)
          <template v-if="i.doubt">— {{ i.doubt }}.</template>
        </li>
      </ul>
    </div>
    <p class="soft">As saved.</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
.row .el-select {
  width: 150px;
}
.row .el-input-number {
  width: 90px;
}
.what {
  min-width: 150px;
}
.report {
  margin-top: 10px;
}
ul {
  margin: 2px 0 0;
  padding-left: 20px;
}
.odd {
  font-weight: 700;
}
</style>
