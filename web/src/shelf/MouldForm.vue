<script setup lang="ts">
import { type Ref, ref, watch } from 'vue'
import { api, type Mould, type MouldSpec, take } from '@/api/client'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import NumbersFields from '@/shelf/NumbersFields.vue'
import { useThingForm } from '@/shelf/form'
import { ifMatch, useActions } from '@/api/useData'
import { SLOTS } from '@/common/disc'
import { MEASURES, mouldSpecOf, newMould, SUPPLIES } from '@/shelf/mould'

const props = defineProps<{ mould: Mould | null }>()
const open = defineModel<boolean>({ required: true })
const actions = useActions()
const spec = ref(newMould()) as Ref<MouldSpec>
const { problem, busy, guard, close, clashes, begin, save, settle } = useThingForm(
  open,
  spec,
  () => props.mould !== null,
  async (body, etag) => {
    const params = { path: { id: props.mould?.id ?? 0 }, header: ifMatch(etag) }
    await take(api.PUT('/api/moulds/{id}', { params, body }))
    await actions.refresh()
  },
  { send: (body) => take(api.POST('/api/moulds', { body })), where: 'in the library' },
)
watch(
  open,
  (now) => {
    if (!now) return
    if (props.mould) begin(mouldSpecOf(props.mould), props.mould.etag)
    else begin(newMould())
  },
  { immediate: true },
)

const FEEL = [
  { key: 'bead', label: 'Bead on the rim' },
  { key: 'thumb_track', label: 'Thumb track' },
] as const
/** A select knows no null. */
const KNOWN = { unknown: null, yes: true, no: false } as const
const said = (value: boolean | null | undefined) => (value == null ? 'unknown' : value ? 'yes' : 'no')
</script>

<template>
  <el-dialog
    v-model="open"
    :title="mould ? `Edit ${mould.name}` : 'Add a mould'"
    width="600px"
    top="5vh"
    data-test="mould-form"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form @submit.prevent="save">
      <p v-if="mould && mould.discs > 0" class="soft">
        {{ mould.discs === 1 ? 'One disc' : `${mould.discs} discs` }} of it on the shelf take a new name or
        maker; what is printed on them stays.
      </p>
      <div class="grid">
        <label data-needed
          ><span>Name</span><el-input v-model="spec.name" name="name" maxlength="60" data-test="mould-name"
        /></label>
        <label data-needed
          ><span>Maker</span
          ><el-input v-model="spec.maker" name="maker" maxlength="60" data-test="mould-maker"
        /></label>
      </div>
      <NumbersFields v-model="spec.printed" legend="Numbers" />
      <div class="grid">
        <label>
          <span>Slot</span>
          <el-select v-model="spec.class" clearable placeholder="by its speed">
            <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Flies as printed at, g</span>
          <el-input-number v-model="spec.reference_mass_g" :min="100" :max="200" controls-position="right" />
        </label>
        <label v-for="m in MEASURES" :key="m.key">
          <span>{{ m.label }}</span>
          <el-input-number
            v-model="spec[m.key]"
            :min="m.min"
            :max="m.max"
            :step="m.step"
            controls-position="right"
            placeholder="unknown"
            :data-test="`mould-${m.key}`"
          />
        </label>
        <label v-for="f in FEEL" :key="f.key">
          <span>{{ f.label }}</span>
          <el-select
            :model-value="said(spec[f.key])"
            @update:model-value="(v: keyof typeof KNOWN) => (spec[f.key] = KNOWN[v])"
          >
            <el-option v-for="v in Object.keys(KNOWN)" :key="v" :value="v" :label="v" />
          </el-select>
        </label>
        <label>
          <span>To be had</span>
          <el-select v-model="spec.supply" data-test="mould-supply">
            <el-option v-for="(label, value) in SUPPLIES" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
      </div>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <div class="acts">
        <el-button @click="close">Cancel</el-button>
        <el-button type="primary" native-type="submit" :loading="busy" data-test="mould-save">{{
          mould ? 'Save' : 'Add to the library'
        }}</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
  margin: 8px 0 12px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number,
.el-select {
  width: 100%;
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
</style>
