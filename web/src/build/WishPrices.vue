<script setup lang="ts">
// What each wish costs: the best bag with all the others.
import type { WishPrice } from '@/api/client'
import { LEAST_STROKES, strokeCount } from '@/common/units'

defineProps<{ prices: readonly WishPrice[]; name: (id: number | null | undefined) => string }>()

function cost({ costs_strokes, frees, is_proven }: WishPrice): string {
  if (frees) return 'only without it there is a bag'
  if (costs_strokes == null) return 'no bag without it either'
  const cost = costs_strokes < LEAST_STROKES ? 'nothing' : strokeCount(costs_strokes)
  return is_proven ? cost : `about ${cost}, not proven`
}
</script>

<template>
  <section class="panel" data-test="prices">
    <h2>What wishes cost, strokes a round</h2>
    <div class="scroll" tabindex="0" role="region" aria-label="Wishes and their cost">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Wish</th>
            <th scope="col">costs</th>
            <th scope="col">without it comes</th>
            <th scope="col">and goes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in prices" :key="p.wish" :data-wish="p.wish">
            <th scope="row">{{ p.wish }}</th>
            <td>{{ cost(p) }}</td>
            <td>{{ p.comes.map((id) => name(id)).join(', ') || '–' }}</td>
            <td>{{ p.goes.map((id) => name(id)).join(', ') || '–' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
