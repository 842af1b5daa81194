<script setup lang="ts">
// Where a disc is, what ties the player to it, what it is kept for.
import type { DiscSpec } from '@/api/client'
import { GRADES, STATUSES, TIES } from '@/common/disc'
import MarkList from '@/shelf/MarkList.vue'
import { STYLES } from '@/lines/line'

const keeping = defineModel<NonNullable<DiscSpec['keeping']>>({ required: true })
defineProps<{ observed: boolean }>()
</script>

<template>
  <div class="grid">
    <label>
      <span>Status</span>
      <el-select v-model="keeping.status" data-test="disc-status">
        <el-option v-for="(label, value) in STATUSES" :key="value" :value="value" :label="label" />
      </el-select>
    </label>
    <label v-if="keeping.status === 'trial'">
      <span>Trial until</span>
      <el-date-picker
        v-model="keeping.trial_until"
        value-format="YYYY-MM-DD"
        type="date"
        placeholder="no date"
      />
    </label>
    <label>
      <span>Kept for</span>
      <el-select v-model="keeping.kept_for" multiple placeholder="every style" data-test="disc-kept-for">
        <el-option v-for="(label, value) in STYLES" :key="value" :value="value" :label="label" />
      </el-select>
    </label>
    <label>
      <span>Ties</span>
      <el-select v-model="keeping.ties" multiple placeholder="none" data-test="disc-ties">
        <el-option v-for="(label, value) in TIES" :key="value" :value="value" :label="label" />
      </el-select>
    </label>
    <label>
      <span>Where kept</span><el-input v-model="keeping.place" maxlength="60" data-test="disc-place" />
    </label>
    <label>
      <span>Run</span><el-input v-model="keeping.run" maxlength="60" placeholder="year, stamp, batch" />
    </label>
    <label>
      <span>Price</span>
      <el-input-number
        v-model="keeping.price"
        :min="0"
        :max="10000"
        controls-position="right"
        placeholder="unknown"
      />
    </label>
    <label v-if="observed">
      <span>Observed on</span>
      <el-date-picker
        v-model="keeping.observed_on"
        value-format="YYYY-MM-DD"
        type="date"
        placeholder="no date"
      />
    </label>
    <label v-if="observed">
      <span>It then was</span>
      <el-select v-model="keeping.observed_worn" data-test="observed-worn">
        <el-option v-for="(label, value) in GRADES" :key="value" :value="value" :label="label" />
      </el-select>
    </label>
    <MarkList class="wide" :model-value="keeping.marks ?? []" @update:model-value="keeping.marks = $event" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 10px 14px;
  padding: 8px 0 4px;
}
.wide {
  grid-column: 1 / -1;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number,
.el-select,
label :deep(.el-date-editor) {
  width: 100%;
}
</style>
