<script setup lang="ts">
// A course brought in from a file of places: a look at what becomes of each record, then all that was taken.
import { ref, shallowRef, watch } from 'vue'
import { api, type CourseReport, take } from '@/api/client'
import { useActions } from '@/api/useData'
import { chosenFile } from '@/common/chosenFile'

const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ added: [id: number] }>()
const actions = useActions()
const chosen = shallowRef<File | null>(null)
const name = ref('')
const report = ref<CourseReport | null>(null)
watch(open, () => {
  chosen.value = null
  report.value = null
  name.value = ''
})

function choose(event: Event) {
  const file = chosenFile(event)
  if (!file) return
  chosen.value = file
  report.value = null
  void send(true)
}

function send(preview: boolean) {
  const gpx = chosen.value?.name.toLowerCase().endsWith('.gpx') ?? false
  const request = {
    params: { query: { preview, ...(name.value.trim() ? { name: name.value.trim() } : {}) } },
    body: chosen.value as unknown as string,
    headers: { 'Content-Type': gpx ? 'application/gpx+xml' : 'application/geo+json' },
    bodySerializer: (body: unknown) => body as BodyInit,
  }
  return actions.attempt(async () => {
    const answer = await take(api.POST('/api/courses/import', request))
    report.value = answer
    if (preview) name.value = answer.course.name
    if (answer.course_id == null) return
    await actions.refresh()
    actions.did(`${answer.course.name} is added`)
    open.value = false
    emit('added', answer.course_id)
  })
}
</script>

<template>
  <el-dialog v-model="open" title="A course from a file of places" width="720px" top="6vh">
    <p>
      GPX: waypoints named “4 tee” and “4 basket”, or a track named “4” from tee to basket. GeoJSON: points
      with the properties hole and what (tee or basket), lines with hole, polygons with what (water or out of
      bounds). Heights are taken over.
    </p>
    <p class="pick">
      <input
        type="file"
        accept=".gpx,.geojson,.json"
        aria-label="File of places"
        data-test="course-file"
        @change="choose"
      />
    </p>
    <template v-if="report">
      <p role="status" data-test="course-told">
        <b>Nothing is kept yet.</b> {{ chosen?.name }} makes
        {{ report.course.holes.length === 1 ? '1 hole' : `${report.course.holes.length} holes` }}.
      </p>
      <label class="name">
        <span>Name of the course</span><el-input v-model="name" maxlength="80" data-test="course-file-name" />
      </label>
      <div class="scroll" tabindex="0" role="region" aria-label="What becomes of each record">
        <table>
          <thead>
            <tr>
              <th scope="col">Record</th>
              <th scope="col">Verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, k) in report.records" :key="k" :class="{ bad: !r.taken }">
              <td>{{ r.record }}</td>
              <td>
                <b>{{ r.taken ? 'taken' : 'left aside' }}</b>: {{ r.words }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="acts">
        <el-button @click="open = false">Leave it</el-button>
        <el-button
          v-if="report.course.holes.length"
          type="primary"
          data-test="course-take"
          @click="send(false)"
        >
          Keep it
        </el-button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.scroll {
  max-height: 46vh;
  margin-top: 10px;
  overflow: auto;
  border: 1px solid var(--rule-soft);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 5px 8px;
  text-align: left;
  border-bottom: 1px solid var(--rule-soft);
}
.bad {
  background: var(--sunk);
}
.name span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 12px;
}
</style>
