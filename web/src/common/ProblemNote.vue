<script setup lang="ts">
defineProps<{ error: unknown }>()
const emit = defineEmits<{ retry: [] }>()
</script>

<template>
  <div class="problem" role="alert">
    <p>{{ error instanceof Error ? error.message : String(error) }}</p>
    <el-button @click="emit('retry')">Try again</el-button>
  </div>
</template>

<style scoped>
.problem {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding: 12px 16px;
  margin: 10px 0;
  background: var(--panel);
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
</style>
