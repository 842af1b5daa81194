<script setup lang="ts">
import { computed, type Ref, ref, watch } from 'vue'
import { api, type Disc, type DiscSpec, take } from '@/api/client'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import KeepingFields from '@/shelf/KeepingFields.vue'
import NumbersFields from '@/shelf/NumbersFields.vue'
import { useThingForm } from '@/shelf/form'
import { specOf, useActions, useMoulds, usePlastics } from '@/api/useData'
import { GRADES, newDisc, newKeeping, SLOTS, TOPS, USES } from '@/common/disc'

const props = defineProps<{ disc: Disc | null; like?: Partial<DiscSpec> | undefined }>()
const open = defineModel<boolean>({ required: true })

const plastics = usePlastics()
const actions = useActions()
const spec = ref(newDisc()) as Ref<DiscSpec>
const { problem, busy, guard, close, clashes, begin, save, settle } = useThingForm(
  open,
  spec,
  () => props.disc !== null,
  (body, etag) => actions.sendDisc(props.disc?.id ?? 0, body, etag),
  { send: (body) => take(api.POST('/api/discs', { body })), where: 'on the shelf' },
)
const counted = ref(false)
const observed = ref(false)

watch(
  open,
  (now) => {
    if (!now) return
    const shown = props.disc && actions.shownDisc(props.disc.id)
    if (shown) {
      const { spec: seen, etag } = specOf(shown)
      begin({ ...seen, keeping: { ...newKeeping(), ...seen.keeping } }, etag)
    } else begin({ ...newDisc(), ...props.like })
    counted.value = spec.value.wear.throws != null
    observed.value = spec.value.observed != null
  },
  { immediate: true },
)
watch(counted, (on) => (spec.value.wear.throws = on ? (spec.value.wear.throws ?? 0) : null))
watch(observed, (on) => {
  spec.value.observed = on ? (spec.value.observed ?? { ...spec.value.printed }) : null
})

/** Whether something of it is said already. */
const isKept = computed(() => {
  const { marks: _marks, ...kept } = { ...newKeeping(), ...props.disc?.keeping }
  const { marks: _none, ...nothing } = newKeeping()
  return JSON.stringify(kept) !== JSON.stringify(nothing)
})

/** A mould that the library knows brings its numbers along. */
const moulds = useMoulds()
const makers = computed(() => [...new Set(moulds.data.value?.map((m) => m.maker))])
function known() {
  if (props.disc) return
  const fold = (text: string) => text.trim().toLowerCase()
  const named = (moulds.data.value ?? []).filter((m) => fold(m.name) === fold(spec.value.mould))
  const mould =
    named.find((m) => fold(m.maker) === fold(spec.value.maker)) ?? (spec.value.maker ? undefined : named[0])
  if (!mould) return
  spec.value.maker = mould.maker
  spec.value.printed = { ...mould.printed }
  spec.value.reference_mass_g = mould.reference_mass_g ?? spec.value.reference_mass_g
  spec.value.rim_cm = mould.rim_cm ?? null
  spec.value.class = mould.class ?? null
}

const title = computed(() => (props.disc ? `Edit ${props.disc.name}` : 'Add a disc'))
</script>

<template>
  <el-dialog
    v-model="open"
    :title="title"
    width="640px"
    top="4vh"
    data-test="disc-form"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form @submit.prevent="save">
      <datalist id="moulds-known">
        <option v-for="m in moulds.data.value ?? []" :key="m.id" :value="m.name">{{ m.maker }}</option>
      </datalist>
      <datalist id="makers-known">
        <option v-for="maker in makers" :key="maker" :value="maker" />
      </datalist>
      <div class="grid">
        <label class="wide" data-needed>
          <span>Name</span>
          <el-input
            v-model="spec.name"
            name="name"
            maxlength="60"
            placeholder="what you call it"
            data-test="disc-name"
          />
        </label>
        <label data-needed>
          <span>Maker</span
          ><el-input
            v-model="spec.maker"
            name="maker"
            maxlength="60"
            list="makers-known"
            data-test="disc-maker"
            @change="known"
          />
        </label>
        <label data-needed>
          <span>Mould</span
          ><el-input
            v-model="spec.mould"
            name="mould"
            maxlength="60"
            list="moulds-known"
            data-test="disc-mould"
            @change="known"
          />
        </label>
      </div>
      <NumbersFields v-model="spec.printed" legend="Printed numbers" test="disc" />
      <NumbersFields v-if="spec.observed" v-model="spec.observed" legend="">
        <el-checkbox v-model="observed">I know better: what it really did</el-checkbox>
      </NumbersFields>
      <p v-else class="better">
        <el-checkbox v-model="observed">I know better: what it really did</el-checkbox>
      </p>
      <div class="grid">
        <label>
          <span>Plastic</span>
          <el-select v-model="spec.plastic">
            <el-option
              v-for="p in plastics.data.value ?? []"
              :key="p.plastic"
              :value="p.plastic"
              :label="p.label"
            />
          </el-select>
        </label>
        <label data-needed>
          <span>Weight, g</span
          ><el-input-number
            v-model="spec.mass_g"
            name="mass_g"
            :min="60"
            :max="220"
            controls-position="right"
            data-test="disc-mass"
          />
        </label>
        <label>
          <span>Mould’s usual, g</span>
          <el-input-number v-model="spec.reference_mass_g" :min="100" :max="200" controls-position="right" />
        </label>
        <label>
          <span>Top</span>
          <el-select v-model="spec.top">
            <el-option v-for="(label, value) in TOPS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Carried for</span>
          <el-select v-model="spec.used_for">
            <el-option v-for="(label, value) in USES" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Slot</span>
          <el-select v-model="spec.class" clearable placeholder="by its speed">
            <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Rim, cm</span>
          <el-input-number
            v-model="spec.rim_cm"
            :min="0.5"
            :max="3"
            :step="0.1"
            controls-position="right"
            placeholder="unknown"
          />
        </label>
      </div>
      <fieldset>
        <legend>Wear <el-checkbox v-model="counted">I count throws</el-checkbox></legend>
        <label v-if="!counted">
          <span>Condition</span>
          <el-select v-model="spec.wear.grade" data-test="disc-grade">
            <el-option v-for="(label, value) in GRADES" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <template v-else>
          <label>
            <span>Throws</span>
            <el-input-number
              :model-value="spec.wear.throws ?? 0"
              :min="0"
              :max="1000000"
              controls-position="right"
              @update:model-value="spec.wear.throws = $event ?? 0"
            />
          </label>
          <label>
            <span>Hard hits</span>
            <el-input-number v-model="spec.wear.hard_hits" :min="0" :max="100000" controls-position="right" />
          </label>
        </template>
        <label> <span>Colour</span><input v-model="spec.colour" class="colour" type="color" /> </label>
      </fieldset>
      <label class="wide">
        <span>Notes</span
        ><el-input v-model="spec.notes" name="notes" type="textarea" :rows="2" maxlength="2000" />
      </label>
      <details class="keeping" :open="isKept">
        <summary>Status, ties, run, place</summary>
        <KeepingFields v-if="spec.keeping" v-model="spec.keeping" :observed="observed" />
      </details>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <div class="acts">
        <el-button @click="close">Cancel</el-button>
        <el-button type="primary" native-type="submit" :loading="busy" data-test="disc-save">
          {{ disc ? 'Save' : 'Add to the shelf' }}
        </el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.grid,
fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(132px, 1fr));
  gap: 10px 14px;
  margin-bottom: 12px;
}
.grid .wide {
  grid-column: span 2;
}
fieldset {
  min-width: 0;
  padding: 6px 12px 12px;
  border: 1px solid var(--rule-soft);
}
legend {
  padding: 0 6px;
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
.better {
  margin-bottom: 10px;
}
.keeping {
  margin-top: 10px;
}
.keeping summary {
  min-height: 32px;
  cursor: pointer;
}
.colour {
  width: 60px;
  height: 40px;
  padding: 2px;
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
</style>
