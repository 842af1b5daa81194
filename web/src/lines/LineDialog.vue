<script setup lang="ts">
// A line opened: its plan and side view, the best discs' flights and scatter over one another, and why.
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, asQuery, type ChanceSheet, take } from '@/api/client'
import FlightPlan from '@/common/FlightPlan.vue'
import FlightSide from '@/common/FlightSide.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { DASHES } from '@/common/scene'
import { useBag, useSeason, useSettled, useUnits } from '@/api/useData'
import { WEATHERS } from '@/lines/line'
import { figure, percent, shown, side } from '@/common/units'
import { useDay } from '@/common/stores/day'

const props = defineProps<{
  /** A disc to show whether or not it is among the best. */
  discId: number | null
  /** The weather of the season it is opened in; anything else is today. */
  openedIn: string
}>()
const lineKey = defineModel<string | null>('lineKey', { required: true })

const day = useDay()
const units = useUnits()
const bag = useBag()
const season = useSeason(() => lineKey.value !== null)
const weathers = computed(() => season.data.value?.weathers ?? [])
const weather = ref('today')
const conditions = computed(
  () => weathers.value.find((w) => w.kind === weather.value)?.conditions ?? day.conditions,
)
const settled = useSettled(() => conditions.value)
const open = computed({
  get: () => lineKey.value !== null,
  set: (on) => {
    if (!on) lineKey.value = null
  },
})
const query = useQuery({
  queryKey: ['line', computed(() => bag.data.value?.id), lineKey, computed(() => props.discId), settled],
  queryFn: ({ signal }) =>
    take(
      api.GET('/api/bags/{id}/lines/{key}', {
        params: {
          path: { id: bag.data.value?.id ?? 0, key: lineKey.value ?? '' },
          query: {
            ...(props.discId === null ? {} : { disc_id: props.discId }),
            ...asQuery(settled.value),
          },
        },
        signal,
      }),
    ),
  enabled: computed(() => open.value && bag.data.value !== undefined),
  placeholderData: keepPreviousData,
})
/** What is shown belongs to this line: the answer before it may be another's. */
const sheet = computed(() => {
  const found = query.data.value
  return found?.line.key === lineKey.value ? found : undefined
})
const picked = ref<number | null>(null)
watch(lineKey, () => {
  weather.value = weathers.value.some((w) => w.kind === props.openedIn) ? props.openedIn : 'today'
  picked.value = props.discId
})
const chosen = computed(() =>
  Math.max(0, sheet.value?.discs.findIndex((d) => d.disc_id === picked.value) ?? 0),
)
const disc = computed(() => sheet.value?.discs[chosen.value])
const flights = computed(() =>
  (sheet.value?.discs ?? []).map((d, k) => ({
    label: d.disc_name,
    path: d.path,
    run: d.run,
    // The one that is looked at shows which throws make it.
    ...(k === chosen.value ? {} : { cloud: d.cloud.map(({ x_m, y_m }) => ({ x_m, y_m })) }),
  })),
)
const zone = computed(() => {
  const line = sheet.value?.line
  if (!line || line.landing === 'basket') return undefined
  return {
    distance_m: line.distance_m,
    length_m: line.zone_length_m,
    width_m: line.zone_width_m,
    open: line.open_ended ?? false,
  }
})
const asked = computed(() => {
  const line = sheet.value?.line
  if (!line) return ''
  const at = shown(units.value, 'distance', line.distance_m)
  if (!zone.value) return `Basket at ${at}`
  const wide = shown(units.value, 'distance', line.zone_width_m)
  if (line.open_ended) {
    const near = shown(units.value, 'distance', line.distance_m - line.zone_length_m / 2)
    return `Beyond ${near}, ${wide} wide; the farthest is ${at}`
  }
  return `Zone ${shown(units.value, 'distance', line.zone_length_m)} long, ${wide} wide at ${at}`
})
const ERRORS: Record<ChanceSheet['costs'][number]['kind'], string> = {
  speed: 'Speed',
  hyzer: 'Hyzer',
  launch: 'Launch',
  nose: 'Nose',
  aim: 'Aim',
  gust: 'Gusts',
}
/** What each error costs, in throws of a hundred; what is less than one says nothing. */
const costs = computed(() =>
  (disc.value?.costs ?? []).map((c) => ({ ...c, points: Math.round(100 * c.gain) })),
)
const dearest = computed(() => costs.value.find((c) => c.kind !== 'gust' && c.points > 0))
/** Aim as a player takes it: by what stands beside the target. */
function aim(beside: number) {
  return Math.abs(beside) < 0.5 ? 'at the target' : `${side(beside, units.value)} of the target`
}
function figures(c: NonNullable<ChanceSheet['chance']['chosen']>) {
  const bank = `${figure(Math.abs(c.hyzer_deg), 0)}° ${c.hyzer_deg < 0 ? 'anhyzer' : 'hyzer'}`
  const nose = `nose ${figure(c.nose_deg, 0)}°`
  return `${shown(units.value, 'speed', c.speed_m_s, 1)}, ${bank}, launch ${figure(c.launch_deg, 0)}°, ${nose}`
}
</script>

<template>
  <el-dialog
    v-model="open"
    width="min(1240px, 98vw)"
    top="2vh"
    append-to-body
    :title="sheet?.line.name ?? 'Line'"
  >
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <p v-if="!sheet && !query.error.value" class="soft" role="status">Flying your discs on this line…</p>
    <div v-if="sheet" class="opened" data-test="chance" :aria-busy="query.isFetching.value">
      <div class="asked">
        <p>
          {{ sheet.line.meaning || 'Your own line.' }} <span class="soft">{{ asked }}.</span>
        </p>
        <el-radio-group v-model="weather" aria-label="Weather" data-test="line-weather">
          <el-radio-button value="today">today</el-radio-button>
          <el-radio-button v-for="w in weathers" :key="w.kind" :value="w.kind">{{
            WEATHERS[w.kind]
          }}</el-radio-button>
        </el-radio-group>
      </div>
      <p v-if="sheet.discs.length === 0">
        No carried disc makes this line in this weather. The reason on the line’s card says which disc would.
      </p>
      <template v-else>
        <FlightPlan
          class="plan"
          :flights="flights"
          :dots="disc?.cloud ?? []"
          :zone="zone"
          :gates="sheet.line.gates ?? []"
          :things="sheet.line.things ?? []"
          :chosen="chosen"
          :height="600"
          :widest="620"
        />
        <div class="beside">
          <ul class="discs" aria-label="The best discs">
            <li v-for="(d, k) in sheet.discs" :key="d.disc_id">
              <button
                type="button"
                :class="{ on: k === chosen }"
                :aria-pressed="k === chosen"
                :data-disc="d.disc_id"
                @click="picked = d.disc_id"
              >
                <svg width="34" height="8" aria-hidden="true">
                  <path d="M0 4H34" :stroke-dasharray="DASHES[k]" />
                </svg>
                <b>{{ d.disc_name }}</b>
                <span
                  >{{ percent(d.chance.chance)
                  }}<template v-if="d.chance.perils.length"
                    >, worth {{ percent(d.chance.worth) }}</template
                  ></span
                >
                <small v-if="d.release">{{ d.release }}</small>
              </button>
            </li>
          </ul>
          <p v-if="disc" class="words">
            {{ disc.words }}
            <template v-if="disc.chance.chosen">
              Aim {{ aim(disc.aim_left_m) }}.
              <span class="soft">{{ figures(disc.chance.chosen) }}.</span>
            </template>
          </p>
          <p v-if="sheet.risk" class="risk" data-test="line-risk">{{ sheet.risk.words }}</p>
          <FlightSide
            :flights="flights"
            :zone="zone"
            :gates="sheet.line.gates ?? []"
            :ceiling="sheet.line.ceiling_m ?? undefined"
            :things="sheet.line.things ?? []"
            :rises="sheet.line.rises ?? []"
            :chosen="chosen"
          />
          <section v-if="costs.length" class="costs" data-test="costs">
            <h3>What your scatter costs with {{ disc?.disc_name }}</h3>
            <p v-if="dearest">
              {{ ERRORS[dearest.kind] }} costs most: always right, {{ percent(dearest.chance_without) }} would
              make it. That is the one to practise.
            </p>
            <p v-else>No single error costs anything here.</p>
            <ul>
              <li v-for="c in costs" :key="c.kind">
                <span>{{ ERRORS[c.kind] }}</span>
                <i :style="{ width: `${Math.max(0, c.points) * 1.6}px` }" />
                <b>{{ c.points > 0 ? `${c.points} of 100` : 'nothing' }}</b>
              </li>
            </ul>
          </section>
          <p class="soft">
            {{ disc?.cloud.length }} throws with your scatter, the same for every disc. Of the disc that is
            picked, dots make it and crosses do not; of the others, faint dots show where they come to rest.
          </p>
        </div>
      </template>
    </div>
  </el-dialog>
</template>

<style scoped>
.opened {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
}
.asked {
  flex: 1 0 100%;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 6px 16px;
}
.plan {
  flex: 0 1 auto;
}
.beside {
  flex: 1 1 340px;
  min-width: 0;
}
.discs {
  max-width: 760px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.discs button {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 0 10px;
  width: 100%;
  min-height: 48px;
  padding: 4px 8px;
  text-align: left;
  color: var(--ink);
  background: none;
  border: 1px solid var(--rule-soft);
  border-left: 4px solid var(--rule-soft);
  font: inherit;
  cursor: pointer;
}
.discs button.on {
  border-left-color: var(--accent);
  background: color-mix(in srgb, var(--accent) 9%, var(--panel));
}
.discs small {
  grid-column: 2 / -1;
  color: var(--ink-soft);
  font-size: 13px;
  line-height: 1.25;
}
.discs path {
  stroke: var(--ink);
  stroke-width: 3;
}
.discs .on path {
  stroke: var(--accent);
}
.words {
  margin: 8px 0;
}
.risk {
  margin: 8px 0;
  padding-left: 8px;
  border-left: 4px solid var(--warn);
}
.costs {
  margin-top: 10px;
}
h3 {
  font-size: 15px;
}
.costs ul {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
.costs li {
  display: flex;
  align-items: center;
  gap: 8px;
}
.costs li span {
  width: 60px;
}
.costs i {
  height: 10px;
  background: var(--accent);
}
.costs b {
  font-weight: 400;
}
</style>
