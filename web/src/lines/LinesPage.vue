<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, type LineVerdict, take } from '@/api/client'
import DayDials from '@/common/DayDials.vue'
import LineDialog from '@/lines/LineDialog.vue'
import LineForm from '@/lines/LineForm.vue'
import LineList from '@/lines/LineList.vue'
import { inGroups, STANDINGS, STYLES, WEATHERS } from '@/lines/line'
import ProblemNote from '@/common/ProblemNote.vue'
import {
  ifMatch,
  useActions,
  useAnalysis,
  useDiscs,
  useSeason,
  useSeasonProgress,
  useSettled,
  useTable,
  useUnits,
} from '@/api/useData'
import { figure, percent, shown } from '@/common/units'
import { useDay } from '@/common/stores/day'
import { useInQuery } from '@/common/useInQuery'
import { useOpenThing } from '@/common/useOpenThing'
import { useSelection } from '@/common/stores/selection'

const day = useDay()
const units = useUnits()
const selection = useSelection()
const actions = useActions()
const conditions = useSettled(() => day.conditions)
const analysis = useAnalysis(conditions)
const discs = useDiscs()
const view = useInQuery('view', ['cards', 'table'])
const table = useTable(conditions, () => view.value === 'table' && analysis.data.value !== undefined)

const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? ''
const columns = computed(() => (table.data.value?.disc_ids ?? []).map((id) => ({ id, name: name(id) })))
const rows = computed(() => new Map(table.data.value?.rows.map((row) => [row.line_key, row])))
const withRow = (v: LineVerdict) => ({ v, row: rows.value.get(v.line.key) })
const season = useSeason(() => analysis.data.value !== undefined)
const progress = useSeasonProgress(() => season.isFetching.value)
const groups = computed(() => inGroups(analysis.data.value?.lines ?? []))
/** What is looked at: the season, one weather of it. */
const weather = ref('season')
const notMade = ref(false)
const weathers = computed(() => season.data.value?.weathers ?? [])
const standing = (key: string) => season.data.value?.lines.find((l) => l.key === key)

/** Key of the line that is edited, or "new". */
const editing = useOpenThing('edit')
const edited = computed(
  () => analysis.data.value?.lines.find((v) => v.line.key === editing.value)?.line ?? null,
)
const formOpen = computed({
  get: () => editing.value === 'new' || edited.value !== null,
  set: (on) => !on && (editing.value = null),
})
const opened = useOpenThing('line')
const openedDisc = ref<number | null>(null)

const edit = (line: LineVerdict['line'] | null) => (editing.value = line?.key ?? 'new')

function openLine(key: string, discId: number | null = null) {
  openedDisc.value = discId
  opened.value = key
}

function toggle(line: LineVerdict['line']) {
  const path = { key: line.key }
  return actions.attempt(async () => {
    const { etag, weight } = await take(api.GET('/api/lines/{key}', { params: { path } }))
    const body = { enabled: !line.enabled, weight }
    const params = { path, header: ifMatch(etag) }
    await take(api.PUT('/api/lines/{key}/setting', { params, body }))
    await actions.refresh()
    actions.did(`${line.name} is switched ${line.enabled ? 'off' : 'on'}`)
  })
}

/** Weight of a cell's ground: chances are read by number first, by depth second. */
const depth = (chance: number) => ({ '--depth': `${Math.round(62 * Math.max(0, chance - 0.1))}%` })
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Lines</h1>
        <p class="soft">
          The shots your game asks for, at your distances and in your season’s weather. A number is the share
          of your own scatter that makes the shot; open it to see why.
        </p>
      </div>
      <el-button type="primary" data-test="add-line" @click="edit(null)">Add a line</el-button>
    </div>
    <DayDials />
    <div class="filters no-print">
      <el-radio-group v-model="view" aria-label="View" data-test="view">
        <el-radio-button value="cards">Shots</el-radio-button>
        <el-radio-button value="table">Table, discs × lines</el-radio-button>
      </el-radio-group>
      <template v-if="view === 'cards'">
        <label
          >In
          <el-select v-model="weather" data-test="by-weather" aria-label="Weather">
            <el-option value="season" label="the season" />
            <el-option v-for="w in weathers" :key="w.kind" :value="w.kind" :label="WEATHERS[w.kind]" />
          </el-select>
        </label>
        <el-checkbox v-model="notMade" data-test="not-made">Only what is not made</el-checkbox>
      </template>
      <span v-if="season.isFetching.value" class="soft" role="status">{{ progress }}</span>
    </div>
    <ProblemNote v-if="season.error.value" :error="season.error.value" @retry="season.refetch()" />
    <ProblemNote v-if="analysis.error.value" :error="analysis.error.value" @retry="analysis.refetch()" />
    <p v-else-if="!analysis.data.value" class="wait">Flying your bag on every line…</p>
    <template v-else-if="view === 'cards'">
      <LineList
        :lines="analysis.data.value.lines"
        :season="season.data.value"
        :weather="weather"
        :not-made="notMade"
        :name="name"
        @open="openLine"
        @edit="edit"
        @toggle="toggle"
      />
    </template>
    <ProblemNote v-else-if="table.error.value" :error="table.error.value" @retry="table.refetch()" />
    <p v-else-if="!table.data.value" class="wait">Flying every disc on every line…</p>
    <div v-else class="scroll" tabindex="0" aria-label="Chances, scrolls sideways">
      <table :aria-busy="table.isFetching.value">
        <thead>
          <tr>
            <th scope="col" class="stick">Line</th>
            <th scope="col" class="stand">Stands</th>
            <th scope="col" class="who">Best, then second</th>
            <th v-for="c in columns" :key="c.id" scope="col" class="disc">
              <button type="button" @click="selection.discId = c.id">{{ c.name }}</button>
            </th>
          </tr>
        </thead>
        <tbody v-for="g in groups" :key="g.label">
          <tr class="group">
            <th :colspan="columns.length + 3" scope="rowgroup">{{ g.label }}</th>
          </tr>
          <tr
            v-for="{ v, row } in g.lines.map(withRow)"
            :key="v.line.key"
            :class="v.line.enabled ? standing(v.line.key)?.standing : 'off'"
            :data-line="v.line.key"
          >
            <th scope="row" class="stick">
              <button type="button" class="line" :title="`Edit ${v.line.name}`" @click="edit(v.line)">
                {{ v.line.name }}
                <small>
                  {{ shown(units, 'distance', v.line.distance_m) }}
                  <template v-if="v.line.style === 'forehand'">forehand</template>
                  <template v-if="v.line.along_m_s">
                    · {{ v.line.along_m_s < 0 ? 'headwind' : 'tailwind' }}
                    {{ shown(units, 'speed', Math.abs(v.line.along_m_s)) }}
                  </template>
                  <template v-if="v.line.weight !== 1"> · ×{{ figure(v.line.weight, 1) }}</template>
                </small>
              </button>
            </th>
            <td class="stand">
              <span class="standing" :title="standing(v.line.key)?.reason">{{
                v.line.enabled ? STANDINGS[standing(v.line.key)?.standing ?? 'off'] : 'Off'
              }}</span>
              <small v-if="v.line.spared">you throw no {{ STYLES[v.line.style] }}</small>
              <button v-else type="button" class="switch" @click="toggle(v.line)">
                {{ v.line.enabled ? 'switch off' : 'switch on' }}
              </button>
            </td>
            <td class="who">
              <template v-if="row?.best">
                {{ name(row.best.disc_id) }} {{ percent(row.best.chance)
                }}<span v-if="row.second" class="soft"
                  >, {{ name(row.second.disc_id) }} {{ percent(row.second.chance) }}</span
                >
              </template>
            </td>
            <td v-for="c in row?.cells" :key="c.disc_id" class="cell" :style="depth(c.chance)">
              <button
                v-if="v.line.enabled"
                type="button"
                :class="{ best: row?.best?.disc_id === c.disc_id }"
                :aria-label="`${name(c.disc_id)} on ${v.line.name}: ${percent(c.chance)}`"
                @click="openLine(v.line.key, c.disc_id)"
              >
                {{ c.chance > 0 ? Math.round(100 * c.chance) : '·' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft caution">
      Chances are for a clear fairway. Wait until nobody is in reach, and follow the course’s and the event’s
      own rules.
    </p>
    <LineForm v-model="formOpen" :line="edited" />
    <LineDialog
      v-model:line-key="opened"
      :disc-id="openedDisc"
      :opened-in="view === 'cards' ? weather : 'today'"
    />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  margin-top: 10px;
}
.filters .el-select {
  width: 150px;
}
.wait {
  padding: 30px 4px;
}
.scroll {
  margin-top: 12px;
  overflow-x: auto;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
table {
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  font-size: 14px;
}
th,
td {
  padding: 0;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--rule-soft);
}
thead th {
  vertical-align: bottom;
  padding: 6px;
  font-weight: 650;
  border-bottom: 2px solid var(--ink);
}
.stick {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--panel);
  min-width: 152px;
  border-right: 1px solid var(--rule);
}
.disc {
  padding: 4px 0;
  min-width: 37px;
  height: 128px;
}
.disc button {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  min-width: 37px;
  max-height: 122px;
  overflow: hidden;
  white-space: nowrap;
  text-align: left;
}
.group th {
  padding: 7px 6px 3px;
  font-weight: 750;
  background: var(--ground);
}
.group th::first-letter {
  text-transform: uppercase;
}
table button {
  background: none;
  border: 0;
  padding: 0;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
table .line {
  padding: 3px 6px;
  display: block;
  width: 100%;
  min-height: 40px;
  text-align: left;
  font-weight: 600;
}
.line:hover {
  text-decoration: underline;
}
small {
  display: block;
  font-weight: 400;
  color: var(--ink-soft);
  font-size: 12.5px;
  line-height: 1.15;
}
.stand {
  min-width: 92px;
  padding: 2px 6px;
}
.standing {
  display: block;
  font-weight: 650;
}
.switch {
  display: block;
  font-size: 12.5px;
  text-decoration: underline;
  color: var(--ink-soft);
  min-height: 20px;
}
tr.gap .standing,
tr.thin .standing {
  display: inline-block;
  padding: 0 6px;
  border: 2px solid var(--ink);
}
tr.gap .standing {
  background: var(--ink);
  color: var(--panel);
}
tr.thin .standing {
  border-style: dashed;
  border-width: 1.5px;
}
.off {
  color: var(--ink-soft);
}
.who {
  min-width: 190px;
  max-width: 230px;
  padding: 3px 6px;
  font-size: 13px;
  line-height: 1.25;
}
.cell {
  background: color-mix(in srgb, var(--hatch) var(--depth), var(--panel));
  border-left: 1px solid var(--rule-soft);
}
.cell button {
  width: 100%;
  min-height: 40px;
  text-align: center;
}
.cell button:hover {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.cell .best {
  font-weight: 800;
  outline: 2px solid var(--ink);
  outline-offset: -3px;
}
.caution {
  margin-top: 10px;
  font-size: 13.5px;
}
</style>
