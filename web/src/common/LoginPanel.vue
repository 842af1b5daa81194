<script setup lang="ts">
import { ref } from 'vue'
import { api, asProblem, type ProblemError, take } from '@/api/client'
import FormProblem from '@/common/FormProblem.vue'

const emit = defineEmits<{ entered: [] }>()
const password = ref('')
const problem = ref<ProblemError | null>(null)

async function enter() {
  problem.value = null
  try {
    await take(api.POST('/api/session', { body: { password: password.value } }))
    emit('entered')
  } catch (error) {
    problem.value = asProblem(error)
  }
}
</script>

<template>
  <div class="page">
    <form class="panel" @submit.prevent="enter">
      <h1>Log in</h1>
      <p class="soft">This Zinc Kite runs on another machine and asks for its player’s password.</p>
      <label data-needed>
        <span>Password</span>
        <el-input
          v-model="password"
          type="password"
          show-password
          autocomplete="current-password"
          data-test="password"
        />
      </label>
      <FormProblem :problem="problem" />
      <el-button type="primary" native-type="submit" data-test="log-in">Log in</el-button>
    </form>
  </div>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  max-width: 420px;
  margin: 8vh auto 0;
}
label > span {
  display: block;
  color: var(--ink-soft);
}
</style>
