<script setup lang="ts">
// Lines and weathers in which two bags do unlike.
import { ref, watch } from 'vue'
import type { LineDifference } from '@/api/client'
import { WEATHERS } from '@/lines/line'
import { percent, strokeCount } from '@/common/units'

const props = defineProps<{
  differences: readonly LineDifference[]
  first: string
  second: string
  name: (id: number | null | undefined) => string
}>()
const SHOWN = 12
const all = ref(false)
watch(
  () => props.differences,
  () => (all.value = false),
)
</script>

<template>
  <p v-if="differences.length === 0" class="soft">On no line by three points or more.</p>
  <table v-else class="figures">
    <thead>
      <tr>
        <th scope="col">Line and weather</th>
        <th scope="col" class="number">{{ first }}</th>
        <th scope="col" class="number">{{ second }}</th>
        <th scope="col" class="number">strokes</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="d in all ? differences : differences.slice(0, SHOWN)" :key="d.line_key + d.weather">
        <th scope="row">
          {{ d.line_name }} <small>{{ WEATHERS[d.weather] }}</small>
        </th>
        <td class="number">
          {{ percent(d.first) }}<small>{{ name(d.first_disc) }}</small>
        </td>
        <td class="number">
          {{ percent(d.second) }}<small>{{ name(d.second_disc) }}</small>
        </td>
        <td class="number">{{ strokeCount(Math.abs(d.saves_strokes)) }}</td>
      </tr>
    </tbody>
  </table>
  <el-button v-if="!all && differences.length > SHOWN" @click="all = true"
    >Show all {{ differences.length }}</el-button
  >
</template>
