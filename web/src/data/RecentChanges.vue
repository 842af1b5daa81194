<script setup lang="ts">
// Everything that was changed, the latest first, each with its way back.
import { computed, ref } from 'vue'
import { api, type Change, take, WINDOW } from '@/api/client'
import ProblemNote from '@/common/ProblemNote.vue'
import { useActions, useChanges, useUnits } from '@/api/useData'
import { fieldLabel, fieldValue } from '@/common/fields'
import { when } from '@/data/data'

const props = defineProps<{ discId?: number }>()
const latest = useChanges(() => props.discId)
const units = useUnits()
const actions = useActions()

/** Steps before the latest, as far as they were asked for. */
const older = ref<Change[]>([])
const whole = ref(false)
const changes = computed(() => {
  const first = latest.data.value?.changes ?? []
  const oldest = first.at(-1)?.id ?? 0
  return [...first, ...older.value.filter((c) => c.id < oldest)]
})

async function more() {
  const before = changes.value.at(-1)?.id
  if (before === undefined) return
  await actions.attempt(async () => {
    const part = await take(api.GET('/api/changes', { params: { query: { before, disc_id: props.discId } } }))
    whole.value = part.changes.length === 0
    older.value = [...older.value, ...part.changes]
  })
}

function turn(change: Change) {
  const params = { params: { path: { id: change.id } } }
  return actions.attempt(async () => {
    const undo = change.state === 'done'
    const turned = await take(
      undo ? api.POST('/api/changes/{id}/undo', params) : api.POST('/api/changes/{id}/redo', params),
    )
    older.value = older.value.map((c) => (c.id === turned.id ? turned : c))
    await actions.refresh()
    actions.did(undo ? `Undone: ${turned.words}` : `Done again: ${turned.words}`)
  })
}
</script>

<template>
  <section :class="{ panel: discId === undefined }" aria-labelledby="changes">
    <h2 id="changes">{{ discId === undefined ? 'Recent changes' : 'What was changed of it' }}</h2>
    <ProblemNote v-if="latest.error.value" :error="latest.error.value" @retry="latest.refetch()" />
    <p v-else-if="latest.data.value && changes.length === 0" class="soft">
      {{
        discId === undefined
          ? 'Nothing has been changed yet. Whatever you change is listed here and can be undone, also after a restart.'
          : 'Nothing of it has been changed since it is kept here.'
      }}
    </p>
    <ol data-test="changes">
      <li v-for="c in changes" :key="c.id" :class="c.state" :data-change="c.id">
        <span class="when soft">{{ when(c.at) }}</span>
        <div class="what">
          <b>{{ c.words }}</b>
          <span v-if="c.state === 'undone'" class="mark">undone</span>
          <span v-else-if="c.window && c.window !== WINDOW" class="soft"> in another window</span>
          <ul>
            <li v-for="(t, k) in c.things" :key="k">
              {{ t.thing
              }}<template v-if="t.fields.length > 0">
                <span v-for="f in t.fields" :key="f.field" class="field">
                  {{ fieldLabel(f.field) }} {{ fieldValue(units, f.field, f.before) }} →
                  {{ fieldValue(units, f.field, f.after) }}
                </span>
              </template>
            </li>
            <li v-if="c.further > 0">and {{ c.further }} more</li>
          </ul>
        </div>
        <el-button data-test="turn" @click="turn(c)">{{
          c.state === 'done' ? 'Undo' : 'Do again'
        }}</el-button>
      </li>
    </ol>
    <el-button v-if="changes.length >= 50 && !whole" @click="more">Show earlier ones</el-button>
  </section>
</template>

<style scoped>
ol,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
ol > li {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: start;
  padding: 10px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.undone b {
  text-decoration: line-through;
}
.mark {
  margin-left: 8px;
  padding: 1px 7px;
  border: 1px solid var(--rule);
}
ul {
  color: var(--ink-soft);
  font-size: 14px;
}
.field {
  display: block;
  padding-left: 14px;
}
@media (max-width: 600px) {
  ol > li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .when {
    grid-column: 1 / -1;
  }
}
</style>
