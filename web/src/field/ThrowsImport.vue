<script setup lang="ts">
// Throws brought into a session from a file: a look at what becomes of each record, then all that can be taken.
import { ref, shallowRef, watch } from 'vue'
import { api, take, type ThrowsReport } from '@/api/client'
import { useActions } from '@/api/useData'
import { chosenFile } from '@/common/chosenFile'

const props = defineProps<{ session: string }>()
const open = defineModel<boolean>({ required: true })
const actions = useActions()
const chosen = shallowRef<File | null>(null)
const wear = ref(true)
const report = ref<ThrowsReport | null>(null)
watch(open, () => {
  chosen.value = null
  report.value = null
})

function choose(event: Event) {
  const file = chosenFile(event)
  if (!file) return
  chosen.value = file
  report.value = null
  void send(true)
}

const KINDS: Record<string, string> = { gpx: 'application/gpx+xml', csv: 'text/csv' }
function send(preview: boolean) {
  const ending = chosen.value?.name.toLowerCase().split('.').pop() ?? ''
  const request = {
    params: { path: { session: props.session }, query: { preview, wear: wear.value } },
    body: chosen.value as unknown as string,
    headers: { 'Content-Type': KINDS[ending] ?? 'application/geo+json' },
    bodySerializer: (body: unknown) => body as BodyInit,
  }
  return actions.attempt(async () => {
    report.value = await take(api.POST('/api/field/sessions/{session}/import', request))
    if (preview) return
    const n = report.value.imported
    await actions.refresh()
    actions.did(n === 1 ? '1 throw is in the session' : `${n} throws are in the session`)
    open.value = false
  })
}
</script>

<template>
  <el-dialog v-model="open" title="Throws from a file" width="720px" top="6vh">
    <p>
      CSV: one throw a row, with columns as in the CSV of a session. GPX: a waypoint named after the disc
      where it came to rest, one named “tee”, or a track from tee to rest. GeoJSON: points or lines with the
      property disc.
    </p>
    <p class="pick">
      <input
        type="file"
        accept=".csv,.gpx,.geojson,.json"
        aria-label="File of throws"
        data-test="throws-file"
        @change="choose"
      />
    </p>
    <template v-if="report">
      <p role="status" data-test="throws-told">
        <b>Nothing is kept yet.</b> {{ chosen?.name }} holds
        {{ report.good === 1 ? '1 throw' : `${report.good} throws` }} that can be taken.
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="What becomes of each record">
        <table class="figures">
          <thead>
            <tr>
              <th scope="col">Record</th>
              <th scope="col">Verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, k) in report.records" :key="k">
              <td>{{ r.record }}</td>
              <td>
                <b>{{ r.taken ? 'taken' : 'left aside' }}</b>: {{ r.words }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <el-checkbox v-model="wear">They wear the discs, as throws that are logged do</el-checkbox>
      <div class="acts">
        <el-button @click="open = false">Leave it</el-button>
        <el-button v-if="report.good" type="primary" data-test="throws-take" @click="send(false)">
          Keep them
        </el-button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.pick {
  margin: 10px 0;
}
.scroll {
  max-height: 46vh;
  margin: 10px 0;
  overflow: auto;
  border: 1px solid var(--rule-soft);
}
.acts {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  margin-top: 12px;
}
.acts .el-button {
  margin: 0;
}
</style>
