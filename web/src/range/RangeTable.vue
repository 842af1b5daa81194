<script setup lang="ts">
// Figures of the throws; what the others do differently from the chosen one stands under each.
import { computed } from 'vue'
import type { RangeFlight } from '@/api/client'
import { useUnits } from '@/api/useData'
import { letter } from '@/range/range'
import { DASHES } from '@/common/scene'
import { figure, type Quantity, signed, unit } from '@/common/units'
import { useRange } from '@/range/store'

const props = defineProps<{ names: readonly string[]; flights: readonly RangeFlight[] }>()

const range = useRange()
const units = useUnits()

interface Column {
  title: string
  quantity?: Quantity
  symbol?: string
  decimals: number
  of: (f: RangeFlight) => number
  word?: (f: RangeFlight) => string
}
const sideOf = (left: number) => (Math.abs(left) < 0.5 ? '' : left > 0 ? ' left' : ' right')
const COLUMNS: readonly Column[] = [
  { title: 'Lies at', quantity: 'distance', decimals: 0, of: (f) => f.distance_m },
  { title: 'Carry', quantity: 'distance', decimals: 0, of: (f) => f.carry_m },
  {
    title: 'Swing',
    quantity: 'distance',
    decimals: 0,
    of: (f) => f.swing_m,
    word: (f) => (f.swing_m < 0.5 ? '' : f.swings_left ? ' left' : ' right'),
  },
  {
    title: 'Finish',
    quantity: 'distance',
    decimals: 0,
    of: (f) => f.finish_left_m,
    word: (f) => sideOf(f.finish_left_m),
  },
  { title: 'Apex', quantity: 'distance', decimals: 0, of: (f) => f.apex_m },
  { title: 'Time', symbol: 's', decimals: 1, of: (f) => f.time_s },
  { title: 'Comes in', symbol: '°', decimals: 0, of: (f) => f.descent_deg },
  { title: 'Runs', quantity: 'distance', decimals: 0, of: (f) => f.run_m, word: (f) => `, ${f.manner}` },
]
const symbol = (c: Column) => (c.quantity ? unit(units.value, c.quantity).symbol : (c.symbol ?? ''))
const plain = (c: Column, si: number) => (c.quantity ? unit(units.value, c.quantity).toShown(si) : si)
function cell(c: Column, f: RangeFlight): string {
  const x = plain(c, c.of(f))
  return figure(c.word && c.title !== 'Runs' ? Math.abs(x) : x, c.decimals) + (c.word?.(f) ?? '')
}
const base = computed(() => props.flights[range.chosen])
function difference(c: Column, f: RangeFlight): string {
  if (!base.value || f === base.value) return ''
  return signed(plain(c, c.of(f)) - plain(c, c.of(base.value)), c.decimals)
}
</script>

<template>
  <div class="scroll">
    <table data-test="range-table">
      <thead>
        <tr>
          <th scope="col">Throw</th>
          <th v-for="c in COLUMNS" :key="c.title" scope="col" class="num">
            {{ c.title }} <small>{{ symbol(c) }}</small>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(f, k) in flights"
          :key="k"
          :class="{ chosen: k === range.chosen }"
          @click="range.choose(k)"
        >
          <th scope="row">
            <button
              type="button"
              :aria-pressed="k === range.chosen"
              :data-test="`range-row-${letter(k)}`"
              @click.stop="range.choose(k)"
            >
              <b>{{ letter(k) }}</b>
              <svg width="30" height="8" aria-hidden="true">
                <path d="M0 4H30" :stroke-dasharray="DASHES[k]" />
              </svg>
              {{ names[k] }}
            </button>
          </th>
          <td v-for="c in COLUMNS" :key="c.title" class="num">
            {{ cell(c, f) }}
            <small>{{ difference(c, f) }}</small>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 14px;
}
th,
td {
  padding: 3px 4px;
  border-bottom: 1px solid var(--rule-soft);
  text-align: left;
  vertical-align: top;
}
thead th {
  color: var(--ink-soft);
  font-weight: 400;
  white-space: nowrap;
}
.num {
  text-align: right;
  white-space: nowrap;
}
/* Units and differences stand below, so that every column fits beside a wide plan. */
small {
  display: block;
  min-height: 1.2em;
  color: var(--ink-soft);
}
tbody tr {
  cursor: pointer;
}
tbody th {
  min-width: 112px;
  font-weight: 400;
}
button {
  min-height: 34px;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
path {
  stroke: currentColor;
  stroke-width: 2.5;
}
.chosen {
  background: var(--sunk);
}
.chosen button {
  color: var(--accent);
}
/* On a phone the figures of a throw stand below its name. */
@media (max-width: 600px) {
  table {
    display: block;
    font-size: 12px;
  }
  thead,
  tbody {
    display: block;
  }
  tr {
    display: grid;
    grid-template-columns: 1fr 1fr 1.35fr 1.35fr 0.9fr 0.9fr 1fr 1.35fr;
  }
  thead th:first-child,
  tbody th {
    grid-column: 1 / -1;
    border-bottom: 0;
  }
  thead th:first-child {
    display: none;
  }
  th,
  td,
  thead th,
  .num {
    padding: 3px 2px;
    white-space: normal;
  }
}
</style>
