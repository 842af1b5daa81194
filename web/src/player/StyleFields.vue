<script setup lang="ts">
// How often each style is thrown, which are not, and how somebody putts.
import { computed } from 'vue'
import type { Style } from '@/api/client'
import { PUTTING, type Habits } from '@/player/form'
import { STYLES } from '@/lines/line'

const props = defineProps<{ strong: Style }>()
const habits = defineModel<Habits>('habits', { required: true })
const say = (part: Partial<Habits>) => (habits.value = { ...habits.value, ...part })

const THROWN = ['backhand', 'forehand', 'thumber', 'tomahawk'] as const satisfies readonly Style[]
const told = computed(() => habits.value.shares.length > 0)
const pct = (style: Style) => habits.value.shares.find((s) => s.style === style)?.pct
const all = computed(() => habits.value.shares.reduce((sum, s) => sum + s.pct, 0))
const isSpared = (style: Style) => habits.value.avoid.includes(style)

function tell(yes: boolean) {
  const other = props.strong === 'forehand' ? 'backhand' : 'forehand'
  const shares: Habits['shares'] = isSpared(other)
    ? [{ style: props.strong, pct: 100 }]
    : [
        { style: props.strong, pct: 75 },
        { style: other, pct: 25 },
      ]
  say({ shares: yes ? shares : [] })
}
function share(style: Style, value: number | undefined | null) {
  const rest = habits.value.shares.filter((s) => s.style !== style)
  const kept = value === undefined || value === null ? rest : [...rest, { style, pct: value }]
  say({ shares: kept })
}
function spare(style: Style, yes: boolean) {
  const rest = habits.value.avoid.filter((s) => s !== style)
  say({
    avoid: yes ? [...rest, style] : rest,
    // What is not thrown has no share.
    shares: yes ? habits.value.shares.filter((s) => s.style !== style) : habits.value.shares,
  })
}
</script>

<template>
  <div class="wide">
    <el-checkbox :model-value="told" data-test="tell-shares" @update:model-value="tell($event === true)">
      I know how often I throw each style
    </el-checkbox>
    <p class="soft">
      Of a hundred throws, putts aside. Without it, what your lines ask for decides; with it, each style's
      lines come up as often as you say.
    </p>
  </div>
  <template v-if="told">
    <label v-for="style in THROWN.filter((s) => !isSpared(s))" :key="style">
      <span>{{ STYLES[style] }}, %</span>
      <el-input-number
        :model-value="pct(style)"
        :min="0"
        :max="100"
        placeholder="0"
        controls-position="right"
        :data-test="`share-${style}`"
        @update:model-value="share(style, $event)"
      />
    </label>
    <p class="wide sum" :class="{ odd: Math.abs(all - 100) > 0.5 }" role="status">
      Together {{ Math.round(all) }} %{{ Math.abs(all - 100) > 0.5 ? '; make it 100 %' : '' }}
    </p>
  </template>
  <fieldset class="wide">
    <legend>Styles I do not throw, to spare the arm or because I never learnt them</legend>
    <el-checkbox
      v-for="style in THROWN.filter((s) => s !== strong)"
      :key="style"
      :model-value="isSpared(style)"
      :data-test="`avoid-${style}`"
      @update:model-value="spare(style, $event === true)"
    >
      {{ STYLES[style] }}
    </el-checkbox>
    <p class="soft">
      No line is asked in them, and lines of your own in them do not count. Pain in an arm is a matter for a
      doctor.
    </p>
  </fieldset>
  <div class="wide">
    <el-checkbox
      :model-value="habits.rollers"
      data-test="throw-rollers"
      @update:model-value="say({ rollers: $event === true })"
    >
      I throw rollers
    </el-checkbox>
    <p class="soft">
      They come down on their edge and run on it. With them lines are added that a worn understable disc
      answers best. They go far and not always where they should: throw one only where nobody is anywhere
      near.
    </p>
  </div>
  <label>
    <span>I putt</span>
    <el-select
      :empty-values="[null]"
      :model-value="habits.putting ?? ''"
      data-test="putting-style"
      @update:model-value="say({ putting: $event === '' ? null : $event })"
    >
      <el-option value="" label="as most do" />
      <el-option v-for="(label, value) in PUTTING" :key="value" :value="value" :label="label" />
    </el-select>
  </label>
</template>

<style scoped>
.wide {
  grid-column: 1 / -1;
}
fieldset {
  min-width: 0;
  padding: 0;
  margin: 0;
  border: 0;
}
legend,
label > span {
  display: block;
  padding: 0;
  color: var(--ink-soft);
  font-size: 14px;
}
.el-input-number,
.el-select {
  width: 100%;
}
.odd {
  font-weight: 700;
}
</style>
