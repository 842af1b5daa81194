<script setup lang="ts">
// Bags that come near the best: what is lost if one of its discs stays at home, and which discs no near bag does without.
import { computed } from 'vue'
import type { Ties } from '@/api/client'
import { LEAST_STROKES, strokeCount, strokes } from '@/common/units'

const props = defineProps<{ ties: Ties; name: (id: number | null | undefined) => string }>()
function cost({ costs_strokes, is_proven }: Ties['bags'][number]): string {
  const strokes = costs_strokes ?? 0
  const cost = strokes < LEAST_STROKES ? 'nothing' : strokeCount(strokes)
  return is_proven ? cost : `about ${cost}, not proven`
}
const near = computed(() =>
  props.ties.bags.filter((b) => b.costs_strokes != null && b.costs_strokes <= props.ties.near_strokes),
)
</script>

<template>
  <section class="panel" data-test="near">
    <h2>In every bag within {{ strokes(ties.near_strokes) }}</h2>
    <p v-if="ties.always.length" data-test="always">{{ ties.always.map((id) => name(id)).join(', ') }}.</p>
    <p v-else class="soft">None: every disc of the best bag could stay at home for less.</p>
    <h2>Could as well be another</h2>
    <p v-if="near.length === 0" class="soft">None: every disc is missed by more.</p>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Bags that come near">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Without</th>
            <th scope="col">comes</th>
            <th scope="col">goes</th>
            <th scope="col" class="number">costs</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in near" :key="b.without" :data-without="name(b.without)">
            <th scope="row">{{ name(b.without) }}</th>
            <td>{{ b.comes.map((id) => name(id)).join(', ') || '–' }}</td>
            <td>{{ b.goes.map((id) => name(id)).join(', ') }}</td>
            <td class="number">
              {{ cost(b) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
h2:not(:first-child) {
  margin-top: 14px;
}
.scroll {
  overflow-x: auto;
}
</style>
