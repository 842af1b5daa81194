<script setup lang="ts">
// The bag on one page of paper: the board, and a line for each disc.
import { computed } from 'vue'
import type { Bag, Board, SeasonVerdict } from '@/api/client'
import { boardSvg } from '@/bag/picture'
import { useDiscs, usePlastics, useUnits } from '@/api/useData'
import { jobOfEach, numbersText } from '@/common/disc'
import { figure, shown } from '@/common/units'

const props = defineProps<{ bag: Bag; board: Board; season: SeasonVerdict | undefined }>()
const discs = useDiscs()
const plastics = usePlastics()
const units = useUnits()
const drawn = computed(() => boardSvg(props.board, props.bag.name, units.value))
const jobs = computed(() => jobOfEach(props.season))
const rows = computed(() =>
  props.board.lanes.flatMap((lane) =>
    lane.pucks.map((puck) => ({
      lane: lane.label,
      puck,
      disc: discs.data.value?.find((d) => d.id === puck.disc_id),
      job: jobs.value.get(puck.disc_id) ?? '',
    })),
  ),
)
const plastic = (name: string | undefined) =>
  plastics.data.value?.find((p) => p.plastic === name)?.label ?? ''
</script>

<template>
  <div class="print-sheet print-alone" data-test="print-sheet">
    <!-- eslint-disable-next-line vue/no-v-html -- our own drawing; every text in it is escaped -->
    <div class="board" v-html="drawn" />
    <table>
      <thead>
        <tr>
          <th scope="col">Lane</th>
          <th scope="col">Disc</th>
          <th scope="col">Mould, plastic</th>
          <th scope="col">g</th>
          <th scope="col">Printed</th>
          <th scope="col">Sits on</th>
          <th scope="col">Flies</th>
          <th scope="col">For</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.puck.disc_id">
          <td>{{ r.lane }}</td>
          <th scope="row">{{ r.puck.name }}</th>
          <td>{{ r.puck.mould }}, {{ plastic(r.disc?.plastic) }}</td>
          <td>{{ r.disc ? figure(r.disc.mass_g) : '' }}</td>
          <td>{{ r.disc ? numbersText(r.disc.printed) : '' }}</td>
          <td class="peg">{{ r.puck.peg ?? (r.puck.used_for === 'putting' ? 'putting' : '–') }}</td>
          <td>{{ shown(units, 'distance', r.puck.distance_m) }}</td>
          <td>{{ r.job.toLowerCase() }}</td>
        </tr>
      </tbody>
    </table>
    <p>
      Throw only when the fairway is clear; the course’s and the event’s own rules come first. Made with Zinc
      Kite.
    </p>
  </div>
</template>

<style scoped>
.print-sheet {
  display: none;
  color: #000;
  font-size: 10.5px;
}
.board :deep(svg) {
  width: 100%;
  height: auto;
  max-height: 130mm;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 1px 6px 1px 0;
  border-bottom: 1px solid #999;
  text-align: left;
}
.peg {
  text-transform: capitalize;
}
@media print {
  .print-sheet {
    display: block;
  }
}
</style>
