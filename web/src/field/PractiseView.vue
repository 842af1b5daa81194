<script setup lang="ts">
// What to practise: what each error of the release costs over the season, with a drill for it; whether faster discs are due; whether it
// gets steadier; and how much an arm has thrown.
import { computed, ref } from 'vue'
import { type ErrorKind, type ErrorPrice, type FieldSession, type Style } from '@/api/client'
import { usePlayer, useSeasonProgress } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { figure } from '@/common/units'
import { useInQuery } from '@/common/useInQuery'
import ScatterMonths from '@/field/ScatterMonths.vue'
import { usePractice, usePractised } from '@/field/useField'
import { STYLES } from '@/lines/line'
import { dateOf } from '@/round/played'

const props = defineProps<{ places: readonly string[] }>()
const emit = defineEmits<{ begin: [session: FieldSession] }>()
const ARMS = ['backhand', 'forehand', 'thumber', 'tomahawk'] as const satisfies readonly Style[]
const player = usePlayer()
const style = useInQuery('style', [...ARMS])
const arms = computed(() => (player.data.value?.overhand_m == null ? ARMS.slice(0, 2) : ARMS))
const practice = usePractice()
const progress = useSeasonProgress(() => practice.isFetching.value)
const practised = usePractised(() => style.value)
const log = computed(() =>
  practised.data.value?.ready.style === style.value ? practised.data.value : undefined,
)

const ERRORS: Record<ErrorKind, string> = {
  speed: 'speed',
  hyzer: 'hyzer',
  launch: 'height',
  nose: 'nose',
  aim: 'aim',
  gust: 'gusts',
}
const errors = computed(() => practice.data.value?.errors ?? [])
const MOST_SHOWN = 8
const all = ref(false)
const shownErrors = computed(() => (all.value ? errors.value : errors.value.slice(0, MOST_SHOWN)))
const most = computed(() => Math.max(0.01, ...errors.value.map((e) => e.strokes)))
const scatter = (e: ErrorPrice) =>
  e.kind === 'speed' ? `${figure(e.scatter, 1)} %` : `${figure(e.scatter, 1)}°`
const MARKS = { true: 'yes', false: 'no', null: 'not shown' } as const
const mark = (isSo: boolean | null | undefined) => MARKS[`${isSo ?? null}`]

/** A drill is a session: where the last one was, with what to throw noted in it. */
function begin(e: ErrorPrice) {
  if (!e.drill) return
  emit('begin', {
    place: props.places[0] ?? 'practice',
    date: dateOf(new Date()),
    purpose: 'practice',
    note: `${e.drill.name} (${STYLES[e.style]}, ${e.drill.throws} throws). ${e.drill.how} ${e.drill.watch}`,
  })
}
</script>

<template>
  <div>
    <section class="panel" data-test="practice">
      <h2>What your errors cost</h2>
      <ProblemNote v-if="practice.error.value" :error="practice.error.value" @retry="practice.refetch()" />
      <p v-else-if="!practice.data.value" class="soft" role="status">{{ progress }}</p>
      <template v-else>
        <p class="first" data-test="practice-words">{{ practice.data.value.words }}</p>
        <p class="soft">
          Strokes a round over your lines and your season’s weathers, with the disc your bag throws on each.
          The whole bar: if the error never happened. The solid part: if it were half as large. Gusts cost
          {{ figure(practice.data.value.gust_strokes, 2) }} and are nobody’s error.
        </p>
        <p class="heads soft" aria-hidden="true">
          <span>error</span><span>strokes a round</span><span class="saves">halved, of all</span>
        </p>
        <ul class="errors">
          <li v-for="e in shownErrors" :key="`${e.style} ${e.kind}`" :data-error="`${e.style} ${e.kind}`">
            <details>
              <summary>
                <span class="name"
                  ><b>{{ ERRORS[e.kind] }}</b> {{ STYLES[e.style] }}</span
                >
                <span class="bar" aria-hidden="true"
                  ><i class="all" :style="{ width: `${(100 * e.strokes) / most}%` }" /><i
                    class="half"
                    :style="{ width: `${(100 * e.half_strokes) / most}%` }"
                /></span>
                <span class="saves">{{ figure(e.half_strokes, 2) }} of {{ figure(e.strokes, 2) }}</span>
              </summary>
              <p>
                It scatters by {{ scatter(e) }} now. Dearest on
                <template v-for="(l, k) in e.lines" :key="l.line_key"
                  ><template v-if="k > 0">, </template
                  ><router-link :to="`/lines?line=${l.line_key}`">{{ l.line_name }}</router-link> ({{
                    figure(l.strokes, 2)
                  }})</template
                >.
              </p>
              <template v-if="e.drill">
                <p>
                  <b>{{ e.drill.name }}, {{ e.drill.throws }} throws.</b> {{ e.drill.how }}
                  {{ e.drill.watch }}
                </p>
                <el-button :data-test="`drill-${e.style}-${e.kind}`" @click="begin(e)"
                  >Begin a session for it</el-button
                >
              </template>
            </details>
          </li>
        </ul>
        <button v-if="shownErrors.length < errors.length" type="button" class="as-link" @click="all = true">
          All {{ errors.length }}
        </button>
      </template>
    </section>
    <el-radio-group v-model="style" class="styles" aria-label="Style" data-test="practice-style">
      <el-radio-button v-for="s in arms" :key="s" :value="s">{{ STYLES[s] }}</el-radio-button>
    </el-radio-group>
    <ProblemNote v-if="practised.error.value" :error="practised.error.value" @retry="practised.refetch()" />
    <p v-else-if="!log" class="soft" role="status">Reading the log…</p>
    <div v-if="log" class="two">
      <section class="panel" data-test="ready">
        <h2>Ready for faster discs?</h2>
        <p class="first">{{ log.ready.words }}</p>
        <table class="figures">
          <thead>
            <tr>
              <th scope="col">asked</th>
              <th scope="col">the log shows</th>
              <th scope="col"><span class="visually-hidden">so</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in log.ready.checks" :key="c.asked">
              <th scope="row">{{ c.asked }}</th>
              <td>{{ c.shown }}</td>
              <td>
                <b>{{ mark(c.is_so) }}</b>
              </td>
            </tr>
          </tbody>
        </table>
        <h3>How much you throw</h3>
        <ul class="loads" data-test="loads">
          <li v-for="l in log.loads" :key="l.style" :class="{ much: l.is_much }">
            <b>{{ STYLES[l.style] }}</b>: {{ l.last_week }} in seven days, {{ figure(l.usual_week) }} in a
            usual week. {{ l.words }}
          </li>
        </ul>
      </section>
      <section class="panel" data-test="progress">
        <h2>Does it get steadier?</h2>
        <p class="first">{{ log.progress.words }}</p>
        <ScatterMonths v-if="log.progress.months.length" :months="log.progress.months" />
        <p class="soft">
          How throws of one disc, meant alike on one day, differ: in distance, and to the sides. Bars hold the
          true figure in nine cases of ten.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.first {
  font-size: 17px;
}
.errors,
.loads {
  margin: 0;
  padding: 0;
  list-style: none;
}
.errors li,
.loads li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule-soft);
}
.much {
  font-weight: 600;
}
summary,
.heads {
  display: grid;
  grid-template-columns: 190px minmax(60px, 1fr) 104px;
  gap: 0 12px;
  align-items: center;
}
summary {
  min-height: 40px;
  cursor: pointer;
}
.heads {
  margin: 6px 0 0;
}
summary::before {
  content: none;
}
.name::before {
  content: '▸ ';
}
details[open] .name::before {
  content: '▾ ';
}
.bar {
  position: relative;
  height: 14px;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  border: 1px solid var(--ink);
}
.bar .half {
  background: var(--ink);
}
.saves {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
details p {
  max-width: 75ch;
}
.styles {
  margin: 4px 0 10px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0 14px;
  align-items: start;
}
h3 {
  margin: 14px 0 4px;
}
@media (min-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
}
@media (max-width: 560px) {
  .heads {
    display: none;
  }
  summary {
    grid-template-columns: minmax(0, 1fr) 96px;
  }
  .bar {
    grid-column: 1 / -1;
    order: 3;
  }
}
</style>
