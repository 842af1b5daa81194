<script setup lang="ts">
// What feels right in the hand, use by use. A disc that differs is flagged, never forbidden.
import { computed } from 'vue'
import { useMoulds } from '@/api/useData'
import { type Feel, HAND_USES, STIFFNESS } from '@/player/form'

const feel = defineModel<Feel[]>({ required: true })
const moulds = useMoulds()
const measured = computed(() => (moulds.data.value ?? []).filter((m) => m.rim_cm || m.rim_depth_cm))
const USED = Object.keys(HAND_USES) as Feel['used'][]
const wish = (used: Feel['used']): Feel => ({
  ...{ used, rim_cm: null, rim_depth_cm: null, bead: null, thumb_track: null, stiffness: null },
  ...feel.value.find((f) => f.used === used),
})
const isEmpty = ({ used: _used, ...rest }: Feel) =>
  Object.values(rest).every((v) => v === null || v === undefined)

function set(used: Feel['used'], part: Partial<Feel>) {
  const now = { ...wish(used), ...part }
  const rest = feel.value.filter((f) => f.used !== used)
  feel.value = isEmpty(now) ? rest : [...rest, now]
}
/** What a select has for "does not matter", which is no value of its own. */
const EITHER = ''
const yesNo = (value: boolean | null | undefined) => (value === null || value === undefined ? EITHER : value)
const orNull = <T,>(value: T | typeof EITHER) => (value === EITHER ? null : value)

function likeMould(used: Feel['used'], id: number | typeof EITHER) {
  const mould = measured.value.find((m) => m.id === id)
  if (!mould) return
  set(used, {
    rim_cm: mould.rim_cm ?? null,
    rim_depth_cm: mould.rim_depth_cm ?? null,
    bead: mould.bead ?? null,
    thumb_track: mould.thumb_track ?? null,
  })
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Hand feel">
    <table data-test="feel">
      <thead>
        <tr>
          <th scope="col">To</th>
          <th scope="col">Rim, cm</th>
          <th scope="col">Rim depth, cm</th>
          <th scope="col">Bead</th>
          <th scope="col">Thumb track</th>
          <th scope="col">Plastic</th>
          <th v-if="measured.length" scope="col">As with</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="used in USED" :key="used">
          <th scope="row">{{ HAND_USES[used] }}</th>
          <td v-for="key in ['rim_cm', 'rim_depth_cm'] as const" :key="key">
            <el-input-number
              :model-value="wish(used)[key] ?? undefined"
              :min="0.5"
              :max="3"
              :step="0.1"
              :controls="false"
              placeholder="any"
              :aria-label="`${HAND_USES[used]}: ${key === 'rim_cm' ? 'rim' : 'rim depth'}, cm`"
              :data-test="`feel-${used}-${key}`"
              @update:model-value="set(used, { [key]: $event ?? null })"
            />
          </td>
          <td v-for="key in ['bead', 'thumb_track'] as const" :key="key">
            <el-select
              :empty-values="[null]"
              :model-value="yesNo(wish(used)[key])"
              :aria-label="`${HAND_USES[used]}: ${key === 'bead' ? 'bead' : 'thumb track'}`"
              @update:model-value="set(used, { [key]: orNull($event) })"
            >
              <el-option :value="EITHER" label="either" />
              <el-option :value="true" label="with" />
              <el-option :value="false" label="without" />
            </el-select>
          </td>
          <td>
            <el-select
              :empty-values="[null]"
              :model-value="wish(used).stiffness ?? EITHER"
              :aria-label="`${HAND_USES[used]}: plastic`"
              :data-test="`feel-${used}-stiffness`"
              @update:model-value="set(used, { stiffness: orNull($event) })"
            >
              <el-option :value="EITHER" label="any" />
              <el-option v-for="(label, value) in STIFFNESS" :key="value" :value="value" :label="label" />
            </el-select>
          </td>
          <td v-if="measured.length">
            <el-select
              :model-value="EITHER"
              placeholder="a mould…"
              :aria-label="`${HAND_USES[used]}: take the measures of a mould`"
              @update:model-value="likeMould(used, $event)"
            >
              <el-option v-for="m in measured" :key="m.id" :value="m.id" :label="m.name" />
            </el-select>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
th {
  padding-right: 10px;
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}
thead th {
  color: var(--ink-soft);
  font-size: 14px;
}
td {
  padding: 2px 8px 2px 0;
}
.el-input-number {
  width: 84px;
}
.el-select {
  width: 98px;
}
</style>
