<script setup lang="ts">
// Reading a throw: say or draw what it did, and see which error of the release did it.
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { FieldThrow, SeenFlight } from '@/api/client'
import FlightPlan from '@/common/FlightPlan.vue'
import FlightSide from '@/common/FlightSide.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { DASHES, type Flight } from '@/common/scene'
import { percent } from '@/common/units'
import { useGuarded } from '@/common/useGuarded'
import {
  alongOf,
  changedOf,
  drawnOf,
  FARTHEST_M,
  leftOf,
  MEANT,
  offOf,
  type Rest,
  type ShownThrow,
} from '@/field/log'
import SeenFields from '@/field/SeenFields.vue'
import { useThrowReading } from '@/field/useField'
import { STYLES } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'

const props = defineProps<{ session: string; it: ShownThrow | undefined }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ save: [part: Partial<FieldThrow>] }>()
const { get, toSi, symbol } = useFigures()

const told = ref<FieldThrow>()
/** A rest that was measured is not drawn over. */
const measured = ref(false)
watch(
  open,
  (now) => {
    const it = now ? props.it : undefined
    told.value = it && (JSON.parse(JSON.stringify({ ...it, key: undefined, etag: undefined })) as FieldThrow)
    measured.value = it?.distance_m != null && !(it.tags ?? []).includes('by_eye')
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => told.value)
const asked = refDebounced(told, 250)
const query = useThrowReading(
  () => props.session,
  () => (open.value ? asked.value : undefined),
)
const reading = computed(() => query.data.value)
const shares = computed(() => (reading.value?.readings ?? []).filter((r) => r.share >= 0.04).slice(0, 5))
const others = computed(() => 1 - shares.value.reduce((sum, r) => sum + r.share, 0))

const flights = computed((): Flight[] => {
  const now = reading.value
  if (!now) return []
  const meant = { label: 'as meant', ...now.meant }
  const first = now.readings[0]
  // A throw that went as it was meant is not drawn twice under one name.
  const label = first?.fault === 'none' ? 'as it went' : (first?.words ?? '')
  return now.flown ? [{ label, ...now.flown }, meant] : [meant]
})
const rest = computed(() => {
  const [x_m, y_m] = [told.value && alongOf(told.value), told.value && leftOf(told.value)]
  return x_m == null || y_m == null ? undefined : { x_m, y_m }
})
/** Room for a throw that went well beside and beyond. */
const room = computed(() => {
  const far = Math.max(25, ...(reading.value?.meant.path ?? []).map((p) => p.x_m))
  return [
    { x_m: 1.15 * far, y_m: 0.36 * far },
    { x_m: 0, y_m: -0.36 * far },
  ]
})

function say(part: Partial<FieldThrow>) {
  if (told.value) told.value = { ...told.value, ...part }
}
function see(part: SeenFlight) {
  say({ seen: { ...told.value?.seen, ...part } })
}
function endAt(end: { distance_m: number | null; off_deg: number | null }) {
  const tags = (told.value?.tags ?? []).filter((tag) => tag !== 'by_eye')
  say({ ...end, tags: end.distance_m == null ? tags : [...tags, 'by_eye'] })
}
function drawn(way: Rest[]) {
  const said = drawnOf(way, reading.value?.turns_left ?? false)
  if (!measured.value) endAt(said.rest)
  if (said.first) see({ first: said.first, swing_m: said.swing_m })
}
/** Distance and side as they are typed. */
const far = computed(() => get(told.value?.distance_m, 'distance'))
const left = computed(() => get(told.value && leftOf(told.value), 'distance'))
function type(farShown?: number | null, leftShown?: number | null) {
  const [distance_m, left_m] = [
    toSi(farShown ?? undefined, 'distance'),
    toSi(leftShown ?? undefined, 'distance'),
  ]
  if (distance_m == null) return endAt({ distance_m: null, off_deg: null })
  const side = left_m == null ? null : Math.max(-distance_m, Math.min(distance_m, left_m))
  endAt({ distance_m, off_deg: side == null ? null : offOf(distance_m, side) })
}

const FIRST = { left: 'to the left', straight: 'straight', right: 'to the right' } as const
const HEIGHT = { lower: 'lower than meant', as_meant: 'as meant', higher: 'higher than meant' } as const
const LANDED = { left_edge: 'on its left edge', flat: 'flat', right_edge: 'on its right edge' } as const
const QUESTIONS = [
  ['first', 'It went first', FIRST],
  ['height', 'It was', HEIGHT],
  ['landed', 'It came down', LANDED],
] as const
const ask = (field: 'first' | 'height' | 'landed', value: string) => {
  const now = told.value?.seen?.[field]
  see({ [field]: now === value ? null : value })
}

function save() {
  const [it, was] = [told.value, props.it]
  if (!it || !was) return
  const part = changedOf(it, was, ['distance_m', 'off_deg', 'seen', 'tags'])
  if (part) emit('save', part)
  close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    title="What did it do?"
    width="min(1060px, 98vw)"
    top="4vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form v-if="told" novalidate data-test="read-throw" @submit.prevent="save">
      <p>
        <b>{{ told.disc_name }}</b> {{ STYLES[told.style] }}, meant {{ MEANT[told.meant ?? 'flat'] }}
      </p>
      <div class="two">
        <div>
          <p class="soft">
            {{
              measured
                ? 'Where it ended was measured. Draw its way from the tee if you saw it.'
                : 'Tap where it ended, or draw its way from the tee.'
            }}
          </p>
          <FlightPlan
            :flights="flights"
            :mark="rest"
            :room="room"
            :height="310"
            :widest="440"
            :chosen="reading?.flown ? 0 : 1"
            drawable
            @drawn="drawn"
          />
          <FlightSide
            v-if="flights.length"
            :flights="flights"
            :width="430"
            :chosen="reading?.flown ? 0 : 1"
          />
          <ul class="legend">
            <li v-for="(f, k) in flights" :key="k">
              <svg width="34" height="8" aria-hidden="true">
                <path
                  d="M0 4H34"
                  :stroke-dasharray="DASHES[k]"
                  :class="{ on: k === 0 && flights.length > 1 }"
                />
              </svg>
              {{ f.label }}
            </li>
            <li v-if="rest">× where it ended</li>
          </ul>
        </div>
        <div>
          <div v-if="!measured" class="taps ends">
            <label
              ><span>About {{ symbol('distance') }} away</span>
              <el-input-number
                :model-value="far"
                :min="0"
                :max="get(FARTHEST_M, 'distance') ?? FARTHEST_M"
                :precision="0"
                :controls="false"
                inputmode="decimal"
                data-test="read-far"
                @update:model-value="type($event, left)"
            /></label>
            <label
              ><span>{{ symbol('distance') }} left of the aim (right: −)</span>
              <el-input-number
                :model-value="left"
                :precision="0"
                :controls="false"
                inputmode="decimal"
                data-test="read-left"
                @update:model-value="type(far, $event)"
            /></label>
          </div>
          <fieldset v-for="[field, label, words] in QUESTIONS" :key="field">
            <legend>{{ label }}</legend>
            <div class="taps">
              <button
                v-for="(word, value) in words"
                :key="value"
                type="button"
                class="tap"
                :aria-pressed="told.seen?.[field] === value"
                :data-said="`${field} ${value}`"
                @click="ask(field, value)"
              >
                {{ word }}
              </button>
            </div>
          </fieldset>
          <details>
            <summary>In figures, if you know them</summary>
            <div class="fields"><SeenFields v-model="told.seen" /></div>
          </details>
          <section aria-live="polite" data-test="readings">
            <h3>Likeliest errors of the release</h3>
            <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
            <p v-else-if="!reading" class="soft" role="status">
              Throwing it with every error it may have had…
            </p>
            <p v-else-if="!shares.length" class="soft">
              Say how far it went first: tap the plan, or type it. Everything else you saw makes it surer.
            </p>
            <template v-else>
              <ol>
                <li v-for="(r, k) in shares" :key="r.fault" :data-fault="r.fault">
                  <span class="bar" aria-hidden="true"><i :style="{ width: `${100 * r.share}%` }" /></span>
                  <span class="share">{{ percent(r.share) }}</span>
                  <b :class="{ most: k === 0 }">{{ r.words }}</b>
                  <small>{{ r.cue }}</small>
                </li>
              </ol>
              <p v-if="others >= 0.01" class="soft">Other errors: {{ percent(others) }}.</p>
              <p v-if="shares[0]!.share < 0.5" class="soft">
                Not sure yet. Height, the first turn and the landing tell most.
              </p>
            </template>
          </section>
        </div>
      </div>
      <div class="acts">
        <span class="grow" />
        <el-button data-test="cancel-reading" @click="guard(() => (open = false))">Cancel</el-button>
        <el-button type="primary" native-type="submit" data-test="keep-reading">Keep what I told</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px 22px;
}
@media (min-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
fieldset {
  margin: 0 0 8px;
  padding: 0;
  border: 0;
}
legend,
.ends label span {
  padding: 0;
  color: var(--ink-soft);
  font-size: 14px;
}
.ends {
  margin-bottom: 8px;
}
.ends label {
  display: grid;
  gap: 2px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(110px, 1fr));
  gap: 8px 12px;
  align-items: end;
}
summary {
  min-height: 40px;
  padding-top: 8px;
  cursor: pointer;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
.legend svg {
  display: inline-block;
  vertical-align: 2px;
}
.legend path {
  stroke: var(--ink);
  stroke-width: 2;
}
.legend path.on {
  stroke: var(--accent);
  stroke-width: 3;
}
h3 {
  margin: 6px 0 4px;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
ol li {
  display: grid;
  grid-template-columns: 70px 46px minmax(0, 1fr);
  gap: 0 10px;
  align-items: center;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.share {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
ol small {
  grid-column: 3;
  font-size: 14px;
}
.most {
  font-size: 17px;
}
.bar {
  height: 12px;
  border: 1px solid var(--ink);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--ink);
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
