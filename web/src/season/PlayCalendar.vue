<script setup lang="ts">
// How much is played and practised in every month: what the wear of every disc goes by.
import { computed } from 'vue'
import type { PlayMonth } from '@/api/client'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import { usePlayerForm } from '@/player/form'
import { MONTHS } from '@/season/year'

const { form, habits, changed, save, settle, problem, clashes } = usePlayerForm()

const GROUNDS: Record<NonNullable<PlayMonth['ground']>, string> = {
  open: 'open',
  mixed: 'some trees',
  woods: 'woods',
}
const FIELDS = [
  { key: 'rounds_a_week', label: 'Rounds a week', most: 14, step: 0.5 },
  { key: 'practice_throws_a_week', label: 'Throws in practice a week', most: 2000, step: 10 },
  { key: 'practice_putts_a_week', label: 'Putts in practice a week', most: 5000, step: 20 },
] as const

const months = computed<PlayMonth[]>(() => habits.value.calendar.months ?? [])
const say = (all: PlayMonth[]) => (habits.value = { ...habits.value, calendar: { months: all } })
const set = (k: number, part: Partial<PlayMonth>) =>
  say(months.value.map((m, j) => (j === k ? { ...m, ...part } : m)))
/** The months after one become like it. */
const down = (k: number) => say(months.value.map((m, j) => (j > k ? { ...(months.value[k] ?? m) } : m)))
</script>

<template>
  <form v-if="form" class="panel" novalidate data-test="calendar" @submit.prevent="save">
    <h2>How much you play</h2>
    <p class="soft">
      A disc wears by how often it is thrown: on the lines it is the one for, in every round, and in practice.
      Putts wear it little, trees ten times as much as grass.
    </p>
    <div class="scroll" tabindex="0" role="region" aria-label="Play by month">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Month</th>
            <th v-for="f in FIELDS" :key="f.key" scope="col">{{ f.label }}</th>
            <th scope="col">Rounds are in</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(name, k) in MONTHS" :key="name">
            <th scope="row">{{ name }}</th>
            <td v-for="f in FIELDS" :key="f.key">
              <el-input-number
                :model-value="months[k]?.[f.key]"
                :min="0"
                :max="f.most"
                :step="f.step"
                :controls="false"
                :aria-label="`${f.label}, ${name}`"
                :data-test="`play-${f.key}-${k + 1}`"
                @update:model-value="set(k, { [f.key]: $event ?? 0 })"
              />
            </td>
            <td>
              <el-select
                :model-value="months[k]?.ground ?? 'mixed'"
                :aria-label="`Ground, ${name}`"
                @update:model-value="set(k, { ground: $event })"
              >
                <el-option v-for="(label, value) in GROUNDS" :key="value" :value="value" :label="label" />
              </el-select>
            </td>
            <td>
              <el-button
                v-if="k < 11"
                :aria-label="`Same below ${name}`"
                :data-test="`play-down-${k + 1}`"
                @click="down(k)"
                >Same below</el-button
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <ClashNote :clashes="clashes" @settle="settle" />
    <FormProblem :problem="problem" />
    <el-button type="primary" native-type="submit" :disabled="!changed()" data-test="calendar-save"
      >Save</el-button
    >
  </form>
</template>

<style scoped>
.scroll {
  margin-bottom: 12px;
  overflow-x: auto;
}
.el-input-number {
  width: 96px;
}
.el-select {
  width: 130px;
}
td,
th {
  vertical-align: middle;
}
</style>
