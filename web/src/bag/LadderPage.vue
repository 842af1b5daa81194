<script setup lang="ts">
// How far each carried disc goes, soft to full, a style at a time, and the distances between them that none reaches.
import { BarChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { computed, ref, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import DayDials from '@/common/DayDials.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useDiscs, useLadder, useUnits } from '@/api/useData'
import { useDay } from '@/common/stores/day'
import { ladderOption } from '@/bag/ladder'
import { shown } from '@/common/units'
import { useChart } from '@/common/useChart'
import { STYLES } from '@/lines/line'

use([BarChart, GridComponent, MarkAreaComponent, TooltipComponent])

const day = useDay()
const units = useUnits()
const discs = useDiscs()
const ladders = useLadder(() => day.conditions)
const asked = ref<string | null>(null)
const style = computed({
  get: () => asked.value ?? ladders.data.value?.[0]?.style ?? 'backhand',
  set: (value) => (asked.value = value),
})
const now = computed(() => ladders.data.value?.find((l) => l.style === style.value))
const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? ''

const plot = useTemplateRef<HTMLElement>('plot')
const ROW_PX = 30
const height = computed(() => 70 + ROW_PX * (now.value?.rungs.length ?? 0))
useChart(
  plot,
  () => height.value,
  (look) => now.value && ladderOption(now.value, units.value, name, look),
  [now, units, () => discs.data.value],
)
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Distance ladder</h1>
        <p class="soft">
          Thrown flat, to where it lands: grey from soft to three-quarter power, solid from there to full.
          <RouterLink to="/">Back to the bag</RouterLink>
        </p>
      </div>
      <el-radio-group v-model="style" aria-label="Style" data-test="ladder-style">
        <el-radio-button v-for="l in ladders.data.value" :key="l.style" :value="l.style">{{
          STYLES[l.style]
        }}</el-radio-button>
      </el-radio-group>
    </div>
    <DayDials />
    <ProblemNote v-if="ladders.error.value" :error="ladders.error.value" @retry="ladders.refetch()" />
    <p v-if="now && now.rungs.length === 0" class="panel">Nothing is carried for this style.</p>
    <div v-if="now && now.rungs.length" class="panel">
      <ul class="holes" data-test="holes">
        <li v-for="h in now.holes" :key="h.from_m">{{ h.words }}</li>
        <li v-if="now.holes.length === 0">
          From {{ shown(units, 'distance', Math.min(...now.rungs.map((r) => r.three_quarter_m))) }} to
          {{ shown(units, 'distance', Math.max(...now.rungs.map((r) => r.full_m))) }} every distance has a
          disc at three-quarter to full power.
        </li>
      </ul>
      <div ref="plot" class="plot" :style="{ height: `${height}px` }" aria-hidden="true"></div>
      <table class="visually-hidden">
        <caption>
          Distances
        </caption>
        <thead>
          <tr>
            <th scope="col">disc</th>
            <th scope="col">soft</th>
            <th scope="col">three-quarter</th>
            <th scope="col">full</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in now.rungs" :key="r.disc_id" :data-rung="r.disc_id">
            <th scope="row">{{ name(r.disc_id) }}</th>
            <td>{{ shown(units, 'distance', r.soft_m) }}</td>
            <td>{{ shown(units, 'distance', r.three_quarter_m) }}</td>
            <td>{{ shown(units, 'distance', r.full_m) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.plot {
  width: 100%;
  overflow: hidden;
}
.panel {
  position: relative;
  margin-top: 12px;
}
.holes {
  margin: 0 0 4px;
  padding-left: 20px;
}
</style>
