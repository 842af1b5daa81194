<script setup lang="ts">
// How candidates are tried side by side: which, in which ways, how often, and for what.
import { computed, ref, watch } from 'vue'
import type { Meant, Style, Trial, TrialSet } from '@/api/client'
import { useDiscs, useLines } from '@/api/useData'
import { useGuarded } from '@/common/useGuarded'
import { MEANT } from '@/field/log'
import { STYLES } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'

const props = defineProps<{ trial: Trial | undefined }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ save: [trial: Trial | null] }>()
const { get, toSi, symbol } = useFigures()
const discs = useDiscs()
const lines = useLines()

interface Form {
  discs: number[]
  styles: Style[]
  meant: Meant[]
  windy: boolean
  each: number
  line: string | null
  distance_m: number | null
  within_m: number | null
}
const form = ref<Form>()
const once = <T,>(all: readonly T[]) => [...new Set(all)]
watch(
  open,
  (now) => {
    if (!now) return (form.value = undefined)
    const sets = props.trial?.sets ?? []
    form.value = {
      discs: (props.trial?.candidates ?? []).flatMap((c) => (c.disc_id == null ? [] : [c.disc_id])),
      styles: sets.length ? once(sets.map((s) => s.style)) : ['backhand'],
      meant: sets.length ? once(sets.map((s) => s.meant)) : ['flat'],
      windy: sets.some((s) => (s.wind ?? 'any') !== 'any'),
      each: props.trial?.each ?? 5,
      line: props.trial?.line ?? null,
      distance_m: props.trial?.target?.distance_m ?? null,
      within_m: props.trial?.target?.within_m ?? null,
    }
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => form.value)
const sets = computed((): TrialSet[] => {
  const { styles = [], meant = [], windy } = form.value ?? {}
  const winds = windy ? (['into', 'before'] as const) : (['any'] as const)
  return styles.flatMap((style) => meant.flatMap((how) => winds.map((wind) => ({ style, meant: how, wind }))))
})
const MOST_SETS = 12
const throws = computed(() => sets.value.length * (form.value?.each ?? 0) * (form.value?.discs.length ?? 0))
const problem = computed(() => {
  if (!form.value) return ''
  if (form.value.discs.length < 2) return 'Choose two discs at least.'
  if (sets.value.length === 0) return 'Choose a style and how it is meant.'
  if (sets.value.length > MOST_SETS)
    return `Choose fewer ways: ${sets.value.length} now, ${MOST_SETS} at most.`
  return ''
})
function save() {
  const now = form.value
  if (!now || problem.value) return
  const known = new Map((props.trial?.candidates ?? []).map((c) => [c.disc_id, c]))
  const candidates = now.discs.map((id) => {
    const disc_name = discs.data.value?.find((d) => d.id === id)?.name ?? known.get(id)?.disc_name ?? ''
    return { feel: null, note: '', ...known.get(id), disc_id: id, disc_name }
  })
  emit('save', {
    candidates,
    sets: sets.value,
    each: now.each,
    line: now.line || null,
    target:
      now.line || now.distance_m == null ? null : { distance_m: now.distance_m, within_m: now.within_m ?? 5 },
    order: props.trial?.order ?? Math.floor(Math.random() * 1e6),
  })
  close()
}
function end() {
  emit('save', null)
  close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    title="Discs side by side"
    width="min(640px, 98vw)"
    top="6vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form v-if="form" novalidate @submit.prevent="save">
      <p class="soft">
        Each disc is thrown in every way as often, in an order that no tiring arm favours. Same release each
        time; a few throws more tell more than a few ways more.
      </p>
      <label class="wide" data-needed
        ><span>Discs, two to six</span>
        <el-select v-model="form.discs" multiple filterable :multiple-limit="6" data-test="trial-discs">
          <el-option v-for="d in discs.data.value" :key="d.id" :value="d.id" :label="d.name" />
        </el-select>
      </label>
      <el-checkbox-group v-model="form.styles" aria-label="Styles">
        <el-checkbox v-for="s in ['backhand', 'forehand'] as const" :key="s" :value="s">{{
          STYLES[s]
        }}</el-checkbox>
      </el-checkbox-group>
      <el-checkbox-group v-model="form.meant" aria-label="How they are meant">
        <el-checkbox v-for="(label, how) in MEANT" :key="how" :value="how" :data-test="`trial-${how}`">{{
          label
        }}</el-checkbox>
      </el-checkbox-group>
      <el-checkbox v-model="form.windy">Into the wind and before it, walking over once a turn</el-checkbox>
      <div class="fields">
        <label
          ><span>Throws each way</span>
          <el-input-number v-model="form.each" :min="1" :max="20" :precision="0" data-test="trial-each" />
        </label>
        <label
          ><span>For the line</span>
          <el-select v-model="form.line" clearable filterable placeholder="none" data-test="trial-line">
            <el-option v-for="l in lines.data.value" :key="l.key" :value="l.key" :label="l.name" />
          </el-select>
        </label>
        <template v-if="!form.line">
          <label
            ><span>Or for a target, {{ symbol('distance') }} off</span>
            <el-input-number
              :model-value="get(form.distance_m, 'distance')"
              :min="get(5, 'distance') ?? 5"
              :max="get(200, 'distance') ?? 200"
              :controls="false"
              data-test="trial-target"
              @update:model-value="form.distance_m = toSi($event, 'distance')"
          /></label>
          <label
            ><span>within, {{ symbol('distance') }}</span>
            <el-input-number
              :model-value="get(form.within_m, 'distance')"
              :min="get(1, 'distance') ?? 1"
              :max="get(30, 'distance') ?? 30"
              :controls="false"
              :placeholder="`${get(5, 'distance')}`"
              @update:model-value="form.within_m = toSi($event, 'distance')"
          /></label>
        </template>
      </div>
      <p role="status" data-test="trial-size">
        {{ problem || `${throws} throws in all.` }}
        <template v-if="throws > 80">That is a long day for an arm: share it over two, and warm up.</template>
      </p>
      <div class="acts">
        <el-button v-if="trial" data-test="end-trial" @click="end">No trial</el-button>
        <span class="grow" />
        <el-button @click="guard(() => (open = false))">Cancel</el-button>
        <el-button type="primary" native-type="submit" :disabled="problem !== ''" data-test="save-trial">{{
          trial ? 'Save' : 'Try them'
        }}</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
label {
  display: grid;
  gap: 2px;
}
label span:first-child {
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-checkbox,
.el-checkbox-group label {
  display: inline-flex;
  min-height: 40px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 8px 12px;
  align-items: end;
}
.el-input-number {
  width: 100%;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
.acts .el-button {
  margin: 0;
}
.grow {
  flex: 1;
}
</style>
