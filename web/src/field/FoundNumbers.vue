<script setup lang="ts">
// What a disc really does, as its throws say: each number as its sum has it and as it was found, with how sure that is.
import { computed } from 'vue'
import { type FoundNumber, type ShelfDisc } from '@/api/client'
import { useActions, useDiscs } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { figure, percent } from '@/common/units'
import { useOnce } from '@/common/useOnce'
import SureBar from '@/field/SureBar.vue'
import { useFoundNumbers } from '@/field/useField'
import { dateOf } from '@/round/played'

const props = defineProps<{ disc: number }>()
const actions = useActions()
const discs = useDiscs()
const disc = computed(() => discs.data.value?.find((d) => d.id === props.disc))
const query = useFoundNumbers(() => props.disc)
const found = computed(() => query.data.value)
const rows = computed((): [string, FoundNumber][] => {
  const now = found.value
  return now
    ? [
        ['speed', now.speed],
        ['glide', now.glide],
        ['turn', now.turn],
        ['fade', now.fade],
      ]
    : []
})
/** How far either way of its sum a number is drawn. */
const REACH = 2.2

const { busy, run: takeOver } = useOnce(async () => {
  const now = found.value
  const it: ShelfDisc | undefined = disc.value
  if (!now || !it) return
  await actions.put(it.id, `${it.name} flies as its throws say from now on`, (spec) => ({
    ...spec,
    observed: now.observed,
    keeping: { ...spec.keeping, observed_on: dateOf(new Date()), observed_worn: now.observed_worn },
  }))
})
</script>

<template>
  <section class="panel" data-test="found-numbers">
    <h2>What {{ disc?.name ?? 'it' }} really does</h2>
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <p v-else-if="!found" class="soft" role="status">Throwing it with every number it may have…</p>
    <template v-else>
      <p data-test="found-words">{{ found.words }}</p>
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">number</th>
            <th scope="col" class="number">sum</th>
            <th scope="col" class="number">found</th>
            <th scope="col" class="number">in 9 of 10 cases</th>
            <th scope="col" class="wide"><span class="visually-hidden">drawn</span></th>
            <th scope="col" class="number wide">learned</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="[name, n] in rows" :key="name" :data-found="name">
            <th scope="row">{{ name }}</th>
            <td class="number">{{ figure(n.sum, 1) }}</td>
            <td class="number">
              <b>{{ figure(n.found, 1) }}</b>
            </td>
            <td class="number">{{ figure(n.low, 1) }} to {{ figure(n.high, 1) }}</td>
            <td class="wide">
              <SureBar :figure="n" :place="(value) => (value - n.sum) / REACH" />
            </td>
            <td class="number wide">{{ percent(n.learned) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="soft">
        From {{ found.used === 1 ? '1 throw' : `${found.used} throws`
        }}<template v-if="found.watched"
          >, {{ found.watched }} of them with swing, height or time told</template
        ><template v-if="found.left_out"
          >; {{ found.left_out }} more were not measured, slipped, hit something or are older than a
          year</template
        >. The sum is that of the printed numbers, plastic, weight and wear<span class="wide"
          >, drawn as a diamond; the bar holds the number in nine cases of ten</span
        >.
      </p>
      <el-button
        v-if="found.used"
        :type="found.is_enough ? 'primary' : ''"
        :loading="busy"
        data-test="take-over"
        @click="takeOver"
        >Take over as observed</el-button
      >
    </template>
  </section>
</template>

<style scoped>
table {
  margin: 8px 0;
}
@media (max-width: 600px) {
  .wide {
    display: none;
  }
}
</style>
