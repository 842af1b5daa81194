<script setup lang="ts">
// The shelf as it is printed: every disc that is shown, a line each. It is there only while it is printed.
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import type { ShelfDisc } from '@/api/client'
import { numbersText } from '@/common/disc'
import { PEGS } from '@/shelf/shelf'
import type { Known } from '@/shelf/known'

defineProps<{ rows: readonly ShelfDisc[]; known: Known }>()
const isPrinting = ref(false)
useEventListener(window, 'beforeprint', () => (isPrinting.value = true))
useEventListener(window, 'afterprint', () => (isPrinting.value = false))
const peg = (name: string | null) => (name === null ? '' : PEGS[name as keyof typeof PEGS])
</script>

<template>
  <table v-if="isPrinting" class="figures on-paper">
    <thead>
      <tr>
        <th scope="col">Disc</th>
        <th scope="col">mould</th>
        <th scope="col">printed</th>
        <th scope="col">plastic</th>
        <th scope="col" class="number">g</th>
        <th scope="col">condition</th>
        <th scope="col">peg</th>
        <th scope="col">where</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="d in rows" :key="d.id">
        <th scope="row">{{ d.name }}</th>
        <td>{{ d.mould }}, {{ d.maker }}</td>
        <td>{{ numbersText(d.printed) }}</td>
        <td>{{ known.plasticName(d.plastic) }}</td>
        <td class="number">{{ d.mass_g }}</td>
        <td>{{ known.wear(d) }}</td>
        <td>{{ peg(known.facts(d.id).peg) }}</td>
        <td>{{ known.where(d) }}</td>
      </tr>
    </tbody>
  </table>
</template>
