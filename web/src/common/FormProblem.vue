<script setup lang="ts">
// What the server says about a form, beside its buttons.
import type { ProblemError } from '@/api/client'

defineProps<{ problem: ProblemError | null }>()
</script>

<template>
  <p v-if="problem" class="problem" role="alert">{{ problem.message }}</p>
</template>

<style scoped>
.problem {
  margin: 12px 0;
  padding: 8px 12px;
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
</style>
