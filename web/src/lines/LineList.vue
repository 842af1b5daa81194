<script setup lang="ts">
// Every line as a card: what the shot is, who throws it in which weather, and what it costs.
import { computed } from 'vue'
import type { LineVerdict, SeasonLine, SeasonVerdict } from '@/api/client'
import { useUnits } from '@/api/useData'
import LineSketch from '@/lines/LineSketch.vue'
import WeatherMarks from '@/lines/WeatherMarks.vue'
import { inGroups, STANDINGS, STYLES, WEATHERS } from '@/lines/line'
import { percent, shown, strokes } from '@/common/units'

const props = defineProps<{
  lines: readonly LineVerdict[]
  season: SeasonVerdict | undefined
  weather: string
  notMade: boolean
  name: (id: number) => string
}>()
const emit = defineEmits<{
  open: [key: string]
  edit: [line: LineVerdict['line']]
  toggle: [line: LineVerdict['line']]
}>()

const units = useUnits()
const byKey = computed(() => new Map((props.season?.lines ?? []).map((l) => [l.key, l] as const)))

/** How a line stands in what is looked at: the season, one weather of it, or today. */
function stands(v: LineVerdict) {
  const line = byKey.value.get(v.line.key)
  if (!v.line.enabled) return 'off' as const
  const cell = line?.by_weather.find((w) => w.kind === props.weather)
  return (cell ?? line)?.standing
}
const shownLines = computed(() =>
  props.lines.filter((v) => !props.notMade || !['made', 'off', undefined].includes(stands(v))),
)
const groups = computed(() => inGroups(shownLines.value))

const hasHazard = (line: LineVerdict['line']) => (line.things ?? []).some((t) => t.kind === 'hazard')
/** The best disc and its chance in what is looked at. */
function best(v: LineVerdict, line: SeasonLine | undefined) {
  if (props.weather === 'season') return v.best
  return line?.by_weather.find((w) => w.kind === props.weather)?.best
}
</script>

<template>
  <section v-for="g in groups" :key="g.label" class="group">
    <h2>{{ g.label }}</h2>
    <ul>
      <li v-for="v in g.lines" :key="v.line.key" :class="stands(v)" :data-line="v.line.key">
        <LineSketch :line="v.line" />
        <div class="what">
          <h3>
            {{ v.line.name }}
            <small
              >{{ shown(units, 'distance', v.line.distance_m)
              }}<template v-if="v.line.open_ended">+</template>
              {{ v.line.style === 'backhand' ? '' : v.line.style }}</small
            >
          </h3>
          <p class="meaning">{{ v.line.meaning || 'Your own line.' }}</p>
          <WeatherMarks v-if="byKey.get(v.line.key)" :line="byKey.get(v.line.key)!" :name="name" />
          <p class="reason">
            <b class="standing">{{ STANDINGS[stands(v) ?? 'off'] }}</b>{{ byKey.get(v.line.key) ? ': ' : '' }}
            <template v-if="byKey.get(v.line.key)">
              {{ byKey.get(v.line.key)!.reason }}; leaves {{ strokes(byKey.get(v.line.key)!.leaves_strokes) }}
            </template>
          </p>
          <p v-if="v.line.enabled && best(v, byKey.get(v.line.key))" class="best">
            {{ name(best(v, byKey.get(v.line.key))!.disc_id) }}
            {{ percent(best(v, byKey.get(v.line.key))!.chance) }}
            {{ weather === 'season' ? 'today' : WEATHERS[weather as keyof typeof WEATHERS] }}
            <small v-if="hasHazard(v.line)">with what water and out of bounds cost taken off</small>
          </p>
          <div class="acts no-print">
            <button
              v-if="v.line.enabled"
              type="button"
              class="link main"
              data-test="open-line"
              @click="emit('open', v.line.key)"
            >
              open
            </button>
            <button type="button" class="link" data-test="edit-line" @click="emit('edit', v.line)">
              edit
            </button>
            <span v-if="v.line.spared" class="soft">you throw no {{ STYLES[v.line.style] }}</span>
            <button v-else type="button" class="link switch" @click="emit('toggle', v.line)">
              {{ v.line.enabled ? 'switch off' : 'switch on' }}
            </button>
          </div>
        </div>
      </li>
    </ul>
  </section>
  <p v-if="groups.length === 0" class="none">
    {{ notMade ? 'Every line is made.' : 'No lines yet: add one.' }}
  </p>
</template>

<style scoped>
h2 {
  margin: 16px 0 4px;
}
h2::first-letter {
  text-transform: uppercase;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(370px, 1fr));
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li[data-line] {
  display: flex;
  gap: 10px;
  padding: 8px 10px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-left: 4px solid var(--rule);
}
li.gap,
li.beyond_arm {
  border-left: 5px solid var(--ink);
}
li.thin {
  border-left: 5px dashed var(--ink);
}
li.off {
  opacity: 0.7;
}
.what {
  min-width: 0;
}
h3 {
  font-size: 16px;
}
h3 small {
  font-weight: 400;
  color: var(--ink-soft);
}
.meaning {
  margin: 1px 0 6px;
  font-size: 14px;
  line-height: 1.25;
}
.reason {
  margin: 6px 0 0;
  font-size: 13.5px;
  line-height: 1.25;
  color: var(--ink-soft);
}
.best {
  margin: 2px 0 0;
  font-size: 14px;
  font-weight: 650;
}
.standing {
  color: var(--ink);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
.link {
  min-height: 40px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-size: 14px;
  text-decoration: underline;
  cursor: pointer;
}
.main {
  font-weight: 650;
}
.none {
  padding: 24px 4px;
}
@media (max-width: 600px) {
  ul {
    grid-template-columns: 1fr;
  }
}
</style>
