<script setup lang="ts">
// Everything that is told of a throw, to be told anew.
import { ref, watch } from 'vue'
import type { FieldThrow, ThrowTag } from '@/api/client'
import { useDiscs, useLines } from '@/api/useData'
import { useGuarded } from '@/common/useGuarded'
import { changedOf, FARTHEST_M, MEANT, type ShownThrow, TAGS } from '@/field/log'
import SeenFields from '@/field/SeenFields.vue'
import { STYLES } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'

const props = defineProps<{ it: ShownThrow | undefined }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ save: [part: Partial<FieldThrow>]; remove: [] }>()
const discs = useDiscs()
const lines = useLines()
const { get, toSi, symbol } = useFigures()

const form = ref<FieldThrow>()
const latitude = ref<number>()
const longitude = ref<number>()
watch(
  open,
  (now) => {
    form.value = now && props.it ? (JSON.parse(JSON.stringify(props.it)) as FieldThrow) : undefined
    latitude.value = props.it?.at?.latitude_deg
    longitude.value = props.it?.at?.longitude_deg
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => [form.value, latitude.value, longitude.value])
function setDisc(id: number) {
  const disc = discs.data.value?.find((d) => d.id === id)
  if (disc && form.value) form.value = { ...form.value, disc_id: id, disc_name: disc.name }
}
const at = () =>
  latitude.value == null || longitude.value == null
    ? null
    : { latitude_deg: latitude.value, longitude_deg: longitude.value }

function save() {
  const was = props.it
  if (!form.value || !was) return
  const now = { ...form.value, at: at() }
  const part = changedOf(now, was, [
    'disc_id',
    'disc_name',
    'style',
    'meant',
    'line',
    'power_pct',
    'distance_m',
    'off_deg',
    'at',
    'wind',
    'seen',
    'tags',
    'note',
  ])
  if (part) emit('save', part)
  close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    title="A throw"
    width="min(760px, 98vw)"
    top="6vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form v-if="form" novalidate @submit.prevent="save">
      <div class="fields">
        <label
          ><span>Disc</span>
          <el-select
            :model-value="form.disc_id"
            filterable
            :placeholder="form.disc_name"
            @update:model-value="setDisc"
          >
            <el-option v-for="d in discs.data.value" :key="d.id" :value="d.id" :label="d.name" />
          </el-select>
        </label>
        <label
          ><span>Style</span>
          <el-select v-model="form.style">
            <el-option v-for="(label, style) in STYLES" :key="style" :value="style" :label="label" />
          </el-select>
        </label>
        <label
          ><span>Meant</span>
          <el-select v-model="form.meant">
            <el-option v-for="(label, meant) in MEANT" :key="meant" :value="meant" :label="label" />
          </el-select>
        </label>
        <label
          ><span>For the line</span>
          <el-select v-model="form.line" clearable filterable placeholder="none">
            <el-option v-for="l in lines.data.value" :key="l.key" :value="l.key" :label="l.name" />
          </el-select>
        </label>
        <label
          ><span>Share of full power, %</span>
          <el-input-number
            v-model="form.power_pct"
            :min="20"
            :max="110"
            placeholder="100"
            controls-position="right"
          />
        </label>
        <label
          ><span>Distance, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(form.distance_m, 'distance')"
            :min="0"
            :max="get(FARTHEST_M, 'distance') ?? FARTHEST_M"
            controls-position="right"
            data-test="edit-distance"
            @update:model-value="form.distance_m = toSi($event, 'distance')"
          />
        </label>
        <label
          ><span>Off the aim, ° (left +)</span>
          <el-input-number
            v-model="form.off_deg"
            :min="-180"
            :max="180"
            controls-position="right"
            data-test="edit-off"
          />
        </label>
        <label
          ><span>Latitude, °</span>
          <el-input-number
            v-model="latitude"
            :min="-90"
            :max="90"
            :controls="false"
            data-test="edit-latitude"
          />
        </label>
        <label
          ><span>Longitude, °</span>
          <el-input-number
            v-model="longitude"
            :min="-180"
            :max="180"
            :controls="false"
            data-test="edit-longitude"
          />
        </label>
        <label
          ><span>Wind at 10 m, {{ symbol('speed') }}</span>
          <el-input-number
            :model-value="get(form.wind?.wind_m_s, 'speed')"
            :min="0"
            controls-position="right"
            @update:model-value="form.wind = { ...form.wind, wind_m_s: toSi($event, 'speed') ?? 0 }"
          />
        </label>
        <label
          ><span>From, ° clockwise of the aim</span>
          <el-input-number
            :model-value="form.wind?.from_deg"
            :min="0"
            :max="360"
            controls-position="right"
            @update:model-value="form.wind = { wind_m_s: form.wind?.wind_m_s ?? 0, from_deg: $event ?? 0 }"
          />
        </label>
        <SeenFields v-model="form.seen" />
      </div>
      <el-checkbox-group v-model="form.tags as ThrowTag[]" aria-label="What else is true of it">
        <el-checkbox v-for="(label, tag) in TAGS" :key="tag" :value="tag" :label="label" />
      </el-checkbox-group>
      <label class="wide"
        ><span>Note</span><el-input v-model="form.note" maxlength="200" data-test="edit-note"
      /></label>
      <p class="soft">Coordinates go before distance and angle, if the session says where its tee is.</p>
      <div class="acts">
        <el-button data-test="delete-throw" @click="(emit('remove'), close())">Delete</el-button>
        <span class="grow" />
        <el-button @click="guard(() => (open = false))">Cancel</el-button>
        <el-button type="primary" native-type="submit" data-test="save-throw">Save</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
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
.el-input-number {
  width: 100%;
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
.acts .el-button {
  margin: 0;
}
.grow {
  flex: 1;
}
</style>
