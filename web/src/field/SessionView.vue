<script setup lang="ts">
// One session: log the next throw, see where all of them ended, how far and how sure each disc went.
import { computed, ref } from 'vue'
import { api, type FieldSession, type FieldThrow, type Style, take } from '@/api/client'
import { ifMatch, useActions, useUnits } from '@/api/useData'
import { useOpenFlag, useOpenThing } from '@/common/useOpenThing'
import { shown, side } from '@/common/units'
import {
  changedSession,
  changedThrow,
  groupOf,
  leftOf,
  logged,
  MEANT,
  nextOf,
  PURPOSES,
  type ShownLog,
  type ShownThrow,
  TAGS,
} from '@/field/log'
import HabitPanel from '@/field/HabitPanel.vue'
import LogThrow from '@/field/LogThrow.vue'
import ReadThrow from '@/field/ReadThrow.vue'
import SessionForm from '@/field/SessionForm.vue'
import SpreadTable from '@/field/SpreadTable.vue'
import ThrowForm from '@/field/ThrowForm.vue'
import ThrowPlan from '@/field/ThrowPlan.vue'
import ThrowsImport from '@/field/ThrowsImport.vue'
import TrialForm from '@/field/TrialForm.vue'
import TrialPanel from '@/field/TrialPanel.vue'
import { useSessionReading, useSessions, useTrial } from '@/field/useField'
import { GROUNDS, STYLES } from '@/lines/line'
import { newId, useLater } from '@/offline/later'

const props = defineProps<{ log: ShownLog }>()
const emit = defineEmits<{ leave: []; go: [key: string]; disc: [id: number] }>()
const actions = useActions()
const later = useLater()
const units = useUnits()
const { sessions } = useSessions()
const others = computed(() => sessions.value.filter((s) => s.key !== props.log.key))

const chosen = ref<string | null>(null)
const spreads = computed(() => props.log.spreads ?? [])
const editing = useOpenThing('throw')
const edited = computed(() => props.log.throws.find((t) => t.key === editing.value))
const editOpen = computed({
  get: () => edited.value !== undefined,
  set: (on) => {
    if (!on) editing.value = null
  },
})
const sessionOpen = ref(false)
const trialOpen = useOpenFlag('trial')
const trial = useTrial(
  () => props.log.key,
  () => props.log.trial != null && props.log.etag !== '*',
)
const next = computed(() => (props.log.trial ? nextOf(trial.data.value?.left, props.log.throws) : undefined))
const readings = useSessionReading(
  () => props.log.key,
  () => props.log.throws.length > 0 && props.log.etag !== '*',
)
const readOf = (t: ShownThrow) => readings.data.value?.throws.find((r) => r.key === t.key)?.reading
const readable = (t: ShownThrow) =>
  t.disc_id != null && !(t.tags ?? []).some((tag) => tag === 'hit' || tag === 'slipped')
const reading = useOpenThing('read')
const readIt = computed(() => props.log.throws.find((t) => t.key === reading.value))
const readOpen = computed({
  get: () => readIt.value !== undefined,
  set: (on) => {
    if (!on) reading.value = null
  },
})
const form = ref<{ disc_id: number; style: Style }>()
const importing = ref(false)
/** Places of throws are known where the session says its tee. */
const FILES = computed((): [string, string][] => [
  ['csv', 'CSV'],
  ...(props.log.tee || props.log.throws.some((t) => t.at)
    ? ([
        ['geojson', 'GeoJSON'],
        ['gpx', 'GPX'],
      ] as [string, string][])
    : []),
])

const MOST_SHOWN = 12
const all = ref(false)
/** Throws of what is chosen, the latest first, each with its number. */
const asked = computed(() =>
  props.log.throws
    .map((t, k) => ({ t, n: k + 1 }))
    .filter(({ t }) => chosen.value === null || chosen.value === groupOf(t))
    .reverse(),
)
const latest = computed(() => (all.value ? asked.value : asked.value.slice(0, MOST_SHOWN)))
const last = computed(() => props.log.throws.at(-1))

const add = (it: FieldThrow) => later.tell(logged(props.log.key, newId(), it))
const change = (it: ShownThrow, part: Partial<FieldThrow>) =>
  later.tell(changedThrow(props.log.key, it, part))
const save = (session: Partial<FieldSession>) => later.tell(changedSession(props.log, session))
async function removeThrow(it: ShownThrow) {
  const waits = later.all.find((w) => w.method === 'POST' && w.body.key === it.key)
  if (waits) return await later.drop(waits.id)
  await actions.attempt(async () => {
    const params = { path: { session: props.log.key, throw: it.key }, header: ifMatch(it.etag) }
    await take(api.DELETE('/api/field/sessions/{session}/throws/{throw}', { params }))
    await actions.refresh()
    actions.did(`The throw of ${it.disc_name} is deleted`)
  })
}
async function removeSession() {
  await actions.attempt(async () => {
    const params = { path: { session: props.log.key }, header: ifMatch(props.log.etag) }
    await take(api.DELETE('/api/field/sessions/{session}', { params }))
    emit('leave')
    await actions.refresh()
    actions.did(`The session at ${props.log.place} is deleted`)
  })
}
async function merge(into: string) {
  await actions.attempt(async () => {
    const path = { session: into }
    const { etag } = await take(api.GET('/api/field/sessions/{session}', { params: { path } }))
    const body = { from: props.log.key }
    const params = { path, header: ifMatch(etag) }
    await take(api.POST('/api/field/sessions/{session}/merge', { params, body }))
    emit('go', into)
    await actions.refresh()
    actions.did('The sessions are one')
  })
}
const words = (t: ShownThrow) => {
  const left = leftOf(t)
  const far = t.distance_m == null ? 'not measured' : shown(units.value, 'distance', t.distance_m, 1)
  return left == null ? far : `${far}, ${side(left, units.value)}`
}
const day = computed(() => {
  const { purpose, ground, wet, aim_deg } = props.log
  const aim = aim_deg == null ? '' : `aim ${aim_deg}°`
  return [PURPOSES[purpose ?? 'practice'], GROUNDS[ground ?? 'turf'], wet ? 'wet' : '', aim]
    .filter(Boolean)
    .join(', ')
})
</script>

<template>
  <section data-test="session">
    <div class="head">
      <div class="grow">
        <p>
          <b class="place">{{ log.place }}</b> <span class="soft">{{ log.date }}; {{ day }}</span>
        </p>
        <p v-if="log.note" class="soft">{{ log.note }}</p>
      </div>
      <el-button data-test="edit-trial" @click="trialOpen = true">{{
        log.trial ? 'The trial' : 'Try discs side by side'
      }}</el-button>
      <el-button data-test="import-throws" @click="importing = true">From a file</el-button>
      <template v-if="log.throws.length">
        <a
          v-for="[ending, label] in FILES"
          :key="ending"
          class="as-button"
          :href="`/api/field/sessions/${log.key}.${ending}`"
          download
          :data-test="`session-${ending}`"
          >{{ label }}</a
        >
      </template>
      <el-button data-test="edit-session" @click="sessionOpen = true">Session</el-button>
      <button type="button" class="as-link" data-test="all-sessions" @click="emit('leave')">
        All sessions
      </button>
    </div>
    <div class="two">
      <div>
        <LogThrow :log="log" :next="next" :form="form" @throw="add" @aim="save({ aim_deg: $event })" />
        <div v-if="last" class="panel" data-test="throws">
          <h2>{{ chosen === null ? 'Throws' : 'Throws of what is chosen' }}</h2>
          <ol class="throws">
            <li v-for="{ t, n } in latest" :key="t.key">
              <span class="n">{{ n }}</span>
              <span class="what"
                ><b>{{ t.disc_name }}</b> {{ STYLES[t.style] }}, {{ MEANT[t.meant ?? 'flat'] }}</span
              >
              <span class="end">{{ words(t) }}</span>
              <span class="acts">
                <button
                  v-if="readable(t)"
                  type="button"
                  class="as-link"
                  :aria-label="`throw ${n}: ${readOf(t)?.words ?? 'read it'}`"
                  :data-read="n"
                  @click="reading = t.key"
                >
                  {{ readOf(t)?.words ?? 'read it' }}
                </button>
                <small v-if="t.tags?.length">{{ t.tags.map((tag) => TAGS[tag]).join(', ') }}</small>
                <span class="grow" />
                <button
                  type="button"
                  class="as-link"
                  :aria-label="`throw ${n}: change`"
                  :data-throw="n"
                  @click="editing = t.key"
                >
                  change
                </button>
                <button
                  v-if="t.key === last.key"
                  type="button"
                  class="as-link"
                  data-test="take-back"
                  @click="removeThrow(t)"
                >
                  take back
                </button>
              </span>
            </li>
          </ol>
          <button v-if="latest.length < asked.length" type="button" class="as-link" @click="all = true">
            All {{ asked.length }}
          </button>
        </div>
      </div>
      <div>
        <TrialPanel
          v-if="log.trial"
          :log="log"
          :trial="log.trial"
          :query="trial"
          @save="save({ trial: $event })"
        />
        <HabitPanel v-if="log.throws.length" :query="readings" @form="form = $event" />
        <div v-if="log.throws.length" class="panel seen">
          <h2>Where they ended</h2>
          <ThrowPlan :throws="log.throws" :spreads="spreads" :chosen="chosen" />
          <p class="soft">
            Half of such throws end inside the ellipse. Empty shapes slipped or hit something and do not
            count.
          </p>
          <SpreadTable v-if="log.spreads" v-model="chosen" :spreads="spreads" />
          <p v-else class="soft">How they spread is worked out when Zinc Kite has been told.</p>
        </div>
      </div>
    </div>
    <ThrowForm
      v-model="editOpen"
      :it="edited"
      @save="edited && change(edited, $event)"
      @remove="edited && removeThrow(edited)"
    />
    <ReadThrow v-model="readOpen" :session="log.key" :it="readIt" @save="readIt && change(readIt, $event)" />
    <TrialForm
      v-model="trialOpen"
      :trial="log.trial ?? undefined"
      @save="save({ trial: $event, purpose: 'trial' })"
    />
    <ThrowsImport v-model="importing" :session="log.key" />
    <SessionForm
      v-model="sessionOpen"
      :log="log"
      :others="others"
      @save="save"
      @remove="removeSession"
      @merge="merge"
    />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  margin-bottom: 10px;
}
.grow {
  flex: 1 1 260px;
}
.place {
  font-size: 19px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0 14px;
  align-items: start;
}
@media (min-width: 1100px) {
  .two {
    grid-template-columns: minmax(0, 6fr) minmax(0, 6fr);
  }
}
.throws {
  margin: 0;
  padding: 0;
  list-style: none;
}
.throws li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: center;
  padding-top: 6px;
  border-bottom: 1px solid var(--rule-soft);
}
.acts {
  grid-column: 2 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: center;
}
.acts .grow {
  flex: 1;
}
.n {
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}
.end {
  font-variant-numeric: tabular-nums;
}
.throws .as-link {
  min-height: 40px;
}
</style>
