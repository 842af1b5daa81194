<script setup lang="ts">
// What of a line is seldom drawn, in figures: wind, ground, stance, release, what it is worth; and its gates as they are typed.
import { computed } from 'vue'
import type { LineSpec } from '@/api/client'
import { FOOTINGS, GROUNDS, LANDINGS } from '@/lines/line'
import { hasRoomForGates, withMoreGates } from '@/lines/plan'
import { useFigures } from '@/lines/useFigures'
import { useUsualLines } from '@/lines/useUsualLines'

const spec = defineModel<LineSpec>({ required: true })
const { get, toSi, symbol } = useFigures()
const usual = useUsualLines()
const gates = computed(() => spec.value.gates ?? [])
/** A roller leaves the hand as none of the others: its release comes along. */
function land(landing: LineSpec['landing']) {
  const like = (l: LineSpec) =>
    l.style === spec.value.style && (l.landing === 'roll') === (landing === 'roll')
  const start = landing === spec.value.landing ? undefined : usual.data.value?.find(like)
  const turns = landing === 'roll' || spec.value.landing === 'roll'
  spec.value.landing = landing
  if (!start || !turns) return
  const { hyzer_min_deg, hyzer_max_deg, launch_min_deg, launch_max_deg } = start
  Object.assign(spec.value, { hyzer_min_deg, hyzer_max_deg, launch_min_deg, launch_max_deg })
}
</script>

<template>
  <div>
    <details data-test="line-figures">
      <summary>Wind, ground, stance, release, what it is worth</summary>
      <div class="grid">
        <label>
          <span>Roof, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(spec.ceiling_m, 'distance')"
            placeholder="none"
            controls-position="right"
            @update:model-value="spec.ceiling_m = toSi($event, 'distance')"
          />
        </label>
        <label>
          <span>Tailwind, {{ symbol('speed') }}</span>
          <el-input-number
            :model-value="get(spec.along_m_s, 'speed')"
            controls-position="right"
            @update:model-value="spec.along_m_s = toSi($event, 'speed') ?? 0"
          />
        </label>
        <label>
          <span>Wind to the left, {{ symbol('speed') }}</span>
          <el-input-number
            :model-value="get(spec.left_m_s, 'speed')"
            controls-position="right"
            @update:model-value="spec.left_m_s = toSi($event, 'speed') ?? 0"
          />
        </label>
        <label>
          <span>Kept off the wind, %</span>
          <el-input-number
            :model-value="Math.round(100 * (spec.lee ?? 0))"
            :min="0"
            :max="95"
            :step="5"
            controls-position="right"
            data-test="line-lee"
            @update:model-value="spec.lee = ($event ?? 0) / 100"
          />
        </label>
        <label>
          <span>Ground</span>
          <el-select v-model="spec.ground" data-test="line-ground">
            <el-option v-for="(label, value) in GROUNDS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Landing</span>
          <el-select :model-value="spec.landing" data-test="line-landing" @update:model-value="land">
            <el-option v-for="(label, value) in LANDINGS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Stance</span>
          <el-select v-model="spec.footing">
            <el-option v-for="(label, value) in FOOTINGS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label
          v-for="f in [
            { key: 'hyzer_min_deg', label: 'Least hyzer, °' },
            { key: 'hyzer_max_deg', label: 'Most hyzer, °' },
            { key: 'launch_min_deg', label: 'Least launch, °' },
            { key: 'launch_max_deg', label: 'Most launch, °' },
          ] as const"
          :key="f.key"
        >
          <span>{{ f.label }}</span><el-input-number v-model="spec[f.key]" controls-position="right" />
        </label>
        <label>
          <span>Fastest disc</span>
          <el-input-number
            v-model="spec.fastest_speed"
            :min="1"
            :max="15"
            :step="0.5"
            placeholder="any"
            controls-position="right"
          />
        </label>
        <label>
          <span>How often a round</span>
          <el-input-number
            v-model="spec.weight"
            :min="0.1"
            :max="10"
            :step="0.1"
            controls-position="right"
            data-test="line-weight"
          />
        </label>
        <label>
          <span>A miss costs, strokes</span>
          <el-input-number
            v-model="spec.miss_strokes"
            :min="0"
            :max="3"
            :step="0.1"
            placeholder="usual"
            controls-position="right"
            data-test="line-miss"
          />
        </label>
        <label>
          <span>Discs you are tied to may be lost here</span>
          <el-switch v-model="spec.risk_tied" data-test="line-risk-tied" />
        </label>
        <label>
          <span>No far end: the farther the better</span>
          <el-switch v-model="spec.open_ended" data-test="line-open" />
        </label>
      </div>
    </details>
    <details data-test="line-gates">
      <summary>Gates in figures</summary>
      <fieldset>
        <legend>Gates the disc must pass, {{ symbol('distance') }}; left positive, right negative</legend>
        <div v-for="(gate, k) in gates" :key="k" class="gate">
          <label
            v-for="f in [
              { key: 'at_m', label: 'at' },
              { key: 'left_edge_m', label: 'left edge' },
              { key: 'right_edge_m', label: 'right edge' },
            ] as const"
            :key="f.key"
          >
            <span>{{ f.label }}</span>
            <el-input-number
              :model-value="get(gate[f.key], 'distance')"
              :controls="false"
              @update:model-value="gate[f.key] = toSi($event, 'distance') ?? gate[f.key]"
            />
          </label>
          <label
            v-for="f in [
              { key: 'floor_m', label: 'clear' },
              { key: 'ceiling_m', label: 'stay under' },
            ] as const"
            :key="f.key"
          >
            <span>{{ f.label }}</span>
            <el-input-number
              :model-value="get(gate[f.key], 'distance')"
              :controls="false"
              placeholder="–"
              @update:model-value="gate[f.key] = toSi($event, 'distance')"
            />
          </label>
          <el-button @click="gates.splice(k, 1)">Remove</el-button>
        </div>
        <el-button :disabled="!hasRoomForGates(spec)" @click="spec = withMoreGates(spec)"
          >Add a gate</el-button
        >
      </fieldset>
    </details>
  </div>
</template>

<style scoped>
summary {
  padding: 9px 0;
  cursor: pointer;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(138px, 1fr));
  gap: 10px 14px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number,
.el-select {
  width: 100%;
}
fieldset {
  margin-top: 12px;
  padding: 8px 12px;
  border: 1px solid var(--rule-soft);
}
.gate {
  display: grid;
  grid-template-columns: repeat(5, 1fr) auto;
  gap: 8px;
  align-items: end;
  margin-bottom: 8px;
}
@media (max-width: 600px) {
  .gate {
    grid-template-columns: repeat(3, 1fr);
  }
}
</style>
