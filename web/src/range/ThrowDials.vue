<script setup lang="ts">
// The dials of the chosen throw: disc, style, hand and release.
import { computed } from 'vue'
import type { RangeFlight, RangeThrow, Setting, ShelfDisc, Style } from '@/api/client'
import NumberedDisc from '@/range/NumberedDisc.vue'
import { useUnits } from '@/api/useData'
import { STYLES } from '@/lines/line'
import { type Dial, DIALS } from '@/range/range'
import { figure, percent, shown, signed } from '@/common/units'
import { useRange } from '@/range/store'

const props = defineProps<{
  throw: RangeThrow
  flight: RangeFlight | undefined
  discs: readonly ShelfDisc[]
  usual: readonly Setting[]
  hand: 'right' | 'left'
}>()

const range = useRange()
const units = useUnits()

const BY_NUMBERS = 0
const ORDINARY = { speed: 7, glide: 5, turn: -1, fade: 2 }
const disc = computed({
  get: () => (props.throw.disc.kind === 'shelf' ? props.throw.disc.disc_id : BY_NUMBERS),
  set: (id: number) => {
    const now = props.discs.find((d) => d.id === disc.value)
    range.give(
      id === BY_NUMBERS
        ? { kind: 'numbers', numbers: now ? { ...now.printed } : ORDINARY, mass_g: now?.mass_g ?? 175 }
        : { kind: 'shelf', disc_id: id },
    )
  },
})
function setStyle(style: Style) {
  const start = props.usual.find((s) => s.style === style)
  if (start) range.set({ ...start, hand: props.throw.setting.hand ?? null })
}
/** Behind the usual settings of all styles stand those of their rollers. */
const roller = computed(() => props.usual.filter((s) => s.style === props.throw.setting.style)[1])
const rollOn = (start: Setting) => range.set({ ...start, hand: props.throw.setting.hand ?? null })
const hand = computed({
  get: () => props.throw.setting.hand ?? props.hand,
  set: (h: 'right' | 'left') => range.set({ hand: h === props.hand ? null : h }),
})
function read(dial: Dial): string {
  const x = props.throw.setting[dial.key]
  if (dial.key === 'power') {
    const speed = props.flight ? ` · ${shown(units.value, 'speed', props.flight.speed_m_s, 1)}` : ''
    return percent(x) + speed
  }
  if (dial.share) return percent(x)
  if (dial.key === 'hyzer_deg' && x === 0) return 'flat'
  if (dial.key === 'nose_deg' && x === 0) return 'level'
  if (dial.key === 'hyzer_deg') return `${figure(Math.abs(x), 1)}° ${x < 0 ? 'anhyzer' : 'hyzer'}`
  if (dial.key === 'nose_deg') return `${figure(Math.abs(x), 1)}° ${x < 0 ? 'down' : 'up'}`
  if (dial.key === 'aim_deg') return x === 0 ? 'at the target' : `${signed(x)}°`
  return `${figure(x, 1)}°`
}
function turn(dial: Dial, event: Event) {
  range.set({
    [dial.key]: Number((event.target as HTMLInputElement).value),
    ...(dial.key === 'power' ? { speed_m_s: null } : {}),
  })
}
</script>

<template>
  <div class="throw" data-test="throw-dials">
    <label>
      <span>Disc</span>
      <el-select v-model="disc" filterable data-test="range-disc">
        <el-option :value="BY_NUMBERS" label="any disc, by its numbers" />
        <el-option v-for="d in discs" :key="d.id" :value="d.id" :label="d.name" />
      </el-select>
    </label>
    <NumberedDisc
      v-if="props.throw.disc.kind === 'numbers'"
      :model-value="props.throw.disc"
      @update:model-value="range.give($event)"
    />
    <div class="pair">
      <label>
        <span>Style</span>
        <el-select
          :model-value="props.throw.setting.style"
          data-test="range-style"
          @update:model-value="setStyle"
        >
          <el-option v-for="(label, value) in STYLES" :key="value" :value="value" :label="label" />
        </el-select>
      </label>
      <label>
        <span>Hand</span>
        <el-select v-model="hand" data-test="range-hand">
          <el-option value="right" label="right" />
          <el-option value="left" label="left" />
        </el-select>
      </label>
    </div>
    <el-button v-if="roller" data-test="range-roller" @click="rollOn(roller)">Throw it as a roller</el-button>
    <label v-for="dial in DIALS" :key="dial.key" class="dial">
      <span
        >{{ dial.label }} <b>{{ read(dial) }}</b></span
      >
      <input
        type="range"
        :value="props.throw.setting[dial.key]"
        :min="dial.min"
        :max="dial.max"
        :step="dial.step"
        :data-test="`range-${dial.key}`"
        @input="turn(dial, $event)"
      />
    </label>
    <p v-if="props.throw.setting.conditions" class="soft own">
      This throw has a wind of its own,
      {{ shown(units, 'speed', props.throw.setting.conditions.wind_m_s ?? 0, 1) }}.
      <button type="button" @click="range.set({ conditions: null })">Use the day's</button>
    </p>
    <el-checkbox v-model="range.together" label="Dials move all throws of this style" />
  </div>
</template>

<style scoped>
.throw {
  display: grid;
  gap: 6px;
}
label > span {
  display: flex;
  justify-content: space-between;
  color: var(--ink-soft);
  font-size: 14px;
}
label b {
  color: var(--ink);
}
.pair {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 10px;
}
input[type='range'] {
  width: 100%;
  height: 24px;
  margin: 0;
  accent-color: var(--accent);
}
.own button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  text-decoration: underline;
  font: inherit;
  cursor: pointer;
}
</style>
