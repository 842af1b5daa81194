<script setup lang="ts">
// A chance opened to its reasons: the release, the flight, where the scatter lands.
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, asQuery, type ChanceSheet, type Conditions, take } from '@/api/client'
import FlightViews from '@/common/FlightViews.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useSettled, useUnits } from '@/api/useData'
import { figure, percent, shown } from '@/common/units'
import { useDay } from '@/common/stores/day'

const props = defineProps<{
  discId: number | null
  /** Another weather than that of the dials. */
  conditions?: Conditions
}>()
const lineKey = defineModel<string | null>('lineKey', { required: true })

const day = useDay()
const units = useUnits()
const settled = useSettled(() => props.conditions ?? day.conditions)
const open = computed({
  get: () => lineKey.value !== null && props.discId !== null,
  set: (on) => {
    if (!on) lineKey.value = null
  },
})
const query = useQuery({
  queryKey: ['chance', computed(() => props.discId), lineKey, settled],
  queryFn: () =>
    take(
      api.GET('/api/chance', {
        params: {
          query: { disc_id: props.discId ?? 0, line_key: lineKey.value ?? '', ...asQuery(settled.value) },
        },
      }),
    ),
  enabled: open,
  placeholderData: keepPreviousData,
})
const sheet = computed(() => query.data.value)
const zone = computed(() => {
  const line = sheet.value?.line
  if (!line || line.landing === 'basket') return undefined
  return { distance_m: line.distance_m, length_m: line.zone_length_m, width_m: line.zone_width_m }
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
  (sheet.value?.costs ?? []).map((c) => ({ ...c, points: Math.round(100 * c.gain) })),
)
const dearest = computed(() => costs.value.find((c) => c.kind !== 'gust' && c.points > 0))
const nose = (deg: number) =>
  Math.abs(deg) < 0.5 ? 'level' : `${figure(Math.abs(deg), 1)}° ${deg > 0 ? 'up' : 'down'}`
const aim = (deg: number) =>
  Math.abs(deg) < 0.25
    ? 'at the target'
    : `${figure(Math.abs(deg), 1)}° ${deg > 0 ? 'left' : 'right'} of the target`
</script>

<template>
  <el-dialog
    v-model="open"
    width="min(1060px, 96vw)"
    top="6vh"
    append-to-body
    :title="sheet ? `${sheet.disc_name} on ${sheet.line.name}: ${percent(sheet.chance.chance)}` : 'Chance'"
  >
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <div v-if="sheet" data-test="chance">
      <p v-if="sheet.line.meaning" class="soft">{{ sheet.line.meaning }}</p>
      <p>{{ sheet.words }}</p>
      <FlightViews
        v-if="sheet.path.length"
        :flights="[{ label: 'centre', path: sheet.path }]"
        :dots="sheet.cloud"
        :zone="zone"
        :gates="sheet.line.gates"
      >
        <dl v-if="sheet.chance.chosen">
          <dt>Throw</dt>
          <dd>
            {{ sheet.line.style }}, {{ percent(sheet.chance.chosen.power) }} of controlled power,
            {{ shown(units, 'speed', sheet.chance.chosen.speed_m_s, 1) }}
          </dd>
          <dt>{{ sheet.chance.chosen.hyzer_deg < 0 ? 'Anhyzer' : 'Hyzer' }}</dt>
          <dd>{{ figure(Math.abs(sheet.chance.chosen.hyzer_deg), 1) }}°</dd>
          <dt>Launch</dt>
          <dd>{{ figure(sheet.chance.chosen.launch_deg, 1) }}° above level</dd>
          <dt>Nose</dt>
          <dd>{{ nose(sheet.chance.chosen.nose_deg) }}</dd>
          <dt>Aim</dt>
          <dd>{{ aim(sheet.chance.chosen.aim_deg) }}</dd>
          <dt>{{ zone ? 'Zone' : 'Basket' }}</dt>
          <dd v-if="!zone">at {{ shown(units, 'distance', sheet.line.distance_m) }}</dd>
          <dd v-else>
            {{ shown(units, 'distance', sheet.line.zone_length_m) }} long,
            {{ shown(units, 'distance', sheet.line.zone_width_m) }} wide at
            {{ shown(units, 'distance', sheet.line.distance_m) }}
          </dd>
        </dl>
        <p class="soft">
          Dots make it, crosses do not: 128 throws with your scatter, the same for every disc. A throw counts
          {{ zone ? 'where it comes to rest' : 'if it meets the chains' }}.
        </p>
        <section v-if="costs.length" class="costs" data-test="costs">
          <h3>What your scatter costs here</h3>
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
      </FlightViews>
    </div>
  </el-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 12px;
  margin: 10px 0;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
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
