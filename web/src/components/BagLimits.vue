<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Bag, take } from '@/api/client'
import { useActions } from '@/composables/useData'
import { useNotice } from '@/stores/notice'

const props = defineProps<{ bag: Bag }>()
const actions = useActions()
const notice = useNotice()

const cap = ref<number | null>(null)
const capacity = ref(25)
watch(
  () => props.bag,
  (bag) => {
    cap.value = bag.event_cap_g ?? null
    capacity.value = bag.capacity
  },
  { immediate: true },
)
const over = computed(() => props.bag.carried.length > props.bag.capacity)

async function save() {
  if (cap.value === (props.bag.event_cap_g ?? null) && capacity.value === props.bag.capacity) return
  const { id, name } = props.bag
  const before = { name, capacity: props.bag.capacity, event_cap_g: props.bag.event_cap_g ?? null }
  const send = async (body: typeof before) => {
    await take(api.PUT('/api/bags/{id}', { params: { path: { id } }, body }))
    await actions.refresh()
  }
  await actions.attempt(async () => {
    await send({ name, capacity: capacity.value, event_cap_g: cap.value })
    notice.done('The bag’s limits are saved', () => send(before))
  })
}
</script>

<template>
  <div class="limits">
    <label>
      <span :class="{ over }">Holds</span>
      <el-input-number
        v-model="capacity"
        :min="1"
        :max="60"
        :controls="false"
        data-test="capacity"
        @change="save"
      />
    </label>
    <label>
      <span>Event cap, g</span>
      <el-input-number
        v-model="cap"
        :min="100"
        :max="220"
        :controls="false"
        placeholder="none"
        data-test="cap"
        @change="save"
      />
    </label>
  </div>
</template>

<style scoped>
.limits {
  display: flex;
  gap: 14px;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.el-input-number {
  width: 84px;
}
.over {
  color: var(--bad);
  font-weight: 700;
}
</style>
