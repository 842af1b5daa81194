<script setup lang="ts">
// What the throws of a session say of the hand that threw them: the habit behind them, and which disc would show it.
import { computed } from 'vue'
import type { Style } from '@/api/client'
import ProblemNote from '@/common/ProblemNote.vue'
import { percent } from '@/common/units'
import type { useSessionReading } from '@/field/useField'
import { STYLES } from '@/lines/line'

const props = defineProps<{ query: ReturnType<typeof useSessionReading> }>()
const emit = defineEmits<{ form: [it: { disc_id: number; style: Style }] }>()
const read = computed(() => props.query.data.value)
const first = computed(() => read.value?.form?.discs[0])
function lay() {
  const form = read.value?.form
  if (form && first.value) emit('form', { disc_id: first.value.disc_id, style: form.style })
}
</script>

<template>
  <section class="panel" data-test="habits">
    <h2>What your throws say of the release</h2>
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <p v-else-if="!read" class="soft" role="status">
      Throwing each of them with every error it may have had…
    </p>
    <template v-else>
      <div v-for="s in read.styles" :key="s.style" :data-habits="s.style">
        <p>
          <b class="style">{{ STYLES[s.style] }}.</b> {{ s.words }}
        </p>
        <details v-if="s.faults.length">
          <summary>What they may share</summary>
          <ul>
            <li v-for="f in s.faults.filter((it) => it.share >= 0.02)" :key="f.fault">
              <span class="bar" aria-hidden="true"><i :style="{ width: `${100 * f.share}%` }" /></span>
              {{ f.words }}, {{ percent(f.share) }}
            </li>
          </ul>
          <p class="soft">
            Each error is taken to be in all of them, on top of your usual scatter, and held against where
            they ended, how high they were and how long they flew.
          </p>
        </details>
      </div>
      <p v-if="read.styles.length === 0" class="soft">
        Nothing to read yet: a throw is read when it is known how far it went.
      </p>
      <template v-if="read.form && first">
        <h3>Form check, {{ STYLES[read.form.style] }}</h3>
        <p data-test="form-words">{{ read.form.words }}</p>
        <el-button data-test="form-check" @click="lay">Throw {{ first.name }} next</el-button>
      </template>
    </template>
  </section>
</template>

<style scoped>
.style {
  text-transform: capitalize;
}
summary {
  min-height: 36px;
  padding-top: 6px;
  cursor: pointer;
}
ul {
  margin: 0 0 6px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 28px;
}
.bar {
  flex: 0 0 84px;
  height: 10px;
  border: 1px solid var(--ink);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--ink);
}
h3 {
  margin: 10px 0 4px;
}
</style>
