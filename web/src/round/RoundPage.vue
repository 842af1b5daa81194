<script setup lang="ts">
// Where is it played? Courses and their holes, each with the ways to play its first throw.
import { ElMessageBox } from 'element-plus'
import 'element-plus/es/components/message-box/style/css'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import { ifMatch, useActions, useBag, useCourses, useDiscs, useUnits } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { shown } from '@/common/units'
import { useInQuery } from '@/common/useInQuery'
import { useKeptWishes } from '@/common/useKeptWishes'
import { useOpenFlag, useOpenThing } from '@/common/useOpenThing'
import { asWishes, keptForm, newForm } from '@/common/wishes'
import CourseImport from '@/round/CourseImport.vue'
import DayForm from '@/round/DayForm.vue'
import HoleCard from '@/round/HoleCard.vue'
import HoleForm from '@/round/HoleForm.vue'
import PackView from '@/round/PackView.vue'
import PlayView from '@/round/PlayView.vue'
import RoundCard from '@/round/RoundCard.vue'
import { usePacking, useRoundCard } from '@/round/useRounds'

const courses = useCourses()
const units = useUnits()
const actions = useActions()
const wanted = useOpenThing('course')
const course = computed(
  () => courses.data.value?.find((c) => `${c.id}` === wanted.value) ?? courses.data.value?.[0],
)
const editing = useOpenThing('hole')
const isEditing = computed({
  get: () => editing.value !== null && course.value !== undefined,
  set: (on) => {
    if (!on) editing.value = null
  },
})
/** Which hole is open; one behind the last is new. */
const at = computed(() => {
  const k = course.value?.holes.findIndex((h) => h.name === editing.value) ?? -1
  return k < 0 ? (course.value?.holes.length ?? 0) : k
})
const print = () => window.print()
const freezes = computed(() => (course.value?.day?.hours ?? []).some((h) => h.temperature_c < 0))
const importing = ref(false)
const view = useInQuery('view', ['card', 'play', 'holes', 'pack'])
const dayWanted = useOpenFlag('day')
const dayOpen = computed({
  get: () => dayWanted.value && course.value !== undefined,
  set: (on) => (dayWanted.value = on),
})
const card = useRoundCard(
  () => course.value,
  () => view.value === 'card' || view.value === 'play',
)
const bag = useBag()
const discs = useDiscs()
const kept = useKeptWishes()
/** The wishes of the builder for this bag, as they are kept in this browser. */
const wishes = computed(() => {
  const now = bag.data.value
  const there = new Set(discs.data.value?.filter((d) => d.at_hand).map((d) => d.id))
  return now && discs.data.value
    ? asWishes(keptForm(kept.value[now.id], newForm(now)), (id) => there.has(id))
    : undefined
})
const packing = usePacking(
  () => course.value,
  () => wishes.value,
  () => view.value === 'pack',
)
const hasPlaces = computed(() => course.value?.holes.some((h) => h.tee) ?? false)

async function named(title: string, value = ''): Promise<string | null> {
  try {
    const { value: name } = await ElMessageBox.prompt('Name of the course', title, {
      inputValue: value,
      confirmButtonText: 'Save',
      inputPattern: /\S/,
      inputErrorMessage: 'Give it a name',
    })
    return name.trim()
  } catch {
    return null
  }
}
async function add() {
  const name = await named('Add a course')
  if (!name) return
  await actions.attempt(async () => {
    const added = await take(api.POST('/api/courses', { body: { name, holes: [] } }))
    await actions.refresh()
    wanted.value = `${added.id}`
    actions.did(`${added.name} is added`)
  })
}
async function rename() {
  const now = course.value
  if (!now) return
  const name = await named(`Rename ${now.name}`, now.name)
  if (!name) return
  await actions.attempt(async () => {
    const params = { path: { id: now.id }, header: ifMatch(now.etag) }
    await take(api.PUT('/api/courses/{id}', { params, body: { name, holes: now.holes } }))
    await actions.refresh()
    actions.did(`${name} is saved`)
  })
}
async function remove() {
  const now = course.value
  if (!now) return
  await actions.attempt(async () => {
    const params = { path: { id: now.id }, header: ifMatch(now.etag) }
    await take(api.DELETE('/api/courses/{id}', { params }))
    await actions.refresh()
    wanted.value = null
    actions.did(`${now.name} is deleted`)
  })
}
</script>

<template>
  <div class="page">
    <div class="page-head" :class="{ playing: view === 'play' }">
      <div class="grow">
        <h1>Round</h1>
        <p v-if="view !== 'play'" class="soft">
          A course on a day: hole by hole what to throw from your bag, in the wind as it comes there, and what
          the round comes to.
        </p>
      </div>
      <template v-if="view !== 'play'">
        <el-button data-test="import-course" @click="importing = true">From a file</el-button>
        <el-button type="primary" data-test="add-course" @click="add">Add a course</el-button>
      </template>
    </div>
    <ProblemNote v-if="courses.error.value" :error="courses.error.value" @retry="courses.refetch()" />
    <p v-if="courses.data.value?.length === 0" class="none">
      No course yet. Add one and draw its holes, or bring in the places of tees and baskets from a GPX or
      GeoJSON file.
    </p>
    <template v-if="course">
      <div class="course">
        <el-select
          :model-value="course.id"
          aria-label="Course"
          data-test="course"
          @update:model-value="wanted = `${$event}`"
        >
          <el-option v-for="c in courses.data.value" :key="c.id" :value="c.id" :label="c.name" />
        </el-select>
        <span data-test="course-size"
          >{{ course.holes.length === 1 ? '1 hole' : `${course.holes.length} holes` }}, par {{ course.par }},
          {{ shown(units, 'distance', course.length_m) }}</span
        >
        <span v-if="view !== 'play'" class="acts no-print">
          <a
            v-if="hasPlaces"
            class="as-button"
            :href="`/api/courses/${course.id}.geojson`"
            download
            data-test="course-geojson"
            >GeoJSON</a
          >
          <a
            v-if="hasPlaces"
            class="as-button"
            :href="`/api/courses/${course.id}.gpx`"
            download
            data-test="course-gpx"
            >GPX</a
          >
          <el-button v-if="view === 'card'" data-test="print-card" @click="print">Print, A5</el-button>
          <el-button data-test="rename-course" @click="rename">Rename</el-button>
          <el-button data-test="delete-course" @click="remove">Delete</el-button>
        </span>
      </div>
      <el-radio-group v-model="view" class="views no-print" aria-label="View" data-test="round-view">
        <el-radio-button value="card">Card</el-radio-button>
        <el-radio-button value="play">Play</el-radio-button>
        <el-radio-button value="pack">What to take</el-radio-button>
        <el-radio-button value="holes">Holes</el-radio-button>
      </el-radio-group>
      <template v-if="view === 'card'">
        <ProblemNote v-if="card.error.value" :error="card.error.value" @retry="card.refetch()" />
        <p v-else-if="course.holes.length === 0" class="none">
          No holes yet. Add them under <b>Holes</b>, then the card says what to throw on each.
        </p>
        <p v-else-if="!card.data.value" class="wait" role="status">Throwing your bag on every hole…</p>
        <RoundCard
          v-else
          :class="{ old: card.isPlaceholderData.value }"
          :course="course"
          :card="card.data.value"
          @day="dayOpen = true"
          @hole="editing = $event"
        />
      </template>
      <template v-if="view === 'play'">
        <ProblemNote v-if="card.error.value" :error="card.error.value" @retry="card.refetch()" />
        <p v-if="course.holes.length === 0" class="none">No holes yet: add them under <b>Holes</b>.</p>
        <PlayView v-else :key="course.id" :course="course" :card="card.data.value" />
      </template>
      <template v-if="view === 'pack'">
        <ProblemNote v-if="packing.error.value" :error="packing.error.value" @retry="packing.refetch()" />
        <p v-else-if="course.holes.length === 0" class="none">No holes yet: add them under <b>Holes</b>.</p>
        <p v-else-if="!packing.data.value" class="wait" role="status">
          Throwing everything at hand on every hole…
        </p>
        <PackView
          v-else
          :class="{ old: packing.isPlaceholderData.value }"
          :course="course"
          :packing="packing.data.value"
        />
      </template>
      <ol v-if="view === 'holes'" class="holes">
        <HoleCard
          v-for="(h, k) in course.holes"
          :key="h.name"
          :hole="h"
          :left="course.left_m[k] ?? []"
          @edit="editing = h.name"
        />
      </ol>
      <template v-if="view === 'holes'">
        <p v-if="course.holes.length === 0" class="soft">No holes yet.</p>
        <el-button data-test="add-hole" @click="editing = 'new'">Add a hole</el-button>
      </template>
      <p class="soft" data-test="cautions">
        Warm up before full throws, and bring forehand and overhand throws up gradually. Wait until nobody is
        in reach. Leave a disc in deep, cold or fast water where it is.
        <template v-if="freezes">Base plastic can crack in frost.</template>
        Follow the course’s own rules and the event’s.
      </p>
    </template>
    <HoleForm v-model="isEditing" :course="course" :at="at" />
    <DayForm v-model="dayOpen" :course="course" />
    <CourseImport v-model="importing" @added="wanted = `${$event}`" />
  </div>
</template>

<style scoped>
.course {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin: 10px 0;
}
.course .el-select {
  width: 240px;
}
@media (max-width: 600px) {
  /* In the field every line counts. */
  .playing {
    position: absolute;
    clip-path: inset(50%);
  }
}
.views {
  margin-bottom: 10px;
}
.old {
  opacity: 0.6;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-left: auto;
}
.acts .el-button {
  margin-left: 0;
}
.holes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(370px, 100%), 1fr));
  gap: 10px;
  margin: 0 0 10px;
  padding: 0;
  list-style: none;
}
</style>
