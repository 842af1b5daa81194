<script setup lang="ts">
// Everything about the chosen disc: what it is for, the sum behind its numbers, its flights, its record.
import { computed, ref } from 'vue'
import LineDialog from '@/lines/LineDialog.vue'
import DiscForm from '@/shelf/DiscForm.vue'
import DiscMark from '@/common/DiscMark.vue'
import FlightViews from '@/common/FlightViews.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import RecentChanges from '@/data/RecentChanges.vue'
import { useActions, useBag, useSeason, useSettled, useSheet, useUnits } from '@/api/useData'
import { GRADES, keptWords, numbersText, SLOTS, worthOfEach } from '@/common/disc'
import { figure, percent, shown, side, signed, strokes } from '@/common/units'
import { WEATHERS } from '@/lines/line'
import { useThrownDiscs } from '@/field/useField'
import { useDay } from '@/common/stores/day'
import { useOpenFlag, useOpenThing } from '@/common/useOpenThing'
import { useSelection } from '@/common/stores/selection'

const selection = useSelection()
const day = useDay()
const units = useUnits()
const actions = useActions()
const bag = useBag()
const settled = useSettled(() => day.conditions)
const season = useSeason(() => selection.discId !== null)
const chosen = computed(() => selection.discId)
const sheet = useSheet(chosen, settled)
const editing = useOpenFlag('edit-disc')
const opened = useOpenThing('disc-line')
const openedIn = ref('today')
function openIn(weather: string, line: string) {
  openedIn.value = weather
  opened.value = line
}

const now = computed(() => (sheet.data.value?.disc.id === selection.discId ? sheet.data.value : undefined))
const carried = computed(() => bag.data.value?.carried.find((c) => c.disc_id === selection.discId))
const worth = computed(() =>
  selection.discId === null ? undefined : worthOfEach(season.data.value).get(selection.discId),
)
/** What the player's school and hand have against it. */
const against = computed(() => [
  ...(now.value?.objections ?? []).map((o) => o.words),
  ...(now.value?.feels_off ?? []),
])
const thrown = useThrownDiscs()
/** How often it was thrown in the field. */
const measured = computed(() => thrown.data.value?.find((d) => d.disc_id === now.value?.disc.id)?.throws ?? 0)
const kept = computed(() => keptWords(now.value?.disc.keeping))
const COLUMNS = ['speed', 'glide', 'turn', 'fade'] as const

const grade = computed({
  get: () => now.value?.disc.wear.grade ?? 'fresh',
  set: (value) => {
    const disc = now.value?.disc
    if (!disc) return
    void actions.put(disc.id, `${disc.name} is ${GRADES[value]}`, (spec) => ({
      ...spec,
      wear: { ...spec.wear, grade: value, throws: null },
    }))
  },
})

async function remove() {
  const disc = now.value?.disc
  if (disc && (await actions.remove(disc))) selection.discId = null
}
</script>

<template>
  <div class="disc-sheet">
    <div v-if="now" class="head">
      <DiscMark :colour="now.disc.colour" :wear="now.as_thrown.wear_share" :size="38" />
      <div>
        <h2 id="disc-title" tabindex="-1">{{ now.disc.name }}</h2>
        <p class="soft">
          {{ now.disc.maker }} {{ now.disc.mould }}, {{ figure(now.disc.mass_g) }} g, {{ SLOTS[now.slot] }}
          <template v-if="now.puck.peg">
            · sits on <b class="peg">{{ now.puck.peg }}</b></template
          >
        </p>
      </div>
    </div>
    <ProblemNote v-if="sheet.error.value" :error="sheet.error.value" @retry="sheet.refetch()" />
    <div v-if="now" class="sheet">
      <div class="acts">
        <template v-if="carried">
          <el-button type="primary" data-test="bench" @click="actions.bench(now.disc)">Bench</el-button>
          <el-button data-test="spare" @click="actions.carry(now.disc, !carried.spare)">
            {{ carried.spare ? 'Not a spare' : 'Mark as spare' }}
          </el-button>
        </template>
        <el-button v-else type="primary" data-test="carry" @click="actions.carry(now.disc)">Carry</el-button>
        <el-button data-test="edit" @click="editing = true">Edit</el-button>
        <el-button data-test="delete" @click="remove">Delete</el-button>
      </div>
      <p v-if="worth" class="worth">
        <b>{{ worth.words }}</b>
      </p>
      <section v-if="worth?.jobs.length" data-test="jobs">
        <h3>{{ carried ? 'What it is for' : 'What it would be for' }}</h3>
        <ul class="lines">
          <li v-for="j in worth.jobs.slice(0, 6)" :key="j.line_key">
            <button type="button" @click="openIn(j.weathers[0] ?? 'today', j.line_key)">
              <b>{{ strokes(j.strokes) }}</b> {{ j.line_name }}
              <span class="soft">{{ j.weathers.map((w) => WEATHERS[w]).join(', ') }}</span>
            </button>
          </li>
        </ul>
      </section>

      <section>
        <h3>As thrown today</h3>
        <table>
          <thead>
            <tr>
              <th scope="col"><span class="visually-hidden">cause</span></th>
              <th v-for="c in COLUMNS" :key="c" scope="col">{{ c }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(a, k) in now.as_thrown.addends" :key="a.cause">
              <th scope="row">
                {{ a.cause }} <small>{{ a.note }}</small>
              </th>
              <td v-for="c in COLUMNS" :key="c" :class="{ zero: k > 0 && Math.abs(a.change[c]) < 0.005 }">
                {{ k === 0 ? figure(a.change[c], 1) : signed(a.change[c], 2) }}
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">flies as</th>
              <td v-for="c in COLUMNS" :key="c">{{ figure(now.as_thrown.result[c], 2) }}</td>
            </tr>
          </tfoot>
        </table>
        <p v-if="measured" data-test="drawer-measured">
          <RouterLink :to="`/field?disc-season=${now.disc.id}`"
            >What
            {{ measured === 1 ? '1 measured throw says' : `${measured} measured throws say` }}</RouterLink
          >
        </p>
        <label class="grade">
          <span>Condition</span>
          <el-select v-model="grade" data-test="drawer-grade">
            <el-option v-for="(label, value) in GRADES" :key="value" :value="value" :label="label" />
          </el-select>
          <span class="soft">{{
            now.disc.wear.throws == null
              ? `about ${percent(now.as_thrown.wear_share)} worn`
              : `${now.disc.wear.throws} throws and ${now.disc.wear.hard_hits} hard hits counted: ${percent(now.as_thrown.wear_share)} worn`
          }}</span>
        </label>
      </section>

      <section>
        <h3>Flight: flat, {{ day.usual ? 'calm' : 'in today’s wind' }}</h3>
        <FlightViews :flights="now.flights">
          <table class="powers">
            <thead>
              <tr>
                <th scope="col">power</th>
                <th scope="col">speed</th>
                <th scope="col">flies</th>
                <th scope="col">ends</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="f in now.flights" :key="f.label">
                <th scope="row">{{ f.label }}</th>
                <td>{{ shown(units, 'speed', f.speed_m_s, 1) }}</td>
                <td>{{ shown(units, 'distance', f.distance_m) }}</td>
                <td>{{ side(f.finish_left_m, units) }}</td>
              </tr>
            </tbody>
          </table>
        </FlightViews>
      </section>

      <section>
        <h3>Lines it does best today</h3>
        <p v-if="now.good_lines.length === 0">It reaches none of your lines.</p>
        <ul class="lines">
          <li v-for="l in now.good_lines" :key="l.key">
            <button type="button" @click="openIn('today', l.key)">
              <b>{{ percent(l.chance) }}</b> {{ l.name }}
            </button>
          </li>
        </ul>
        <p class="soft">Printed {{ numbersText(now.disc.printed) }}. {{ now.disc.notes }}</p>
      </section>
      <section v-if="against.length" data-test="against">
        <h3>What speaks against it</h3>
        <ul class="kept">
          <li v-for="a in against" :key="a">{{ a }}</li>
        </ul>
        <p class="soft">
          By your school and hand, on the <RouterLink to="/player">Player</RouterLink> screen; nothing is
          forbidden.
        </p>
      </section>
      <section data-test="standard">
        <h3>Technical standards</h3>
        <ul class="kept">
          <li v-for="c in now.standard" :key="c.what" :class="{ broken: c.ok === false }">
            <b>{{ c.ok === false ? 'Not allowed' : c.ok ? 'Allowed' : 'Not known' }}</b>, {{ c.what }}:
            {{ c.words }}
          </li>
        </ul>
        <p class="soft">
          Limits from memory of the sport’s technical standards; the event’s rules and its list of approved
          discs come first. Measures of a mould are kept in
          <RouterLink to="/shelf/moulds">Moulds</RouterLink>.
        </p>
      </section>
      <section v-if="kept.length" data-test="keeping">
        <h3>Kept</h3>
        <ul class="kept">
          <li v-for="k in kept" :key="k">{{ k }}</li>
        </ul>
      </section>
      <RecentChanges :key="now.disc.id" class="history" :disc-id="now.disc.id" data-test="history" />
    </div>
    <DiscForm v-model="editing" :disc="now?.disc ?? null" />
    <LineDialog v-model:line-key="opened" :disc-id="selection.discId" :opened-in="openedIn" />
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
  display: flex;
  gap: 12px;
  align-items: center;
  color: var(--ink);
}
.peg {
  color: var(--ink);
  text-transform: capitalize;
}
h2:focus {
  outline: none;
}
.sheet {
  color: var(--ink);
}
section {
  margin-top: 16px;
  padding-top: 10px;
  border-top: 1px solid var(--rule);
}
h3 {
  font-size: 16px;
  margin-bottom: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.acts .el-button + .el-button {
  margin-left: 0;
}
.worth {
  margin-top: 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  padding: 3px 6px;
  text-align: right;
  font-weight: 400;
  border-bottom: 1px solid var(--rule-soft);
  vertical-align: top;
}
thead th {
  font-size: 13px;
  color: var(--ink-soft);
}
th:first-child {
  text-align: left;
}
small {
  display: block;
  font-size: 13px;
  color: var(--ink-soft);
  line-height: 1.2;
}
tfoot th,
tfoot td {
  font-weight: 750;
  border-top: 2px solid var(--ink);
  border-bottom: 0;
}
.zero {
  color: var(--ink-soft);
}
.grade {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 10px;
}
.grade .el-select {
  width: 150px;
}
.powers {
  margin-top: 10px;
  font-size: 14px;
}
.lines {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
.lines button {
  width: 100%;
  min-height: 40px;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--rule-soft);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.lines button:hover {
  background: var(--ground);
}
.broken {
  padding-left: 6px;
  border-left: 5px solid var(--bad);
}
.kept {
  margin: 0;
  padding-left: 20px;
}
.lines b {
  display: inline-block;
  min-width: 56px;
  margin-right: 6px;
}
</style>
