<script setup lang="ts">
// What follows if a carried disc is lost today.
import type { IfLost } from '@/api/client'
import { useSelection } from '@/common/stores/selection'
import { strokeCount } from '@/common/units'

defineProps<{ lost: readonly IfLost[]; name: (id: number) => string }>()
const selection = useSelection()
</script>

<template>
  <section class="panel" data-test="lost">
    <h2>If one is lost today</h2>
    <p class="soft">What the bag then leaves more in a round, and who takes over.</p>
    <div class="scroll" tabindex="0" role="region" aria-label="If a disc is lost">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Lost</th>
            <th scope="col" class="number">strokes</th>
            <th scope="col">then</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in lost" :key="l.disc_id" :data-lost="l.disc_id">
            <th scope="row">
              <button type="button" class="as-link" @click="selection.discId = l.disc_id">
                {{ name(l.disc_id) }}
              </button>
            </th>
            <td class="number">{{ l.strokes > 0 ? strokeCount(l.strokes) : 'none' }}</td>
            <td>{{ l.words }}.</td>
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
