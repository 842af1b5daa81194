<script setup lang="ts">
// A table of discs or moulds brought in: a look at what becomes of each row, then all or the good ones.
import { ref, shallowRef, watch } from 'vue'
import { api, type ImportReport, take } from '@/api/client'
import { useActions } from '@/api/useData'
import { chosenFile } from '@/common/chosenFile'

const props = defineProps<{ of: 'discs' | 'moulds' }>()
const open = defineModel<boolean>({ required: true })
const actions = useActions()
const chosen = shallowRef<File | null>(null)
const report = ref<ImportReport | null>(null)
watch(open, () => {
  chosen.value = null
  report.value = null
})

const NEEDED = {
  discs: 'name, maker, mould, plastic, mass_g (or mass_oz), speed, glide, turn and fade',
  moulds: 'name, maker, speed, glide, turn and fade',
}
const ONE = { discs: 'disc', moulds: 'mould' }

function choose(event: Event) {
  const file = chosenFile(event)
  if (!file) return
  chosen.value = file
  report.value = null
  void send({ preview: true })
}

function send(query: { preview?: boolean; accept_good?: boolean }) {
  const request = {
    params: { query },
    // The bytes as they are: the server says what they are written in, and in which line they stop being text.
    body: chosen.value as unknown as string,
    headers: { 'Content-Type': 'text/csv' },
    bodySerializer: (body: unknown) => body as BodyInit,
  }
  return actions.attempt(async () => {
    const answer = await take(
      props.of === 'discs' ? api.POST('/api/shelf/import', request) : api.POST('/api/moulds/import', request),
    )
    report.value = answer
    if (query.preview || answer.imported === 0) return
    const aside =
      answer.ignored.length > 0 ? `; columns not known were left aside: ${answer.ignored.join(', ')}` : ''
    await actions.refresh()
    actions.did(`${answer.imported} ${props.of} are imported${aside}`)
    open.value = false
  })
}
</script>

<template>
  <el-dialog v-model="open" :title="`Import ${of} from CSV`" width="720px" top="6vh">
    <p>
      One {{ ONE[of] }} a row, a header with the column names in any order; commas, semicolons or tabs between
      cells; UTF-8, UTF-16 or Latin-1. Needed are {{ NEEDED[of] }}; Export shows every column.
    </p>
    <p class="pick">
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="CSV file"
        data-test="import-file"
        @change="choose"
      />
    </p>
    <template v-if="report">
      <p :role="report.problems.length > 0 ? 'alert' : 'status'" data-test="import-told">
        <b>Nothing is imported yet.</b> {{ chosen?.name }} is read as {{ report.encoding }}: {{ report.good }}
        {{ report.good === 1 ? 'row is' : 'rows are' }} good<template v-if="report.problems.length > 0"
          >, {{ report.problems.length + report.further }}
          {{ report.problems.length + report.further === 1 ? 'thing is' : 'things are' }} wrong</template
        >.<template v-if="report.ignored.length > 0">
          Columns not known are left aside: {{ report.ignored.join(', ') }}.</template
        >
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="What becomes of each row">
        <table>
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col">Name</th>
              <th scope="col">Verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in report.rows" :key="r.line" :class="{ bad: !r.good }" :data-row="r.line">
              <td>{{ r.line }}</td>
              <td>{{ r.name || '–' }}</td>
              <td>
                <b>{{ r.good ? 'good' : 'wrong' }}</b>: {{ r.words }}
              </td>
            </tr>
            <template v-if="report.rows.length === 0">
              <tr v-for="p in report.problems" :key="p.column" class="bad">
                <td>{{ p.line }}</td>
                <td>{{ p.column || 'whole row' }}</td>
                <td>{{ p.expected }} expected, {{ p.got }} came</td>
              </tr>
            </template>
          </tbody>
        </table>
      </div>
      <p v-if="report.further_rows > 0" class="soft">and {{ report.further_rows }} rows more</p>
      <div class="acts">
        <el-button @click="open = false">Leave it</el-button>
        <el-button
          v-if="report.good > 0"
          type="primary"
          data-test="import-good"
          @click="send({ accept_good: true })"
        >
          Import {{ report.problems.length > 0 ? `the ${report.good} good` : report.good }}
          {{ report.good === 1 ? 'row' : 'rows' }}
        </el-button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.pick {
  margin: 14px 0;
}
.scroll {
  max-height: 46vh;
  overflow: auto;
  margin: 10px 0;
  border: 1px solid var(--rule-soft);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 8px;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--rule-soft);
}
.bad td:first-child {
  border-left: 5px solid var(--bad);
}
.acts {
  display: flex;
  justify-content: flex-end;
}
</style>
