<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import { api, type ImportReport, take } from '@/api/client'
import { useActions } from '@/api/useData'

const open = defineModel<boolean>({ required: true })
const actions = useActions()
const chosen = shallowRef<File | null>(null)
const fileName = ref('')
const report = ref<ImportReport | null>(null)
watch(open, () => {
  chosen.value = null
  fileName.value = ''
  report.value = null
})

async function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  fileName.value = file.name
  chosen.value = file
  await send(false)
}

function send(acceptGood: boolean) {
  return actions.attempt(async () => {
    const answer = await take(
      api.POST('/api/shelf/import', {
        params: { query: { accept_good: acceptGood } },
        // The bytes as they are: the server says in which line they stop being text.
        body: chosen.value as unknown as string,
        headers: { 'Content-Type': 'text/csv' },
        bodySerializer: (body) => body,
      }),
    )
    report.value = answer
    if (answer.imported > 0) {
      const aside =
        answer.ignored.length > 0 ? `; columns not known were left aside: ${answer.ignored.join(', ')}` : ''
      actions.did(`${answer.imported} discs are imported${aside}`)
      open.value = false
      await actions.refresh()
    }
  })
}
</script>

<template>
  <el-dialog v-model="open" title="Import discs from CSV" width="640px">
    <p>
      One disc a row, a header with the column names; commas, semicolons or tabs between cells. A file that
      Export makes shows every column; needed are name, maker, mould, plastic, mass_g, speed, glide, turn and
      fade.
    </p>
    <p class="pick">
      <input
        type="file"
        accept=".csv,text/csv"
        aria-label="CSV file"
        data-test="import-file"
        @change="choose"
      />
    </p>
    <template v-if="report && report.problems.length > 0">
      <p role="alert">
        <b>Nothing is imported yet.</b> {{ report.good }} rows of {{ fileName }} are good;
        {{ report.problems.length + report.further }} things are wrong<template v-if="report.further > 0"
          >, of which the first {{ report.problems.length }} are</template
        >:
      </p>
      <div class="scroll">
        <table>
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col">Column</th>
              <th scope="col">Expected</th>
              <th scope="col">Came</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(p, k) in report.problems" :key="k">
              <td>{{ p.line }}</td>
              <td>{{ p.column || 'whole row' }}</td>
              <td>{{ p.expected }}</td>
              <td>{{ p.got }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="acts">
        <el-button @click="open = false">Leave it</el-button>
        <el-button v-if="report.good > 0" type="primary" data-test="import-good" @click="send(true)">
          Import the {{ report.good }} good rows
        </el-button>
      </div>
    </template>
    <p v-else-if="report && report.imported === 0">The file has a header but no discs.</p>
  </el-dialog>
</template>

<style scoped>
.pick {
  margin: 14px 0;
}
.scroll {
  max-height: 320px;
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
.acts {
  display: flex;
  justify-content: flex-end;
}
</style>
