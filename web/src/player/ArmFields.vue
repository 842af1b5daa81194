<script setup lang="ts">
// How somebody throws: hand, strong style, how far, how repeatable.
import type { Player } from '@/api/client'
import { SKILLS } from '@/player/form'
import { unit } from '@/common/units'

const form = defineModel<Player>({ required: true })

const DRIVES = [
  { key: 'backhand_m', label: 'Backhand drive' },
  { key: 'forehand_m', label: 'Forehand drive' },
] as const
const distance = () => unit(form.value.units, 'distance')
const get = (m: number) => Math.round(10 * distance().toShown(m)) / 10
</script>

<template>
  <div class="field">
    <span id="hand-label">Throwing hand</span>
    <el-radio-group v-model="form.hand" aria-labelledby="hand-label">
      <el-radio-button value="right">Right</el-radio-button>
      <el-radio-button value="left">Left</el-radio-button>
    </el-radio-group>
  </div>
  <div class="field">
    <span id="style-label">Strong style</span>
    <el-radio-group v-model="form.strong_style" aria-labelledby="style-label">
      <el-radio-button value="backhand">Backhand</el-radio-button>
      <el-radio-button value="forehand">Forehand</el-radio-button>
    </el-radio-group>
  </div>
  <label v-for="n in DRIVES" :key="n.key" data-needed>
    <span>{{ n.label }}, {{ distance().symbol }}</span>
    <el-input-number
      :model-value="get(form[n.key])"
      controls-position="right"
      :name="n.key"
      :data-test="`player-${n.key}`"
      @update:model-value="form[n.key] = $event == null ? form[n.key] : distance().toSi($event)"
    />
  </label>
  <label>
    <span>Overhand, {{ distance().symbol }}</span>
    <el-input-number
      :model-value="form.overhand_m == null ? undefined : get(form.overhand_m)"
      placeholder="none"
      controls-position="right"
      data-test="player-overhand_m"
      @update:model-value="
        form.overhand_m = $event === undefined || $event === null ? null : distance().toSi($event)
      "
    />
  </label>
  <label>
    <span>How repeatable</span>
    <el-select v-model="form.skill" data-test="player-skill">
      <el-option v-for="(label, value) in SKILLS" :key="value" :value="value" :label="label" />
    </el-select>
  </label>
</template>

<style scoped>
label > span,
.field > span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
.el-input-number,
.el-select {
  width: 100%;
}
</style>
