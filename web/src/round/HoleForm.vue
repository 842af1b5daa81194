<script setup lang="ts">
// A hole: its size, and the ways to play its first throw, each drawn.
import { computed, ref, watch } from 'vue'
import {
  api,
  asProblem,
  type Course,
  type CourseHole,
  type LineSpec,
  type ProblemError,
  type Style,
  take,
  type Traced,
} from '@/api/client'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions } from '@/api/useData'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
import LineDesk from '@/lines/LineDesk.vue'
import { GROUNDS, STYLES } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'
import { asTraced, compass, nextName, specOf, withHole, withoutHole, withWays } from '@/round/course'
import TraceForm from '@/round/TraceForm.vue'

const props = defineProps<{
  course: Course | undefined
  /** Which hole; behind the last for a new one. */ at: number
}>()
const open = defineModel<boolean>({ required: true })
const actions = useActions()
const { get, toSi, symbol } = useFigures()

const hole = ref<CourseHole>()
const problem = ref<ProblemError | null>(null)
const way = ref(0)
const isNew = computed(() => props.at >= (props.course?.holes.length ?? 0))

const saving = useSaving<ReturnType<typeof specOf>>(async (body, etag) => {
  const params = { path: { id: props.course?.id ?? 0 }, header: ifMatch(etag) }
  await take(api.PUT('/api/courses/{id}', { params, body }))
  await actions.refresh()
})
const { clashes } = saving
const FIRST = { bearing_deg: 0, length_m: 80 }
const begin = (
  size: { name: string; bearing_deg: number; length_m: number; height_m?: number },
  style?: Style,
) => take(api.POST('/api/courses/hole', { body: { ...size, ...(style ? { style } : {}) } }))
watch(
  open,
  async (now) => {
    hole.value = undefined
    const course = props.course
    if (!now || !course) return
    problem.value = null
    way.value = 0
    saving.begin(specOf(course), course.etag)
    const known = course.holes[props.at]
    if (known) hole.value = JSON.parse(JSON.stringify(known)) as CourseHole
    else {
      try {
        hole.value = (await begin({ name: nextName(course), ...FIRST })).hole
      } catch (error) {
        problem.value = asProblem(error)
      }
    }
  },
  { immediate: true },
)
const { guard, close } = useGuarded(open, () => hole.value)
const ways = computed(() => hole.value?.ways ?? [])
const shown = computed(() => ways.value[way.value])

/** Styles a first throw may have: all but a putt. */
const THROWN = Object.entries(STYLES).filter(([style]) => style !== 'putt') as [Style, string][]
const MOST_WAYS = 3
async function addWay(style: Style) {
  if (!hole.value) return
  const { name, bearing_deg, length_m, height_m } = hole.value
  problem.value = null
  try {
    const { line } = await begin({ name, bearing_deg, length_m, height_m: height_m ?? 0 }, style)
    const { lee = line.lee, ground = line.ground } = ways.value[0]?.line ?? {}
    const more = { turn_deg: 0, line: { ...line, lee, ground } as LineSpec }
    hole.value = { ...hole.value, ways: [...ways.value, more] }
    way.value = ways.value.length - 1
  } catch (error) {
    problem.value = asProblem(error)
  }
}
function takeWay() {
  if (!hole.value) return
  hole.value = { ...hole.value, ways: ways.value.filter((_, k) => k !== way.value) }
  way.value = 0
}
const taken = (traced: Traced) => hole.value && (hole.value = asTraced(hole.value, traced))

function saved(done: boolean, words: string) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`${words}${saving.kept.value}`)
  close()
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose), 'The hole is saved')
const { busy, run: save } = useOnce(async () => {
  const course = saving.seen.value?.base
  if (!hole.value || !course) return
  saved(await saving.save(withHole(course, props.at, hole.value)), `Hole ${hole.value.name} is saved`)
})
const { busy: removing, run: remove } = useOnce(async () => {
  const course = saving.seen.value?.base
  if (course)
    saved(await saving.save(withoutHole(course, props.at)), `Hole ${hole.value?.name ?? ''} is deleted`)
})
</script>

<template>
  <el-dialog
    v-model="open"
    :title="isNew ? 'Add a hole' : `Hole ${hole?.name ?? ''}`"
    width="min(1120px, 98vw)"
    top="4vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <FormProblem v-if="!hole" :problem="problem" />
    <form v-if="hole" @submit.prevent="save">
      <div class="fields">
        <label data-needed>
          <span>Hole</span><el-input v-model="hole.name" name="name" maxlength="20" data-test="hole-name" />
        </label>
        <label>
          <span>Par</span>
          <el-input-number
            v-model="hole.par"
            :min="2"
            :max="6"
            controls-position="right"
            data-test="hole-par"
          />
        </label>
        <label>
          <span>Length, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(hole.length_m, 'distance')"
            controls-position="right"
            data-test="hole-length"
            @update:model-value="hole.length_m = toSi($event, 'distance') ?? hole.length_m"
          />
        </label>
        <label>
          <span>Bearing, ° ({{ compass(hole.bearing_deg) }})</span>
          <el-input-number
            v-model="hole.bearing_deg"
            :min="0"
            :max="360"
            controls-position="right"
            data-test="hole-bearing"
          />
        </label>
        <label>
          <span>Basket above the tee, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(hole.height_m ?? 0, 'distance')"
            controls-position="right"
            data-test="hole-height"
            @update:model-value="hole.height_m = toSi($event, 'distance') ?? 0"
          />
        </label>
        <label>
          <span>Kept off the wind, %</span>
          <el-input-number
            :model-value="Math.round(100 * (ways[0]?.line.lee ?? 0))"
            :min="0"
            :max="95"
            :step="5"
            controls-position="right"
            @update:model-value="hole = withWays(hole, { lee: ($event ?? 0) / 100 })"
          />
        </label>
        <label>
          <span>Ground</span>
          <el-select
            :model-value="ways[0]?.line.ground"
            @update:model-value="hole = withWays(hole, { ground: $event })"
          >
            <el-option v-for="(label, value) in GROUNDS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label class="wide">
          <span>What to remember: local rules, cautions</span>
          <el-input v-model="hole.note" maxlength="300" data-test="hole-note" />
        </label>
      </div>
      <TraceForm @traced="taken" />
      <div class="ways">
        <b>The first throw</b>
        <el-radio-group v-if="ways.length" v-model="way" aria-label="Ways to play it" data-test="hole-ways">
          <el-radio-button v-for="(w, k) in ways" :key="k" :value="k">{{ w.line.name }}</el-radio-button>
        </el-radio-group>
        <el-select
          v-if="ways.length < MOST_WAYS"
          model-value=""
          placeholder="One more way"
          aria-label="One more way to play it"
          data-test="hole-add-way"
          @update:model-value="addWay"
        >
          <el-option v-for="[style, label] in THROWN" :key="style" :value="style" :label="label" />
        </el-select>
        <el-button v-if="shown" @click="takeWay">Take this way away</el-button>
      </div>
      <LineDesk v-if="shown" :key="way" v-model="shown.line" name-test="way-name">
        <template #fields>
          <label>
            <span>It ends left of straight to the basket, °</span>
            <el-input-number
              v-model="shown.turn_deg"
              :min="-90"
              :max="90"
              controls-position="right"
              data-test="way-turn"
            />
          </label>
        </template>
      </LineDesk>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <div class="acts">
        <el-button v-if="!isNew" class="left" :loading="removing" data-test="hole-delete" @click="remove"
          >Delete</el-button
        >
        <el-button @click="close">Cancel</el-button>
        <el-button type="primary" native-type="submit" :loading="busy" data-test="hole-save">Save</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped src="../styles/fields.css"></style>
<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin: 8px 0 12px;
  padding-top: 10px;
  border-top: 1px solid var(--rule-soft);
}
.ways .el-select {
  width: 180px;
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
