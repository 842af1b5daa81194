<script setup lang="ts">
// The player's own library of moulds.
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { api, type Mould, take } from '@/api/client'
import ImportDialog from '@/shelf/ImportDialog.vue'
import MouldForm from '@/shelf/MouldForm.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { ifMatch, useActions, useMoulds } from '@/api/useData'
import { numbersText, SLOTS } from '@/common/disc'
import { SUPPLIES } from '@/shelf/mould'
import { figure } from '@/common/units'
import { useOpenFlag, useOpenThing } from '@/common/useOpenThing'

const moulds = useMoulds()
const actions = useActions()
const find = ref('')
const rows = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const text = (m: Mould) => `${m.name} ${m.maker} ${SLOTS[m.slot]}`.toLowerCase()
  return (moulds.data.value ?? []).filter((m) => words.every((w) => text(m).includes(w)))
})
/** Number of the mould that is edited, or "new". */
const editing = useOpenThing('edit')
const edited = computed(() => moulds.data.value?.find((m) => String(m.id) === editing.value) ?? null)
const open = computed({
  get: () => editing.value === 'new' || edited.value !== null,
  set: (on) => !on && (editing.value = null),
})
const importing = useOpenFlag('import')
const edit = (mould: Mould | null) => (editing.value = mould ? String(mould.id) : 'new')
const remove = (m: Mould) =>
  actions.attempt(async () => {
    await take(api.DELETE('/api/moulds/{id}', { params: { path: { id: m.id }, header: ifMatch(m.etag) } }))
    await actions.refresh()
    actions.did(`${m.name} is deleted`)
  })
const cm = (x: number | null | undefined) => (x == null ? '–' : `${figure(x, 1)} cm`)
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Moulds</h1>
        <p class="soft">
          Your own library: every mould you ever added a disc of. A line knows them by any beginning of the
          name. <RouterLink to="/shelf">Back to the shelf</RouterLink>
        </p>
      </div>
      <el-button data-test="import-moulds" @click="importing = true">Import CSV</el-button>
      <a class="as-button" href="/api/moulds.csv" download>Export CSV</a>
      <el-button type="primary" data-test="add-mould" @click="edit(null)">Add a mould</el-button>
    </div>
    <el-input
      v-model="find"
      class="find"
      placeholder="Find by name, maker, slot"
      clearable
      data-test="find-mould"
    />
    <ProblemNote v-if="moulds.error.value" :error="moulds.error.value" @retry="moulds.refetch()" />
    <div class="scroll" tabindex="0" role="region" aria-label="Moulds">
      <table>
        <thead>
          <tr>
            <th scope="col">Mould</th>
            <th scope="col">Numbers</th>
            <th scope="col">Slot</th>
            <th scope="col" class="number">Rim</th>
            <th scope="col" class="number">Depth</th>
            <th scope="col" class="number">Diameter</th>
            <th scope="col">To be had</th>
            <th scope="col" class="number">Discs</th>
            <th scope="col"><span class="visually-hidden">Actions</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in rows" :key="m.id" :data-mould="m.name">
            <th scope="row">
              <b>{{ m.name }}</b><small>{{ m.maker }}</small>
            </th>
            <td>{{ numbersText(m.printed) }}</td>
            <td>{{ SLOTS[m.slot] }}</td>
            <td class="number">{{ cm(m.rim_cm) }}</td>
            <td class="number">{{ cm(m.rim_depth_cm) }}</td>
            <td class="number">{{ cm(m.diameter_cm) }}</td>
            <td>{{ SUPPLIES[m.supply ?? 'ready'] }}</td>
            <td class="number">{{ m.discs }}</td>
            <td class="acts">
              <el-button data-test="edit-mould" @click="edit(m)">Edit</el-button>
              <el-button v-if="m.discs === 0" data-test="delete-mould" @click="remove(m)">Delete</el-button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="moulds.data.value && rows.length === 0" class="none">
        {{
          moulds.data.value.length
            ? 'No mould fits this search.'
            : 'No moulds yet. The first disc you add brings its mould along.'
        }}
      </p>
    </div>
    <ImportDialog v-model="importing" of="moulds" />
    <MouldForm v-model="open" :mould="edited" />
  </div>
</template>

<style scoped>
.find {
  max-width: 420px;
  margin-bottom: 10px;
}
.scroll {
  position: relative;
  overflow-x: auto;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 10px;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--rule-soft);
  white-space: nowrap;
}
thead th {
  padding: 9px 10px;
  font-weight: 650;
  border-bottom: 2px solid var(--ink);
}
small {
  display: block;
  font-size: 13px;
  color: var(--ink-soft);
  line-height: 1.1;
}
.number {
  text-align: right;
}
.acts {
  text-align: right;
}
.none {
  padding: 22px;
}
</style>
