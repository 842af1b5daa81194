<script setup lang="ts">
// What the server says about a form, beside its buttons.
import { computed } from 'vue'
import type { ProblemError } from '@/api/client'
import { useUnits } from '@/api/useData'
import { inWords } from '@/common/fields'

const props = defineProps<{ problem: ProblemError | null }>()
const units = useUnits()
const words = computed(() => props.problem && inWords(units.value, props.problem))
</script>

<template>
  <p v-if="problem" class="problem" role="alert">{{ words }}</p>
</template>

<style scoped>
.problem {
  margin: 12px 0;
  padding: 8px 12px;
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
</style>
