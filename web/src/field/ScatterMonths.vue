<script setup lang="ts">
// How the scatter has moved, month by month: in distance and to the sides.
import { CustomChart, ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { computed, useTemplateRef } from 'vue'
import type { MonthScatter } from '@/api/client'
import { useChart } from '@/common/useChart'
import { monthWords, scatterMonthsOption } from '@/field/scatterMonths'

use([CustomChart, ScatterChart, GridComponent, TooltipComponent])

const props = defineProps<{ months: readonly MonthScatter[] }>()
const HEIGHT_PX = 190
const along = useTemplateRef<HTMLElement>('along')
const side = useTemplateRef<HTMLElement>('side')
const sides = computed(() => props.months.filter((m) => m.side_deg != null))
useChart(
  along,
  () => HEIGHT_PX,
  (look) => scatterMonthsOption(props.months, 'along_pct', look),
  [() => props.months],
)
useChart(
  side,
  () => HEIGHT_PX,
  (look) => (sides.value.length ? scatterMonthsOption(sides.value, 'side_deg', look) : undefined),
  [() => props.months],
)
</script>

<template>
  <div>
    <div ref="along" :style="{ height: `${HEIGHT_PX}px` }" aria-hidden="true"></div>
    <div v-show="sides.length" ref="side" :style="{ height: `${HEIGHT_PX}px` }" aria-hidden="true"></div>
    <ul>
      <li v-for="m in months" :key="m.month">{{ monthWords(m) }}</li>
    </ul>
  </div>
</template>

<style scoped>
div {
  overflow: hidden;
}
ul {
  margin: 6px 0 0;
  padding-left: 20px;
}
</style>
