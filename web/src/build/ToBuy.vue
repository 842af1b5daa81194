<script setup lang="ts">
// What to look for: the discs whose purchase would save most, each beside those before it.
import { computed } from 'vue'
import type { Specification } from '@/api/client'
import { useUnits } from '@/api/useData'
import { numbersText } from '@/common/disc'
import { shown, strokes } from '@/common/units'

const props = defineProps<{ discs: readonly Specification[] }>()
const units = useUnits()
const finish = (leftDeg: number) =>
  Math.abs(leftDeg) < 0.5 ? 'straight' : `${Math.abs(leftDeg).toFixed(0)}° ${leftDeg > 0 ? 'left' : 'right'}`
const list = computed(() => props.discs.map((d, k) => ({ ...d, nth: k === 0 ? 'First' : 'Then, beside it' })))
</script>

<template>
  <section data-test="to-buy">
    <p v-if="list.length === 0" class="panel">
      No disc there could be would save a stroke in a hundred rounds beside this bag.
    </p>
    <article v-for="d in list" :key="numbersText(d.numbers)" class="panel">
      <h2>{{ d.nth }}: a {{ d.slot_label }} disc that flies {{ numbersText(d.numbers) }}</h2>
      <p>
        Saves <b>{{ strokes(d.saves_strokes) }}</b> a round. Thrown flat and full by you it goes
        {{ shown(units, 'distance', d.distance_m) }} and finishes {{ finish(d.finish_left_deg) }}.
      </p>
      <p>{{ d.words }}.</p>
      <p class="soft">
        About {{ d.mass_g.toFixed(0) }} g. Printed numbers to look for:
        <template v-for="(p, k) in d.plastics" :key="p.plastic"
          >{{ k ? '; ' : '' }}{{ p.label }} {{ numbersText(p.printed) }}</template
        >.
      </p>
    </article>
  </section>
</template>

<style scoped>
p {
  margin-top: 4px;
}
</style>
