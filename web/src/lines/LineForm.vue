<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useManualRefHistory } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import {
  api,
  asProblem,
  type Gate,
  type Line,
  type LineSpec,
  type LineVerdict,
  type ProblemError,
  type Style,
  take,
} from '@/api/client'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions, useUnits } from '@/api/useData'
import { SLOTS } from '@/common/disc'
import DrawnLine from '@/lines/DrawnLine.vue'
import { FOOTINGS, GROUNDS, LANDINGS, STYLES } from '@/lines/line'
import { withMoreGates, hasRoomForGates } from '@/lines/plan'
import { type Quantity, unit } from '@/common/units'

const props = defineProps<{ line: LineVerdict['line'] | null }>()
const open = defineModel<boolean>({ required: true })

const units = useUnits()
const actions = useActions()
const problem = ref<ProblemError | null>(null)

const usual = useQuery({
  queryKey: ['usual lines'],
  queryFn: () => take(api.GET('/api/lines/usual')),
  staleTime: Infinity,
})
const usually = (style: Style) => usual.data.value?.find((l) => l.style === style)
const copy = <T,>(x: T): T => JSON.parse(JSON.stringify(x)) as T

const spec = ref<LineSpec>()
/** What of a line the form holds. */
function specOf(line: Line): LineSpec {
  const { key: _key, generated: _generated, enabled: _enabled, spared: _spared, etag: _etag, ...given } = line
  return { ...copy(given as LineSpec), gates: copy(given.gates ?? []) }
}
/** The line as it is now; what a judgement shows of it may be older. */
const stored = useQuery({
  queryKey: ['line', computed(() => props.line?.key)],
  queryFn: () => take(api.GET('/api/lines/{key}', { params: { path: { key: props.line?.key ?? '' } } })),
  enabled: computed(() => open.value && props.line !== null),
  staleTime: 0,
  gcTime: 0,
})
const saving = useSaving<LineSpec>(async (body, etag) => {
  const params = { path: { key: props.line?.key ?? '' }, header: ifMatch(etag) }
  await take(api.PUT('/api/lines/{key}', { params, body }))
  await actions.refresh()
})
const { clashes } = saving
watch(
  [open, () => usual.data.value, () => stored.data.value],
  ([now, usuals, line]) => {
    if (!now) spec.value = undefined
    else if (!spec.value && usuals) {
      problem.value = null
      if (!props.line) {
        const start = usually('backhand')
        spec.value = start && { ...copy(start), gates: copy(start.gates ?? []) }
      } else if (line?.key === props.line.key) {
        spec.value = specOf(line)
        saving.begin(spec.value, line.etag)
      }
    }
  },
  { immediate: true },
)

const { guard, close } = useGuarded(open, () => spec.value)
const gates = computed<Gate[]>(() => spec.value?.gates ?? [])

/** A number of the form in the player's units, over one kept in SI. */
const rounded = (x: number) => Math.round(10 * x) / 10
const get = (si: number | null | undefined, quantity: Quantity) =>
  si == null ? null : rounded(unit(units.value, quantity).toShown(si))
const toSi = (shown: number | null | undefined, quantity: Quantity) =>
  shown == null ? null : unit(units.value, quantity).toSi(shown)
const symbol = (quantity: Quantity) => unit(units.value, quantity).symbol

/** Another way of throwing wants other angles; one that is usually thrown alike keeps what was typed. */
function setStyle(style: Style) {
  const [now, before] = [usually(style), spec.value && usually(spec.value.style)]
  if (!spec.value || !now || !before) return
  const part: Record<string, unknown> = {}
  for (const [key, value] of Object.entries(now))
    if (JSON.stringify(value) !== JSON.stringify(before[key as keyof LineSpec])) part[key] = value
  spec.value = { ...spec.value, ...part, style }
}

/** What was drawn, step by step, to be taken back. */
const drawing = useManualRefHistory(spec, { clone: (line) => line && copy(line) })
watch(
  () => spec.value === undefined,
  () => drawing.clear(),
)

function saved(done: boolean) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`${spec.value?.name ?? 'The line'} is saved${saving.kept.value}`)
  close()
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

const { busy, run: save } = useOnce(async () => {
  problem.value = null
  const body = spec.value
  if (!body) return
  if (props.line) return saved(await saving.save(body))
  try {
    const added = await take(api.POST('/api/lines', { body }))
    await actions.refresh()
    actions.did(`${added.name} is added`)
    close()
  } catch (error) {
    problem.value = asProblem(error)
  }
})

async function remove() {
  const line = props.line
  const etag = saving.seen.value?.etag
  if (!line || !etag) return
  const done = await actions.attempt(async () => {
    const params = { path: { key: line.key }, header: ifMatch(etag) }
    await take(api.DELETE('/api/lines/{key}', { params }))
    await actions.refresh()
    actions.did(line.key.startsWith('own-') ? `${line.name} is deleted` : `${line.name} is as it came`)
  })
  if (done) close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="line ? `Edit ${line.name}` : 'Add a line'"
    width="min(1120px, 98vw)"
    top="4vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <ProblemNote v-if="!spec && usual.error.value" :error="usual.error.value" @retry="usual.refetch()" />
    <ProblemNote v-if="!spec && stored.error.value" :error="stored.error.value" @retry="stored.refetch()" />
    <form v-if="spec" class="desk" @submit.prevent="save">
      <DrawnLine
        v-model="spec"
        :can-undo="drawing.canUndo.value"
        @settled="drawing.commit()"
        @undo="drawing.undo()"
      />
      <div>
        <div class="grid">
          <label class="wide" data-needed>
            <span>Name</span><el-input v-model="spec.name" name="name" maxlength="80" data-test="line-name" />
          </label>
          <label class="wide">
            <span>What the shot is, in a sentence</span>
            <el-input v-model="spec.meaning" name="meaning" maxlength="200" data-test="line-meaning" />
          </label>
          <label>
            <span>Slot</span>
            <el-select v-model="spec.slot">
              <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>Style</span>
            <el-select :model-value="spec.style" data-test="line-style" @update:model-value="setStyle">
              <el-option v-for="(label, value) in STYLES" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label
            v-for="f in [
              { key: 'distance_m', label: 'Distance' },
              { key: 'zone_length_m', label: 'Zone length' },
              { key: 'zone_width_m', label: 'Zone width' },
            ] as const"
            :key="f.key"
          >
            <span>{{ f.label }}, {{ symbol('distance') }}</span>
            <el-input-number
              :model-value="get(spec[f.key], 'distance')"
              :min="1"
              controls-position="right"
              :data-test="`line-${f.key}`"
              @update:model-value="spec[f.key] = toSi($event, 'distance') ?? spec[f.key]"
            />
          </label>
        </div>
        <details data-test="line-figures">
          <summary>Wind, ground, stance, release, what it is worth</summary>
          <div class="grid">
            <label>
              <span>Roof, {{ symbol('distance') }}</span>
              <el-input-number
                :model-value="get(spec.ceiling_m, 'distance')"
                placeholder="none"
                controls-position="right"
                @update:model-value="spec.ceiling_m = toSi($event, 'distance')"
              />
            </label>
            <label>
              <span>Tailwind, {{ symbol('speed') }}</span>
              <el-input-number
                :model-value="get(spec.along_m_s, 'speed')"
                controls-position="right"
                @update:model-value="spec.along_m_s = toSi($event, 'speed') ?? 0"
              />
            </label>
            <label>
              <span>Wind to the left, {{ symbol('speed') }}</span>
              <el-input-number
                :model-value="get(spec.left_m_s, 'speed')"
                controls-position="right"
                @update:model-value="spec.left_m_s = toSi($event, 'speed') ?? 0"
              />
            </label>
            <label>
              <span>Kept off the wind, %</span>
              <el-input-number
                :model-value="Math.round(100 * (spec.lee ?? 0))"
                :min="0"
                :max="95"
                :step="5"
                controls-position="right"
                data-test="line-lee"
                @update:model-value="spec.lee = ($event ?? 0) / 100"
              />
            </label>
            <label>
              <span>Ground</span>
              <el-select v-model="spec.ground" data-test="line-ground">
                <el-option v-for="(label, value) in GROUNDS" :key="value" :value="value" :label="label" />
              </el-select>
            </label>
            <label>
              <span>Landing</span>
              <el-select v-model="spec.landing">
                <el-option v-for="(label, value) in LANDINGS" :key="value" :value="value" :label="label" />
              </el-select>
            </label>
            <label>
              <span>Stance</span>
              <el-select v-model="spec.footing">
                <el-option v-for="(label, value) in FOOTINGS" :key="value" :value="value" :label="label" />
              </el-select>
            </label>
            <label
              v-for="f in [
                { key: 'hyzer_min_deg', label: 'Least hyzer, °' },
                { key: 'hyzer_max_deg', label: 'Most hyzer, °' },
                { key: 'launch_min_deg', label: 'Least launch, °' },
                { key: 'launch_max_deg', label: 'Most launch, °' },
              ] as const"
              :key="f.key"
            >
              <span>{{ f.label }}</span><el-input-number v-model="spec[f.key]" controls-position="right" />
            </label>
            <label>
              <span>Fastest disc</span>
              <el-input-number
                v-model="spec.fastest_speed"
                :min="1"
                :max="15"
                :step="0.5"
                placeholder="any"
                controls-position="right"
              />
            </label>
            <label>
              <span>How often a round</span>
              <el-input-number
                v-model="spec.weight"
                :min="0.1"
                :max="10"
                :step="0.1"
                controls-position="right"
                data-test="line-weight"
              />
            </label>
            <label>
              <span>A miss costs, strokes</span>
              <el-input-number
                v-model="spec.miss_strokes"
                :min="0"
                :max="3"
                :step="0.1"
                placeholder="usual"
                controls-position="right"
                data-test="line-miss"
              />
            </label>
            <label>
              <span>No far end: the farther the better</span>
              <el-switch v-model="spec.open_ended" data-test="line-open" />
            </label>
          </div>
        </details>
        <details data-test="line-gates">
          <summary>Gates in figures</summary>
          <fieldset>
            <legend>Gates the disc must pass, {{ symbol('distance') }}; left positive, right negative</legend>
            <div v-for="(gate, k) in gates" :key="k" class="gate">
              <label
                v-for="f in [
                  { key: 'at_m', label: 'at' },
                  { key: 'left_edge_m', label: 'left edge' },
                  { key: 'right_edge_m', label: 'right edge' },
                ] as const"
                :key="f.key"
              >
                <span>{{ f.label }}</span>
                <el-input-number
                  :model-value="get(gate[f.key], 'distance')"
                  :controls="false"
                  @update:model-value="gate[f.key] = toSi($event, 'distance') ?? gate[f.key]"
                />
              </label>
              <label
                v-for="f in [
                  { key: 'floor_m', label: 'clear' },
                  { key: 'ceiling_m', label: 'stay under' },
                ] as const"
                :key="f.key"
              >
                <span>{{ f.label }}</span>
                <el-input-number
                  :model-value="get(gate[f.key], 'distance')"
                  :controls="false"
                  placeholder="–"
                  @update:model-value="gate[f.key] = toSi($event, 'distance')"
                />
              </label>
              <el-button @click="gates.splice(k, 1)">Remove</el-button>
            </div>
            <el-button :disabled="!hasRoomForGates(spec)" @click="spec = withMoreGates(spec)"
              >Add a gate</el-button
            >
          </fieldset>
        </details>
        <FormProblem :problem="problem" />
        <ClashNote :clashes="clashes" @settle="settle" />
        <div class="acts">
          <el-button v-if="line && !line.generated" class="left" @click="remove">
            {{ line.key.startsWith('own-') ? 'Delete' : 'Back to how it came' }}
          </el-button>
          <el-button @click="close">Cancel</el-button>
          <el-button type="primary" native-type="submit" :loading="busy" data-test="line-save"
            >Save</el-button
          >
        </div>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-columns: minmax(0, 390px) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
summary {
  min-height: 40px;
  line-height: 40px;
  cursor: pointer;
}
@media (max-width: 900px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(138px, 1fr));
  gap: 10px 14px;
}
.wide {
  grid-column: span 2;
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
fieldset {
  margin-top: 12px;
  padding: 8px 12px;
  border: 1px solid var(--rule-soft);
}
.gate {
  display: grid;
  grid-template-columns: repeat(5, 1fr) auto;
  gap: 8px;
  align-items: end;
  margin-bottom: 8px;
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
.left {
  margin-right: auto;
}
@media (max-width: 600px) {
  .gate {
    grid-template-columns: repeat(3, 1fr);
  }
}
</style>
