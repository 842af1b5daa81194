<script setup lang="ts">
// Throws side by side: what they do, and what one change to them does.
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, type RangeRequest, type RangeThrow, take, type Vary } from '@/api/client'
import DayDials from '@/common/DayDials.vue'
import FlightPlan from '@/common/FlightPlan.vue'
import FlightSide from '@/common/FlightSide.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useOpenFlag } from '@/common/useOpenThing'
import CopyFromLine from '@/range/CopyFromLine.vue'
import ExportMenu from '@/range/ExportMenu.vue'
import RangeTable from '@/range/RangeTable.vue'
import ThrowDials from '@/range/ThrowDials.vue'
import { useBag, useDiscs, usePlayer, useUnits } from '@/api/useData'
import { useSingleKeys } from '@/common/useShortcuts'
import { GROUNDS, STYLES } from '@/lines/line'
import { CHANGES, DIALS, letter } from '@/range/range'
import type { Flight } from '@/common/scene'
import { figure, percent, shown } from '@/common/units'
import { windFrom } from '@/common/wind'
import { useDay } from '@/common/stores/day'
import { useNotice } from '@/common/stores/notice'
import { type CloudsShown, useRange } from '@/range/store'

const range = useRange()
const day = useDay()
const notice = useNotice()
const units = useUnits()
const player = usePlayer()
const discs = useDiscs()
const bag = useBag()
const usual = useQuery({
  queryKey: ['usual settings'],
  queryFn: () => take(api.GET('/api/range/usual')),
  staleTime: Infinity,
})
const copying = useOpenFlag('copy')
const what = ref<Vary | 'throw'>('throw')

const shelf = computed(() => discs.data.value ?? [])
const settings = computed(() => usual.data.value ?? [])
const start = computed(() => settings.value.find((s) => s.style === player.data.value?.strong_style))

/** A visitor finds something to look at: one carried disc of each speed, thrown flat. */
watch(
  [shelf, start, () => bag.data.value],
  () => {
    // A disc that has left the shelf leaves the range too.
    const known = new Set(shelf.value.map((d) => d.id))
    if (discs.data.value) {
      const gone = range.throws.filter((t) => t.disc.kind === 'shelf' && !known.has(t.disc.disc_id))
      if (gone.length)
        range.replace(
          range.throws.filter((t) => !gone.includes(t)),
          range.chosen,
        )
    }
    if (range.throws.length || !start.value || !discs.data.value || !bag.data.value) return
    const carried = new Set(bag.data.value.carried.map((c) => c.disc_id))
    const pool = shelf.value.filter((d) => d.used_for === 'throwing')
    const first = (['mid_range', 'fairway', 'distance'] as const).flatMap(
      (slot) =>
        pool.find((d) => d.slot === slot && carried.has(d.id)) ?? pool.find((d) => d.slot === slot) ?? [],
    )
    const any: RangeThrow['disc'] = {
      kind: 'numbers',
      numbers: { speed: 7, glide: 5, turn: -1, fade: 2 },
      mass_g: 175,
    }
    const chosen: RangeThrow['disc'][] = first.map((d) => ({ kind: 'shelf', disc_id: d.id }))
    const setting = start.value
    range.replace((chosen.length ? chosen : [any]).map((disc) => ({ disc, setting: { ...setting } })))
  },
  { immediate: true },
)

const discName = (t: RangeThrow) => {
  const disc = t.disc
  if (disc.kind === 'shelf') return shelf.value.find((d) => d.id === disc.disc_id)?.name ?? 'a disc'
  const n = disc.numbers
  return [n.speed, n.glide, n.turn, n.fade].map((x) => figure(x, x % 1 ? 1 : 0)).join(' / ')
}
/** What tells this throw from the others: the disc, and every dial that is not the same for all. */
const names = computed(() =>
  range.throws.map((t) => {
    if (t.name) return t.name
    const differs = (of: (x: RangeThrow) => unknown) => range.throws.some((x) => of(x) !== of(t))
    const parts: string[] = []
    if (differs((x) => x.setting.style)) parts.push(STYLES[t.setting.style])
    if (differs((x) => x.setting.hand ?? null) && t.setting.hand) parts.push(`${t.setting.hand} hand`)
    for (const dial of DIALS) {
      if (!differs((x) => x.setting[dial.key])) continue
      const x = t.setting[dial.key]
      parts.push(`${dial.label.toLowerCase()} ${dial.share ? percent(x) : `${figure(x, x % 1 ? 1 : 0)}°`}`)
    }
    const own = t.setting.conditions
    if (own)
      parts.push(
        (own.wind_m_s ?? 0) < 0.25
          ? 'calm'
          : `${shown(units.value, 'speed', own.wind_m_s ?? 0)} ${windFrom(own.wind_from_deg ?? 0)}`,
      )
    // One disc for all needs no name in every row.
    if (!parts.length || differs(discName)) parts.unshift(discName(t))
    return parts.join(', ')
  }),
)
const request = computed<RangeRequest>(() => ({
  day: day.conditions,
  ground: range.ground,
  throws: range.throws.map((t, k) => ({ ...t, name: `${letter(k)} ${names.value[k] ?? ''}` })),
}))
/** What is asked of the server: names change nothing in the air. */
const asked = computed(() =>
  JSON.stringify({ ...request.value, throws: range.throws.map((t) => ({ ...t, name: '' })) }),
)
const flown = useQuery({
  queryKey: ['range', asked],
  queryFn: ({ signal }) =>
    take(api.POST('/api/range', { body: JSON.parse(asked.value) as RangeRequest, signal })),
  enabled: computed(() => range.throws.length > 0),
  placeholderData: keepPreviousData,
})
const results = computed(() => (flown.data.value ?? []).slice(0, range.throws.length))
const drawn = computed<Flight[]>(() =>
  results.value.map((f, k) => ({
    label: letter(k),
    path: f.path,
    run: f.run,
    cloud: range.clouds === 'all' || (range.clouds === 'chosen' && k === range.chosen) ? f.cloud : [],
  })),
)
const looked = computed(() => results.value[range.chosen])
const captions = computed(() => names.value.map((name, k) => `${letter(k)}  ${name}`))

const CLOUDS: Record<CloudsShown, string> = { chosen: 'of the chosen', all: 'of all', none: 'not shown' }

function add() {
  const now = range.current
  if (!now || range.full) return
  // Same release, next disc on the shelf: two discs are then compared at once.
  const used = new Set(range.throws.flatMap((t) => (t.disc.kind === 'shelf' ? [t.disc.disc_id] : [])))
  const carried = new Set(bag.data.value?.carried.map((c) => c.disc_id) ?? [])
  const next =
    shelf.value.find((d) => carried.has(d.id) && !used.has(d.id)) ?? shelf.value.find((d) => !used.has(d.id))
  range.add({
    disc: next ? { kind: 'shelf', disc_id: next.id } : { ...now.disc },
    setting: { ...now.setting },
  })
}
/** Does something to the throws and keeps the way back. */
function undoably(label: string, work: () => void) {
  const before = JSON.parse(JSON.stringify(range.throws)) as RangeThrow[]
  const chosen = range.chosen
  work()
  notice.done(label, () => Promise.resolve(range.replace(before, chosen)))
}
function remove() {
  if (range.throws.length > 1)
    undoably(`Throw ${letter(range.chosen)} is taken away`, () => range.remove(range.chosen))
}
async function vary() {
  const now = range.current
  const key = what.value
  if (!now || key === 'throw') return
  what.value = 'throw'
  const { disc, setting } = now
  try {
    const row = await take(api.POST('/api/range/vary', { body: { setting, what: key, day: day.conditions } }))
    const throws = row.settings.map((each) => ({ disc: { ...disc }, setting: each }))
    undoably('One thing is changed in six steps', () => range.replace(throws, row.own))
  } catch (error) {
    notice.failed(error)
  }
}
watch(what, vary)

useSingleKeys((event) => {
  const digit = Number(event.key)
  if (digit >= 1 && digit <= range.throws.length) range.choose(digit - 1)
  else if (event.key === 'n') add()
  else if (event.key === 'x') remove()
  else if (event.key === 'c') copying.value = true
  else return
  event.preventDefault()
})
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Range</h1>
      <p class="soft grow">The same arm, up to six throws at once: other discs, or one release changed.</p>
      <el-button :disabled="range.full" title="n" data-test="range-add" @click="add">Add a throw</el-button>
      <el-select v-model="what" class="vary" aria-label="Hold this, change one thing" data-test="range-vary">
        <el-option value="throw" label="Hold this, change …" disabled />
        <el-option v-for="c in CHANGES" :key="c.key" :value="c.key" :label="`change ${c.label}`" />
      </el-select>
      <el-button :disabled="range.full" title="c" data-test="range-copy" @click="copying = true">
        Copy from a line
      </el-button>
      <ExportMenu :request="request" :captions="captions" />
    </div>
    <ProblemNote
      v-if="flown.error.value ?? discs.error.value ?? usual.error.value"
      :error="flown.error.value ?? discs.error.value ?? usual.error.value"
      @retry="flown.refetch()"
    />
    <DayDials />
    <div class="bench">
      <div class="plan">
        <FlightPlan :flights="drawn" :chosen="range.chosen" :height="520" :widest="380" lettered />
      </div>
      <div class="middle">
        <FlightSide :flights="drawn" :chosen="range.chosen" :width="640" />
        <RangeTable :names="names" :flights="results" />
        <div class="options">
          <label>
            <span>Ground</span>
            <el-select v-model="range.ground" data-test="range-ground">
              <el-option v-for="(label, value) in GROUNDS" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>My scatter</span>
            <el-select v-model="range.clouds" data-test="range-clouds">
              <el-option v-for="(label, value) in CLOUDS" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
        </div>
        <p v-if="looked && looked.hop_m > 0" data-test="range-hops">
          {{ letter(range.chosen) }} hops over the ground,
          {{ shown(units, 'distance', looked.hop_m, 2) }} high at the most.
        </p>
        <p v-if="looked" data-test="range-scatter">
          {{ letter(range.chosen) }} with your own scatter: {{ percent(looked.within_10_m) }} of throws come
          to rest within {{ shown(units, 'distance', 10) }} of this one, most of them within
          {{ shown(units, 'distance', looked.spread_long_m) }} longer or shorter and
          {{ shown(units, 'distance', looked.spread_wide_m) }} to either side of their middle.
        </p>
        <p class="soft note">
          Small figures: how much more than {{ letter(range.chosen) }}. Dots: 128 throws with your scatter.
          Keys 1 to 6 choose a throw, n adds one, x takes it away. Throw only where nobody can be hit.
        </p>
      </div>
      <aside v-if="range.current" class="turning">
        <div class="which">
          <h2>Throw {{ letter(range.chosen) }}</h2>
          <el-button v-if="range.throws.length > 1" title="x" data-test="range-remove" @click="remove">
            Take away
          </el-button>
        </div>
        <ThrowDials
          :throw="range.current"
          :flight="results[range.chosen]"
          :discs="shelf"
          :usual="settings"
          :hand="player.data.value?.hand ?? 'right'"
        />
      </aside>
    </div>
    <CopyFromLine
      v-model="copying"
      :discs="shelf"
      :usual="settings"
      :disc-id="range.current?.disc.kind === 'shelf' ? range.current.disc.disc_id : null"
      @copied="range.add($event)"
    />
  </div>
</template>

<style scoped>
.page-head .grow {
  flex: 1 1 200px;
}
.page-head > .el-button {
  margin: 0;
}
.vary {
  width: 190px;
}
.bench {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) 262px;
  gap: 14px 16px;
  align-items: start;
  margin-top: 10px;
  padding: 12px 16px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
}
.middle {
  display: grid;
  gap: 10px;
  min-width: 0;
}
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.options .el-select {
  width: 170px;
}
.options span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
.turning {
  padding-left: 16px;
  border-left: 1px solid var(--rule-soft);
}
.which {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 40px;
}
.note {
  font-size: 13.5px;
}
@media (max-width: 1080px) {
  .bench {
    grid-template-columns: auto minmax(0, 1fr);
  }
  .turning {
    grid-column: 1 / -1;
    padding: 0;
    border: 0;
  }
}
@media (max-width: 760px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px;
  }
  .plan {
    overflow-x: auto;
  }
}
</style>
