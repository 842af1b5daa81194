<script setup lang="ts">
// Copies: one to take away, those of the last days, and bringing one back after a look at what it holds.
import { ref, shallowRef } from 'vue'
import { api, asProblem, type Holds, take } from '@/api/client'
import type { components } from '@/api/schema'
import { ifMatch, useActions } from '@/api/useData'
import { bytes, holdsText, when } from '@/data/data'

const props = defineProps<{ records: components['schemas']['Tagged_Records'] }>()
const actions = useActions()

/** The version of the records that the screen shows. */
const seen = () => ifMatch(props.records.etag)

/** A copy that was looked at, and how to bring it back. */
interface Looked {
  name: string
  holds: Holds
  restore: () => Promise<components['schemas']['Restored']>
  /** Whether bringing it back is a step that can be undone. */
  undoable?: boolean
}
const looked = shallowRef<Looked | null>(null)
const fileName = ref('')

const body = (file: File) => ({
  body: file as unknown as string & number[],
  headers: { 'Content-Type': 'application/vnd.sqlite3' },
  bodySerializer: (bytes: unknown) => bytes as BodyInit,
})

function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  fileName.value = file.name
  looked.value = null
  wrong.value = []
  void actions.attempt(async () => {
    looked.value = file.name.toLowerCase().endsWith('.json')
      ? await lookAtRecords(file)
      : await lookAtFile(file)
  })
  // The same file chosen again is another look.
  input.value = ''
}

async function lookAtFile(file: File): Promise<Looked> {
  const holds = await take(api.POST('/api/data/preview', body(file)))
  const restore = () => take(api.POST('/api/data/restore', { params: { header: seen() }, ...body(file) }))
  return { name: file.name, holds, restore }
}

const wrong = ref<readonly { at: string; words: string }[]>([])
async function lookAtRecords(file: File): Promise<Looked | null> {
  const json = {
    body: file as never,
    headers: { 'Content-Type': 'application/json' },
    bodySerializer: (bytes: unknown) => bytes as BodyInit,
  }
  let holds
  try {
    holds = await take(api.POST('/api/records/preview', json))
  } catch (error) {
    const { problems } = asProblem(error)
    if (problems.length === 0) throw error
    wrong.value = problems
    return null
  }
  const restore = async () => ({
    holds: await take(api.POST('/api/records', { params: { header: seen() }, ...json })),
    kept_in: null,
  })
  return { name: file.name, holds, restore, undoable: true }
}

function look(name: string) {
  const params = { params: { path: { name } } }
  return actions.attempt(async () => {
    const holds = await take(api.GET('/api/data/copies/{name}', params))
    const restore = () =>
      take(api.POST('/api/data/copies/{name}/restore', { params: { path: { name }, header: seen() } }))
    looked.value = { name, holds, restore }
  })
}

const done = ref('')
function bringBack() {
  const copy = looked.value
  if (!copy) return
  void actions.attempt(async () => {
    const { holds, kept_in } = await copy.restore()
    looked.value = null
    if (copy.undoable) actions.did(`Everything is replaced by ${copy.name}`)
    const kept = kept_in ? ` What was there is kept in ${kept_in}.` : ''
    done.value = `${copy.name} is brought back: ${holdsText(holds)}.${kept}`
    await actions.refresh()
  })
}
</script>

<template>
  <section class="panel" aria-labelledby="copies">
    <h2 id="copies">Copies</h2>
    <p class="ways">
      <a class="as-button" href="/api/data/backup.db" download data-test="backup">Download a backup</a>
      <a class="as-button" href="/api/records.json" download data-test="records">Everything as JSON</a>
    </p>
    <p class="soft">
      The JSON is for other programs and your own scripts; its
      <a href="/api/records.schema.json">schema</a> says what is in it. It holds all but the record of
      changes.
    </p>
    <label class="pick">
      <span>Bring a backup or a JSON file back</span>
      <input
        type="file"
        accept=".db,.json,application/vnd.sqlite3,application/json"
        data-test="restore-file"
        @change="choose"
      />
    </label>
    <div v-if="looked" class="looked" role="status" data-test="preview">
      <p>
        <b>{{ looked.name }}</b> holds {{ holdsText(looked.holds)
        }}<template v-if="looked.holds.changed_at">
          and was last changed {{ when(looked.holds.changed_at) }}</template
        >. Now there is {{ holdsText(records.holds) }}.
      </p>
      <p class="soft">
        Bringing it back replaces everything;
        {{
          looked.undoable
            ? 'it is one step, which can be undone'
            : 'what is there now is kept in a file beside yours'
        }}.
      </p>
      <el-button @click="looked = null">Leave it</el-button>
      <el-button type="primary" data-test="restore" @click="bringBack">Bring it back</el-button>
    </div>
    <div v-if="wrong.length > 0" class="looked" role="alert" data-test="records-wrong">
      <p>
        <b>Nothing is imported.</b> {{ fileName }} cannot be: {{ wrong.length }}
        {{ wrong.length === 1 ? 'thing is' : 'things are' }} wrong.
      </p>
      <ul>
        <li v-for="w in wrong.slice(0, 12)" :key="w.at + w.words">
          <span
            ><b>{{ w.at || 'the whole file' }}</b
            >: {{ w.words }}</span
          >
        </li>
      </ul>
    </div>
    <p v-if="done" class="done" role="status" data-test="restored">{{ done }}</p>
    <p v-if="records.no_copies" class="problem" role="alert" data-test="no-copies">{{ records.no_copies }}</p>
    <template v-if="records.copies.length > 0">
      <h3>Of the last days</h3>
      <p class="soft path">in {{ records.copies_in }}</p>
      <ul>
        <li v-for="c in records.copies" :key="c.name">
          <span
            >{{ c.name }} <span class="soft">{{ bytes(c.bytes) }}</span></span
          >
          <el-button data-test="look" @click="look(c.name)">Look</el-button>
        </li>
      </ul>
    </template>
    <p v-else-if="!records.no_copies" class="soft">
      A copy is made beside the file on every day the program runs.
    </p>
  </section>
</template>

<style scoped>
.panel > p,
.pick {
  margin: 8px 0;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.pick {
  display: block;
}
.pick span {
  display: block;
  color: var(--ink-soft);
}
.pick input {
  min-height: 40px;
  max-width: 100%;
}
.looked {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 2px solid var(--accent);
}
.looked .el-button {
  margin: 0;
}
.done,
.path {
  overflow-wrap: anywhere;
}
h3 {
  margin-top: 12px;
  font-size: 15px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule-soft);
}
</style>
