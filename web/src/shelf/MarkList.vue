<script setup lang="ts">
// The days on which a disc came to a condition. They tell how fast it wears, and can be put right or added from memory.
import type { Keeping } from '@/common/disc'
import { GRADES } from '@/common/disc'

const marks = defineModel<Keeping['marks']>({ required: true })

type Mark = Keeping['marks'][number]
const change = (k: number, part: Partial<Mark>) =>
  (marks.value = marks.value.map((mark, j) => (j === k ? { ...mark, ...part } : mark)))
const drop = (k: number) => (marks.value = marks.value.filter((_, j) => j !== k))
function add() {
  const before = marks.value[0]?.on ?? new Date().toISOString().slice(0, 10)
  const year = Number(before.slice(0, 4)) - 1
  const on = `${year}${before.slice(4).replace('-02-29', '-02-28')}`
  marks.value = [{ on, grade: 'fresh', throws: null, hard_hits: 0, observed: null }, ...marks.value]
}
const MOST = 40
</script>

<template>
  <fieldset data-test="marks">
    <legend>How it wore, by date</legend>
    <p class="soft">
      A change of condition or count is noted with its day. Put right what you know better: from these days
      the year ahead learns how long the disc lasts.
    </p>
    <ul>
      <li v-for="(mark, k) in marks" :key="k">
        <el-date-picker
          :model-value="mark.on"
          value-format="YYYY-MM-DD"
          type="date"
          :clearable="false"
          :aria-label="`Day of mark ${k + 1}`"
          @update:model-value="change(k, { on: String($event) })"
        />
        <span v-if="mark.throws != null">{{ mark.throws }} throws, {{ mark.hard_hits }} hard hits</span>
        <el-select
          v-else
          :model-value="mark.grade"
          :aria-label="`Condition of mark ${k + 1}`"
          @update:model-value="change(k, { grade: $event })"
        >
          <el-option v-for="(label, value) in GRADES" :key="value" :value="value" :label="label" />
        </el-select>
        <el-button :aria-label="`Take away mark ${k + 1}`" @click="drop(k)">Take away</el-button>
      </li>
    </ul>
    <el-button v-if="marks.length < MOST" data-test="mark-add" @click="add">Add an earlier day</el-button>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  color: var(--ink-soft);
  font-size: 14px;
}
ul {
  margin: 4px 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 3px 0;
}
li > :nth-child(2) {
  flex: 1 1 120px;
}
li :deep(.el-date-editor) {
  width: 150px;
}
</style>
