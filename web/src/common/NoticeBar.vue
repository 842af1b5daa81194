<script setup lang="ts">
import { computed } from 'vue'
import { useNotice } from '@/common/stores/notice'

const notice = useNotice()
const canUndo = computed(() => !notice.isError && notice.undoable.at(-1)?.label === notice.message)
</script>

<template>
  <!-- It is there before anything is said: only then is what comes into it read out. -->
  <div :role="notice.isError ? 'alert' : 'status'">
    <div
      v-if="notice.message"
      class="notice"
      :class="{ error: notice.isError }"
      @pointerenter="notice.hold()"
      @focusin="notice.hold()"
    >
      <span>{{ notice.message }}</span>
      <button v-if="canUndo" type="button" @click="notice.undo()">Undo (z)</button>
      <button type="button" @click="notice.dismiss()">Close</button>
    </div>
  </div>
</template>

<style scoped>
.notice {
  position: fixed;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  z-index: 4000;
  display: flex;
  align-items: center;
  gap: 14px;
  width: max-content;
  max-width: min(760px, calc(100vw - 20px));
  padding: 8px 8px 8px 18px;
  background: var(--ink);
  color: var(--panel);
  border-radius: 4px;
  box-shadow: 0 3px 14px rgb(0 0 0 / 35%);
}
.notice.error {
  background: var(--panel);
  color: var(--ink);
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
button {
  min-height: 40px;
  padding: 0 12px;
  background: transparent;
  border: 1px solid currentColor;
  border-radius: 3px;
  color: inherit;
  font: inherit;
  font-weight: 650;
  white-space: nowrap;
  cursor: pointer;
}
@media (max-width: 900px) {
  .notice {
    bottom: 66px;
  }
}
</style>
