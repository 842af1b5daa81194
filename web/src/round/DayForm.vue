<script setup lang="ts">
// The day a course is played on: when, and the weather by the hour, typed or pulled from a weather program.
import { computed, ref, watch } from 'vue'
import {
  api,
  asProblem,
  type Course,
  type CourseDay,
  type ForecastHour,
  type ProblemError,
  type HandWind,
  take,
} from '@/api/client'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions } from '@/api/useData'
import ClashNote from '@/common/ClashNote.vue'
import TakeReading from '@/common/TakeReading.vue'
import FormProblem from '@/common/FormProblem.vue'
import type { Quantity } from '@/common/units'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
import { useFigures } from '@/lines/useFigures'
import { clock, compass, minuteOf, specOf, usualDay, withHour } from '@/round/course'

const props = defineProps<{ course: Course | undefined }>()
const open = defineModel<boolean>({ required: true })
const actions = useActions()
const { get, toSi, symbol } = useFigures()

const day = ref<CourseDay>()
const start = ref('')
/** How high the course lies; null for as high as home. */
const altitude = ref<number | null>(null)
const problem = ref<ProblemError | null>(null)
const saving = useSaving<ReturnType<typeof specOf>>(async (body, etag) => {
  const params = { path: { id: props.course?.id ?? 0 }, header: ifMatch(etag) }
  await take(api.PUT('/api/courses/{id}', { params, body }))
  await actions.refresh()
})
const { clashes } = saving
watch(
  open,
  (now) => {
    day.value = undefined
    const course = props.course
    if (!now || !course) return
    problem.value = null
    const spec = specOf(course)
    saving.begin(spec, course.etag)
    day.value = spec.day ?? usualDay()
    start.value = clock(day.value.start_min)
    altitude.value = get(spec.altitude_m, 'distance')
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => [day.value, start.value, altitude.value])
const hours = computed(() => day.value?.hours ?? [])
const startsAt = computed(() => minuteOf(start.value))

function change(k: number, part: Partial<ForecastHour>) {
  if (!day.value) return
  // What is changed by hand is no longer what was pulled.
  day.value = {
    ...day.value,
    source: '',
    hours: hours.value.map((h, j) => (j === k ? { ...h, ...part } : h)),
  }
}
const typed = (k: number, field: keyof ForecastHour, quantity: Quantity, value: number | undefined) =>
  change(k, { [field]: toSi(value ?? null, quantity) ?? (field === 'gust_m_s' ? null : 0) })
const { busy: pulling, run: pull } = useOnce(async () => {
  if (!day.value) return
  problem.value = null
  try {
    const query = day.value.date ? { date: day.value.date } : {}
    const { date, hours, source } = await take(api.GET('/api/weather', { params: { query } }))
    day.value = { ...day.value, date, hours, source }
  } catch (error) {
    problem.value = asProblem(error)
  }
})
const FIELDS: readonly {
  field: 'wind_m_s' | 'gust_m_s' | 'temperature_c'
  label: string
  quantity: Quantity
}[] = [
  { field: 'wind_m_s', label: 'Wind', quantity: 'speed' },
  { field: 'gust_m_s', label: 'Gusts', quantity: 'speed' },
  { field: 'temperature_c', label: 'Temperature', quantity: 'temperature' },
]

/** What the wind meter says is the wind of this hour. */
function measured({ at_10_m_m_s, from_deg }: HandWind) {
  if (!day.value) return
  const at = new Date().getHours()
  const known = hours.value.find((h) => h.hour === at)
  const now = { temperature_c: 12, rain_mm: 0, ...(known ?? hours.value[0]), hour: at, gust_m_s: null }
  const wind = { wind_m_s: Math.round(10 * at_10_m_m_s) / 10, from_deg: Math.round(from_deg) % 360 }
  const others = hours.value.filter((h) => h.hour !== at)
  day.value = {
    ...day.value,
    source: '',
    hours: [...others, { ...now, ...wind }].sort((a, b) => a.hour - b.hour),
  }
}

function saved(done: boolean) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`The day is saved${saving.kept.value}`)
  close()
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))
const { busy, run: save } = useOnce(async () => {
  const course = saving.seen.value?.base
  if (!day.value || !course || startsAt.value === null) return
  const altitude_m = toSi(altitude.value, 'distance')
  saved(await saving.save({ ...course, altitude_m, day: { ...day.value, start_min: startsAt.value } }))
})
const { busy: clearing, run: clear } = useOnce(async () => {
  const course = saving.seen.value?.base
  if (course) saved(await saving.save({ ...course, day: null }))
})
</script>

<template>
  <el-dialog
    v-model="open"
    title="The day"
    width="min(820px, 98vw)"
    top="6vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <form v-if="day" @submit.prevent="save">
      <div class="fields">
        <label
          ><span>Date</span>
          <el-date-picker
            v-model="day.date"
            type="date"
            value-format="YYYY-MM-DD"
            placeholder="any"
            data-test="day-date"
          />
        </label>
        <label
          ><span>First throw at</span>
          <el-input
            v-model="start"
            placeholder="10:00"
            inputmode="numeric"
            :aria-invalid="startsAt === null"
            data-test="day-start"
          />
        </label>
        <label
          ><span>Minutes a hole</span>
          <el-input-number
            v-model="day.hole_min"
            :min="3"
            :max="60"
            controls-position="right"
            data-test="day-hole-min"
          />
        </label>
        <label
          ><span>Above the sea, {{ symbol('distance') }}</span>
          <el-input-number
            v-model="altitude"
            placeholder="as home"
            controls-position="right"
            data-test="day-altitude"
          />
        </label>
        <el-button :loading="pulling" data-test="day-pull" @click="pull">Pull the forecast</el-button>
      </div>
      <p v-if="startsAt === null" class="wrong" role="alert">
        A time was expected, hours and minutes as 9:40; “{{ start }}” came.
      </p>
      <p class="soft">
        Wind at 10 m over open ground as forecasts tell it, and where it blows from; rain makes this hour and
        the next wet. Without hours the day is calm.
        <span v-if="day.source" data-test="day-source">{{ day.source }}.</span>
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Hours">
        <table class="figures" data-test="day-hours">
          <thead>
            <tr>
              <th scope="col">From</th>
              <th v-for="f in FIELDS" :key="f.field" scope="col">{{ f.label }}, {{ symbol(f.quantity) }}</th>
              <th scope="col">From where, °</th>
              <th scope="col">Rain, mm</th>
              <th scope="col"><span class="visually-hidden">Take away</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(h, k) in hours" :key="k">
              <td>
                <el-input-number
                  :model-value="h.hour"
                  :min="0"
                  :max="23"
                  :controls="false"
                  :aria-label="`Hour, row ${k + 1}`"
                  @update:model-value="change(k, { hour: $event ?? h.hour })"
                />
              </td>
              <td v-for="f in FIELDS" :key="f.field">
                <el-input-number
                  :model-value="get(h[f.field], f.quantity)"
                  :controls="false"
                  :aria-label="`${f.label} from ${h.hour}:00`"
                  :data-test="`${f.field}-${k}`"
                  @update:model-value="typed(k, f.field, f.quantity, $event)"
                />
              </td>
              <td class="from">
                <el-input-number
                  :model-value="h.from_deg"
                  :min="0"
                  :max="360"
                  :controls="false"
                  :aria-label="`Wind direction from ${h.hour}:00, degrees from north`"
                  :data-test="`from_deg-${k}`"
                  @update:model-value="change(k, { from_deg: $event ?? 0 })"
                />
                {{ compass(h.from_deg) }}
              </td>
              <td>
                <el-input-number
                  :model-value="h.rain_mm ?? 0"
                  :min="0"
                  :max="100"
                  :controls="false"
                  :aria-label="`Rain from ${h.hour}:00`"
                  @update:model-value="change(k, { rain_mm: $event ?? 0 })"
                />
              </td>
              <td>
                <button
                  type="button"
                  class="as-link"
                  :aria-label="`Take ${h.hour}:00 away`"
                  @click="day = { ...day, hours: hours.filter((_, j) => j !== k) }"
                >
                  away
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <TakeReading of="wind_meter" @wind="measured" />
      <el-button data-test="day-add-hour" @click="day = withHour(day)">One more hour</el-button>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <div class="acts">
        <el-button v-if="course?.day" class="left" :loading="clearing" data-test="day-clear" @click="clear"
          >Back to any calm day</el-button
        >
        <el-button @click="close">Cancel</el-button>
        <el-button
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="startsAt === null"
          data-test="day-save"
          >Save</el-button
        >
      </div>
    </form>
  </el-dialog>
</template>

<style scoped src="../styles/fields.css"></style>
<style scoped>
.fields :deep(.el-date-editor) {
  width: 100%;
}
.scroll {
  max-height: 44vh;
  margin: 8px 0;
  overflow: auto;
}
td .el-input-number {
  width: 84px;
}
.from {
  white-space: nowrap;
}
.wrong {
  color: var(--bad);
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
.left {
  margin-right: auto;
}
</style>
