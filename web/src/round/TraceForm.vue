<script setup lang="ts">
// A hole traced from what a rangefinder said, from the tee or from place to place.
import { ref } from 'vue'
import {
  api,
  asProblem,
  type LevelShot,
  type ProblemError,
  type RangeReading,
  take,
  type Traced,
} from '@/api/client'
import FormProblem from '@/common/FormProblem.vue'
import TakeReading from '@/common/TakeReading.vue'
import { useFigures } from '@/lines/useFigures'

const emit = defineEmits<{ traced: [traced: Traced] }>()
const { get, toSi, symbol } = useFigures()
const fresh = (from: RangeReading['from']): RangeReading => ({
  from,
  distance_m: 80,
  bearing_deg: 0,
  slope_deg: 0,
})
const readings = ref<RangeReading[]>([fresh('tee')])
const problem = ref<ProblemError | null>(null)

const tenth = (x: number) => Math.round(10 * x) / 10
/** What the rangefinder says goes into the last row. */
function measured({ distance_m, bearing_deg, slope_deg }: LevelShot) {
  const last = readings.value[readings.value.length - 1]
  if (last) Object.assign(last, { distance_m, bearing_deg: tenth(bearing_deg), slope_deg: tenth(slope_deg) })
}

async function trace() {
  problem.value = null
  try {
    emit('traced', await take(api.POST('/api/courses/trace', { body: { readings: readings.value } })))
  } catch (error) {
    problem.value = asProblem(error)
  }
}
</script>

<template>
  <details data-test="trace">
    <summary>From rangefinder readings</summary>
    <p class="soft">One row a reading, in order; the last is the basket. Uphill is positive.</p>
    <div v-for="(r, k) in readings" :key="k" class="reading">
      <label>
        <span>read from</span>
        <el-select v-model="r.from">
          <el-option value="tee" label="the tee" />
          <el-option value="there" label="the place before" :disabled="k === 0" />
        </el-select>
      </label>
      <label>
        <span>distance, {{ symbol('distance') }}</span>
        <el-input-number
          :model-value="get(r.distance_m, 'distance')"
          :controls="false"
          :data-test="`read-distance-${k}`"
          @update:model-value="r.distance_m = toSi($event, 'distance') ?? r.distance_m"
        />
      </label>
      <label>
        <span>bearing, °</span>
        <el-input-number v-model="r.bearing_deg" :controls="false" :data-test="`read-bearing-${k}`" />
      </label>
      <label>
        <span>up, °</span>
        <el-input-number v-model="r.slope_deg" :controls="false" :data-test="`read-slope-${k}`" />
      </label>
      <el-button
        :disabled="readings.length === 1"
        :aria-label="`Take away reading ${k + 1}`"
        @click="readings.splice(k, 1)"
        >–</el-button
      >
    </div>
    <TakeReading of="rangefinder" @shot="measured" />
    <div class="acts">
      <el-button :disabled="readings.length >= 20" @click="readings.push(fresh('there'))"
        >One more reading</el-button
      >
      <el-button type="primary" data-test="trace-take" @click="trace">Take over</el-button>
    </div>
    <FormProblem :problem="problem" />
  </details>
</template>

<style scoped>
.reading {
  display: grid;
  grid-template-columns: 1.3fr 1fr 1fr 1fr auto;
  gap: 6px;
  align-items: end;
  margin-bottom: 6px;
}
@media (max-width: 600px) {
  .reading {
    grid-template-columns: 1fr 1fr;
  }
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
summary {
  padding: 9px 0;
  cursor: pointer;
}
.acts {
  display: flex;
  gap: 6px;
}
.acts .el-button {
  margin-left: 0;
}
</style>
