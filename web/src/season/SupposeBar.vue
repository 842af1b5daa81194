<script setup lang="ts">
// What if: a disc lost, a fresh one bought, more or less play. Nothing of it is kept.
import { computed } from 'vue'
import type { Suppose } from '@/api/client'
import { useBag, useDiscs, useMoulds } from '@/api/useData'
import { AS_IT_IS, isSupposed } from '@/season/year'

const suppose = defineModel<Suppose>({ required: true })
const say = (part: Partial<Suppose>) => (suppose.value = { ...suppose.value, ...part })
const bag = useBag()
const discs = useDiscs()
const moulds = useMoulds()
const names = new Intl.Collator(undefined, { numeric: true })
const carried = computed(() => {
  const ids = new Set(bag.data.value?.carried.map((c) => c.disc_id))
  return (discs.data.value ?? [])
    .filter((d) => ids.has(d.id))
    .toSorted((a, b) => names.compare(a.name, b.name))
})
const library = computed(() => (moulds.data.value ?? []).toSorted((a, b) => names.compare(a.name, b.name)))
</script>

<template>
  <details class="if" :open="isSupposed(suppose) || undefined" data-test="suppose">
    <summary>What if a disc is lost, a fresh one comes, you play more?</summary>
    <div class="suppose">
      <label>
        <span>What if these are lost</span>
        <el-select
          :model-value="suppose.lost"
          multiple
          collapse-tags
          filterable
          :multiple-limit="20"
          placeholder="none"
          data-test="suppose-lost"
          @update:model-value="say({ lost: $event })"
        >
          <el-option v-for="d in carried" :key="d.id" :value="d.id" :label="d.name" />
        </el-select>
      </label>
      <label>
        <span>and these come, fresh</span>
        <el-select
          :model-value="suppose.bought"
          multiple
          collapse-tags
          filterable
          :multiple-limit="20"
          placeholder="none"
          data-test="suppose-bought"
          @update:model-value="say({ bought: $event })"
        >
          <el-option v-for="m in library" :key="m.id" :value="m.id" :label="m.name" />
        </el-select>
      </label>
      <label>
        <span
          >and I play <b>{{ suppose.play ?? 1 }}</b> times as much</span
        >
        <input
          :value="suppose.play ?? 1"
          type="range"
          min="0"
          max="4"
          step="0.25"
          :aria-valuetext="`${suppose.play ?? 1} times as much`"
          data-test="suppose-play"
          @input="say({ play: Number(($event.target as HTMLInputElement).value) })"
        />
      </label>
      <el-button v-if="isSupposed(suppose)" data-test="suppose-nothing" @click="suppose = { ...AS_IT_IS }"
        >As it is</el-button
      >
    </div>
  </details>
</template>

<style scoped>
summary {
  padding: 9px 0;
  cursor: pointer;
}
.suppose {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: end;
  margin: 0 0 12px;
}
label {
  flex: 1 1 200px;
  max-width: 300px;
}
label > span {
  display: block;
  font-size: 14px;
  color: var(--ink-soft);
}
.el-select,
input {
  width: 100%;
}
</style>
