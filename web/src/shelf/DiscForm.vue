<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, asProblem, type Disc, type DiscSpec, type ProblemError, take } from '@/api/client'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import { useSaving } from '@/api/saving'
import { specOf, useActions, usePlastics } from '@/api/useData'
import { GRADES, newDisc, TOPS, USES } from '@/common/disc'

const props = defineProps<{ disc: Disc | null; like?: Partial<DiscSpec> | undefined }>()
const open = defineModel<boolean>({ required: true })

const plastics = usePlastics()
const actions = useActions()
const spec = ref<DiscSpec>(newDisc())
const problem = ref<ProblemError | null>(null)
const saving = useSaving<DiscSpec>((body, etag) => actions.sendDisc(props.disc?.id ?? 0, body, etag))
const { clashes } = saving
const counted = ref(false)
const observed = ref(false)

watch(open, (now) => {
  if (!now) return
  problem.value = null
  const shown = props.disc && actions.shownDisc(props.disc.id)
  if (shown) {
    const { spec: seen, etag } = specOf(shown)
    saving.begin(seen, etag)
    spec.value = seen
  } else spec.value = { ...newDisc(), ...props.like }
  counted.value = spec.value.wear.throws != null
  observed.value = spec.value.observed != null
})
watch(counted, (on) => (spec.value.wear.throws = on ? (spec.value.wear.throws ?? 0) : null))
watch(observed, (on) => {
  spec.value.observed = on ? (spec.value.observed ?? { ...spec.value.printed }) : null
})

const title = computed(() => (props.disc ? `Edit ${props.disc.name}` : 'Add a disc'))
const NUMBERS = [
  { key: 'speed', label: 'Speed', min: 0.5, max: 15 },
  { key: 'glide', label: 'Glide', min: 0, max: 8 },
  { key: 'turn', label: 'Turn', min: -8, max: 3 },
  { key: 'fade', label: 'Fade', min: -1, max: 7 },
] as const

function saved(done: boolean) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`${spec.value.name} is saved${saving.kept.value}`)
  open.value = false
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

async function save() {
  problem.value = null
  if (props.disc) return saved(await saving.save(spec.value))
  try {
    const disc = await take(api.POST('/api/discs', { body: spec.value }))
    await actions.refresh()
    actions.did(`${disc.name} is on the shelf`)
    open.value = false
  } catch (error) {
    problem.value = asProblem(error)
  }
}
</script>

<template>
  <el-dialog v-model="open" :title="title" width="640px" top="4vh" data-test="disc-form">
    <form @submit.prevent="save">
      <div class="grid">
        <label class="wide">
          <span>Name</span>
          <el-input v-model="spec.name" maxlength="60" placeholder="what you call it" data-test="disc-name" />
        </label>
        <label>
          <span>Maker</span><el-input v-model="spec.maker" maxlength="60" data-test="disc-maker" />
        </label>
        <label>
          <span>Mould</span><el-input v-model="spec.mould" maxlength="60" data-test="disc-mould" />
        </label>
      </div>
      <fieldset>
        <legend>Printed numbers</legend>
        <label v-for="n in NUMBERS" :key="n.key">
          <span>{{ n.label }}</span>
          <el-input-number
            v-model="spec.printed[n.key]"
            :min="n.min"
            :max="n.max"
            :step="0.5"
            controls-position="right"
            :data-test="`disc-${n.key}`"
          />
        </label>
      </fieldset>
      <fieldset>
        <legend>
          <el-checkbox v-model="observed">I know better: what it did when new</el-checkbox>
        </legend>
        <template v-if="spec.observed">
          <label v-for="n in NUMBERS" :key="n.key">
            <span>{{ n.label }}</span>
            <el-input-number
              v-model="spec.observed[n.key]"
              :min="n.min"
              :max="n.max"
              :step="0.5"
              controls-position="right"
            />
          </label>
        </template>
      </fieldset>
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
        <label>
          <span>Weight, g</span
          ><el-input-number
            v-model="spec.mass_g"
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
        <span>Notes</span><el-input v-model="spec.notes" type="textarea" :rows="2" maxlength="2000" />
      </label>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <div class="acts">
        <el-button @click="open = false">Cancel</el-button>
        <el-button type="primary" native-type="submit" data-test="disc-save">
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
