<script setup lang="ts">
import { ref } from 'vue'
import { api, asProblem, type ProblemError, take } from '@/api/client'
import FormProblem from '@/common/FormProblem.vue'
import { useLogOut } from '@/offline/useLogOut'

const emit = defineEmits<{ entered: [] }>()
const out = useLogOut()
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
      <p v-if="out.isOut" role="status" data-test="logged-out">
        You are logged out. This device has forgotten what it kept.
        <template v-if="out.isPending">
          Zinc Kite does not answer now: your session there ends as soon as it does.
        </template>
      </p>
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
