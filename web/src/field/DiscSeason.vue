<script setup lang="ts">
// A disc over the season: how far it went, day by day.
import { CustomChart, ScatterChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { computed, useTemplateRef, watch } from 'vue'
import { useDiscs, useUnits } from '@/api/useData'
import { useChart } from '@/common/useChart'
import { dayWords, discSeasonOption } from '@/field/discSeason'
import { useDiscSeason, useThrownDiscs } from '@/field/useField'

use([CustomChart, ScatterChart, GridComponent, LegendComponent, TooltipComponent])

const props = defineProps<{ disc: number | null }>()
const emit = defineEmits<{ choose: [id: number] }>()
/** The disc that is shown: the one asked for, else the one thrown most. */
const shown = defineModel<number | null>('shown', { required: true })
const discs = useDiscs()
const units = useUnits()
const thrown = useThrownDiscs()
/** Discs that were thrown, by name. */
const choices = computed(() =>
  (thrown.data.value ?? []).flatMap(({ disc_id, throws }) => {
    const name = discs.data.value?.find((d) => d.id === disc_id)?.name
    return name === undefined ? [] : [{ id: disc_id, label: `${name}, ${throws}` }]
  }),
)
const disc = computed(() => props.disc ?? choices.value[0]?.id ?? null)
watch(disc, (id) => (shown.value = id), { immediate: true })
const season = useDiscSeason(() => disc.value)
const days = computed(() => season.data.value ?? [])

const plot = useTemplateRef<HTMLElement>('plot')
const HEIGHT_PX = 260
useChart(
  plot,
  () => HEIGHT_PX,
  (look) => (days.value.length ? discSeasonOption(days.value, units.value, look) : undefined),
  [days, units],
)
</script>

<template>
  <section v-if="choices.length" class="panel" data-test="disc-season">
    <h2>A disc over the season</h2>
    <el-select
      :model-value="disc"
      filterable
      aria-label="Disc, and how often it was thrown"
      data-test="season-disc"
      @update:model-value="emit('choose', $event)"
    >
      <el-option v-for="d in choices" :key="d.id" :value="d.id" :label="d.label" />
    </el-select>
    <p v-if="disc !== null && season.isSuccess.value && days.length === 0" class="soft">
      No throw of it was measured yet.
    </p>
    <template v-if="days.length">
      <div ref="plot" class="plot" :style="{ height: `${HEIGHT_PX}px` }" aria-hidden="true"></div>
      <ul class="days">
        <li v-for="d in days" :key="`${d.date} ${d.place} ${d.style}`">{{ dayWords(d, units) }}</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.plot {
  width: 100%;
  overflow: hidden;
}
.days {
  margin: 6px 0 0;
  padding-left: 20px;
  max-height: 160px;
  overflow-y: auto;
}
</style>
