<script setup lang="ts">
// Where an open disc is shown: beside the page where there is room for both, else over it as a sheet.
import { useEventListener, useMediaQuery } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import DiscSheet from '@/bag/DiscSheet.vue'
import { isDialogOpen } from '@/common/useShortcuts'
import { useSelection } from '@/common/stores/selection'

const selection = useSelection()
const isWide = useMediaQuery('(min-width: 1000px)')
const open = computed({
  get: () => selection.discId !== null,
  set: (on) => {
    if (!on) selection.discId = null
  },
})
const panel = ref<HTMLElement | null>(null)
/** What had the focus before the panel took it. */
let before: Element | null = null

const makesRoom = (on: boolean) => document.documentElement.classList.toggle('with-panel', on)
watch(
  () => open.value && isWide.value,
  async (shown) => {
    makesRoom(shown)
    if (shown) {
      before = document.activeElement
      await nextTick()
      panel.value?.focus()
    } else if (before instanceof HTMLElement && before.isConnected) before.focus()
  },
  { immediate: true },
)
watch(
  () => selection.discId,
  () => panel.value?.scrollTo({ top: 0 }),
)
onBeforeUnmount(() => makesRoom(false))
useEventListener('keydown', (event) => {
  if (event.key === 'Escape' && !event.defaultPrevented && isWide.value && open.value && !isDialogOpen())
    open.value = false
})
</script>

<template>
  <aside
    v-if="isWide && open"
    ref="panel"
    class="disc-drawer panel-beside"
    aria-labelledby="disc-title"
    tabindex="-1"
  >
    <el-button class="close" data-test="close-disc" @click="open = false">Close</el-button>
    <DiscSheet />
  </aside>
  <el-drawer
    v-else
    v-model="open"
    size="100%"
    class="disc-drawer"
    append-to-body
    :modal="false"
    :lock-scroll="false"
    title="Disc"
  >
    <DiscSheet v-if="open" />
  </el-drawer>
</template>

<style scoped>
.panel-beside {
  position: fixed;
  z-index: 5;
  top: var(--head-height);
  right: 0;
  bottom: 0;
  width: var(--panel-width);
  padding: 14px 18px 24px;
  overflow-y: auto;
  background: var(--panel);
  border-left: 2px solid var(--ink);
}
.panel-beside:focus {
  outline: none;
}
.close {
  float: right;
}
</style>
