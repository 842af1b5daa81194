<script setup lang="ts">
// What cost strokes: a round against its card.
import { computed } from 'vue'
import type { Account } from '@/api/client'
import { signed } from '@/common/units'
import { CAME } from '@/round/played'

const props = defineProps<{ account: Account }>()
const all = computed(() => [
  ...props.account.by_hole.map((h) => ({ ...h, key: h.name })),
  {
    key: 'all',
    name: 'All',
    over: props.account.strokes - props.account.expected,
    causes: props.account.causes,
  },
])
</script>

<template>
  <div class="panel" data-test="account">
    <h2>What cost strokes</h2>
    <p v-for="(w, k) in account.words" :key="w" :class="{ lead: k === 0 }">{{ w }}</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Hole by hole against the card">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Hole</th>
            <th scope="col" class="number">against the card</th>
            <th scope="col" class="number">another disc</th>
            <th scope="col" class="number">first throw</th>
            <th scope="col" class="number">what followed</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in all" :key="h.key" :class="{ sum: h.key === 'all' }">
            <th scope="row">{{ h.name }}</th>
            <td class="number">
              <b>{{ signed(h.over, 1) }}</b>
            </td>
            <td class="number">{{ signed(h.causes.other_disc, 1) }}</td>
            <td class="number">{{ signed(h.causes.first_throw, 1) }}</td>
            <td class="number">{{ signed(h.causes.followed, 1) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="account.came.length" class="soft">
      First throws:
      <template v-for="(c, k) in account.came" :key="c.came_of"
        >{{ k ? '; ' : '' }}{{ c.times }} {{ CAME[c.came_of] }} ({{ signed(c.cost, 1) }})</template
      >.
    </p>
    <p class="soft">
      A first throw is told by what is left from where it lies, against what its disc leaves in the mean; what
      followed is the rest: approaches and putts, and everything that was not told.
    </p>
  </div>
</template>

<style scoped>
.lead {
  font-size: 17px;
}
.scroll {
  max-width: 640px;
  margin: 10px 0;
  overflow-x: auto;
}
.sum th,
.sum td {
  border-top: 2px solid var(--ink);
  font-weight: 650;
}
</style>
