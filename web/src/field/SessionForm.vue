<script setup lang="ts">
// A session: where, when, what for, and what is the same for all its throws.
import { computed, ref, watch } from 'vue'
import type { FieldSession, SessionEntry } from '@/api/client'
import FormProblem from '@/common/FormProblem.vue'
import { useGuarded } from '@/common/useGuarded'
import { PURPOSES, type ShownLog } from '@/field/log'
import { GROUNDS } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'
import { dateOf } from '@/round/played'

const props = defineProps<{
  /** Undefined for one that is to begin. */
  log: ShownLog | undefined
  /** Others, into which it may go. */
  others: readonly SessionEntry[]
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ save: [session: FieldSession]; remove: []; merge: [into: string] }>()
const { get, toSi, symbol } = useFigures()

const form = ref<FieldSession>()
const latitude = ref<number>()
const longitude = ref<number>()
const fresh = (): FieldSession => ({
  place: props.others[0]?.place ?? '',
  date: dateOf(new Date()),
  purpose: 'practice',
  temperature_c: null,
  altitude_m: null,
  tee: null,
  aim_deg: null,
  ground: 'turf',
  wet: false,
  note: '',
})
watch(
  open,
  (now) => {
    if (!now) return (form.value = undefined)
    const { place, date, purpose, temperature_c, altitude_m, tee, aim_deg, ground, wet, note } =
      props.log ?? fresh()
    form.value = { place, date, purpose, temperature_c, altitude_m, tee, aim_deg, ground, wet, note }
    latitude.value = tee?.latitude_deg
    longitude.value = tee?.longitude_deg
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => [form.value, latitude.value, longitude.value])
const ready = computed(() => (form.value?.place.trim() ?? '') !== '' && !!form.value?.date)
function save() {
  if (!form.value || !ready.value) return
  const tee =
    latitude.value == null || longitude.value == null
      ? null
      : { latitude_deg: latitude.value, longitude_deg: longitude.value }
  emit('save', { ...form.value, tee })
  close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="log ? 'The session' : 'A session begins'"
    width="min(720px, 98vw)"
    top="6vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form v-if="form" novalidate @submit.prevent="save">
      <div class="fields">
        <label data-needed
          ><span>Place</span>
          <el-input
            v-model="form.place"
            maxlength="80"
            placeholder="a field you know"
            data-test="session-place"
          />
        </label>
        <label data-needed
          ><span>Day</span>
          <el-date-picker v-model="form.date" type="date" value-format="YYYY-MM-DD" :clearable="false" />
        </label>
        <label
          ><span>What for</span>
          <el-select v-model="form.purpose">
            <el-option v-for="(label, p) in PURPOSES" :key="p" :value="p" :label="label" />
          </el-select>
        </label>
        <label
          ><span>Ground</span>
          <el-select v-model="form.ground">
            <el-option v-for="(label, g) in GROUNDS" :key="g" :value="g" :label="label" />
          </el-select>
        </label>
        <label
          ><span>Temperature, {{ symbol('temperature') }}</span>
          <el-input-number
            :model-value="get(form.temperature_c, 'temperature')"
            placeholder="as home"
            controls-position="right"
            @update:model-value="form.temperature_c = toSi($event, 'temperature')"
          />
        </label>
        <label
          ><span>Above the sea, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(form.altitude_m, 'distance')"
            placeholder="as home"
            controls-position="right"
            @update:model-value="form.altitude_m = toSi($event, 'distance')"
          />
        </label>
        <label
          ><span>Aim, ° from north</span>
          <el-input-number
            v-model="form.aim_deg"
            :min="0"
            :max="360"
            placeholder="not known"
            controls-position="right"
            data-test="session-aim"
          />
        </label>
        <label
          ><span>Tee, latitude °</span>
          <el-input-number
            v-model="latitude"
            :min="-90"
            :max="90"
            :controls="false"
            data-test="tee-latitude"
          />
        </label>
        <label
          ><span>Tee, longitude °</span>
          <el-input-number
            v-model="longitude"
            :min="-180"
            :max="180"
            :controls="false"
            data-test="tee-longitude"
          />
        </label>
      </div>
      <el-checkbox v-model="form.wet">Wet</el-checkbox>
      <label class="wide"
        ><span>Note</span><el-input v-model="form.note" type="textarea" maxlength="2000" :rows="2"
      /></label>
      <FormProblem :problem="null" />
      <div class="acts">
        <template v-if="log">
          <el-button data-test="delete-session" @click="(emit('remove'), close())">Delete</el-button>
          <el-select
            v-if="others.length"
            :model-value="null"
            placeholder="Put its throws into…"
            aria-label="Put its throws into another session"
            data-test="merge-session"
            @update:model-value="(into: string) => (emit('merge', into), close())"
          >
            <el-option v-for="s in others" :key="s.key" :value="s.key" :label="`${s.date}, ${s.place}`" />
          </el-select>
        </template>
        <span class="grow" />
        <el-button @click="guard(() => (open = false))">Cancel</el-button>
        <el-button type="primary" native-type="submit" data-test="save-session">{{
          log ? 'Save' : 'Begin'
        }}</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 8px 12px;
  align-items: end;
}
.fields label,
.wide {
  display: grid;
  gap: 2px;
}
.fields label span:first-child,
.wide span:first-child {
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number,
.fields :deep(.el-date-editor) {
  width: 100%;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 14px;
}
.acts .el-button {
  margin: 0;
}
.acts .el-select {
  width: 200px;
}
.grow {
  flex: 1;
}
</style>
