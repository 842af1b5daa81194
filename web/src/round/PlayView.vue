<script setup lang="ts">
// On the course and after it: hole by hole what to throw, and in three taps what was thrown, what came of it and what it took.
import { computed, ref, watch } from 'vue'
import { api, type Course, type RoundCard, take } from '@/api/client'
import { ifMatch, useActions, useBag } from '@/api/useData'
import { useOpenThing } from '@/common/useOpenThing'
import { signed } from '@/common/units'
import { newId, useLater } from '@/offline/later'
import FieldNote from '@/round/FieldNote.vue'
import { begun, dateOf, isTold, isWhole, nextHole, type Played, soFar, tap } from '@/round/played'
import PlayHole from '@/round/PlayHole.vue'
import RoundAccount from '@/round/RoundAccount.vue'
import { useRounds } from '@/round/useRounds'

const props = defineProps<{ course: Course; card: RoundCard | undefined }>()
const actions = useActions()
const later = useLater()
const bag = useBag()
const { query, rounds, courses } = useRounds()

const same = (a: string, b: string) => a.localeCompare(b, undefined, { sensitivity: 'accent' }) === 0
const here = computed(() => rounds.value.filter((r) => same(r.course, props.course.name)))
const together = computed(() => courses.value.find((c) => same(c.course, props.course.name)))
const wanted = useOpenThing('played')
const today = dateOf(new Date())
/** The one that is asked for; else the one of today that goes on. */
const round = computed(
  () =>
    here.value.find((r) => r.key === wanted.value) ??
    (wanted.value ? undefined : here.value.find((r) => r.date === today && !isWhole(r))),
)
const earlier = computed(() => here.value.filter((r) => r.key !== round.value?.key))
const at = ref(0)
watch(
  () => round.value?.key,
  () => (at.value = round.value ? nextHole(round.value) : 0),
  { immediate: true },
)
const hole = computed(() => round.value?.holes[at.value])
const sum = computed(() => (round.value ? soFar(round.value) : null))

async function begin() {
  if (!props.card) return
  const key = newId()
  const told = later.tell(begun(props.card, props.course.name, bag.data.value?.name ?? '', key, today))
  // It is there before the program has it.
  wanted.value = key
  await told
}
async function tell(part: Parameters<typeof tap>[2]) {
  const told = round.value && tap(round.value, at.value, part)
  if (told) await later.tell(told)
}
async function remove(r: Played) {
  await actions.attempt(async () => {
    const params = { path: { key: r.key }, header: ifMatch(r.etag) }
    await take(api.DELETE('/api/rounds/{key}', { params }))
    if (wanted.value === r.key) wanted.value = null
    await actions.refresh()
    actions.did(`The round of ${r.date} is deleted`)
  })
}
const strokesOf = (r: Played) => {
  const { holes, strokes, par } = soFar(r)
  if (holes === 0) return 'nothing told yet'
  const on = holes === r.holes.length ? '' : ` on ${holes} of ${r.holes.length} holes`
  return `${strokes}${on}, par ${par} (${signed(strokes - par)})`
}
</script>

<template>
  <section data-test="play">
    <template v-if="round && sum">
      <div class="head">
        <p>
          <b data-test="play-sum">{{ strokesOf(round) }}</b>
          <span class="soft day">{{ round.date }}</span>
        </p>
        <button v-if="wanted" type="button" class="as-link" data-test="play-all" @click="wanted = null">
          All rounds
        </button>
      </div>
      <ol class="holes" aria-label="Holes">
        <li v-for="(h, k) in round.holes" :key="h.name">
          <button
            type="button"
            :class="{ here: k === at, told: isTold(h) }"
            :aria-current="k === at ? 'step' : undefined"
            :data-play="h.name"
            @click="at = k"
          >
            <small><span class="visually-hidden">Hole </span>{{ h.name }}</small>
            <b v-if="h.strokes != null">{{ h.strokes }}<span class="visually-hidden"> strokes</span></b>
            <b v-else aria-hidden="true">·</b>
          </button>
        </li>
      </ol>
      <div class="two">
        <PlayHole
          v-if="hole"
          :key="`${round.key} ${at}`"
          :hole="hole"
          :card="card?.holes.find((h) => h.name === hole?.name)"
          :ground="course.holes.find((h) => h.name === hole?.name)"
          :first="at === 0"
          :last="at === round.holes.length - 1"
          @tell="tell"
          @go="at += $event"
        />
        <RoundAccount v-if="round.account && sum.holes > 0" :account="round.account" />
        <p v-else-if="sum.holes > 0" class="soft" data-test="account-waits">
          What cost strokes is worked out when Zinc Kite has been told.
        </p>
      </div>
    </template>
    <div v-else class="panel">
      <h2>Play {{ course.name }}</h2>
      <p>
        Hole by hole what to throw, and in three taps what came of it: where the throw ended, how far was
        left, how many strokes. Afterwards it says what cost strokes.
      </p>
      <p v-if="!card" class="soft" role="status">The card is being worked out…</p>
      <el-button type="primary" size="large" :disabled="!card" data-test="begin-round" @click="begin"
        >Begin a round</el-button
      >
    </div>
    <FieldNote :course="course" :has-card="card !== undefined" />
    <div v-if="earlier.length" class="panel" data-test="rounds">
      <h2>{{ round ? 'Other rounds here' : 'Rounds here' }}</h2>
      <ul class="rounds">
        <li v-for="r in earlier" :key="r.key" :data-round="r.key">
          <button type="button" class="as-link" @click="wanted = r.key">{{ r.date }}</button>
          <span>{{ strokesOf(r) }}</span>
          <span v-if="r.account && r.account.holes" class="soft"
            >{{ signed(r.account.strokes - r.account.expected, 1) }} against the card</span
          >
          <button
            type="button"
            class="as-link"
            :aria-label="`delete the round of ${r.date}`"
            @click="remove(r)"
          >
            delete
          </button>
        </li>
      </ul>
      <template v-if="together && together.whole > 1 && together.over != null">
        <h3>Over {{ together.whole }} rounds</h3>
        <p>
          {{ signed(together.over, 1) }} strokes a round against the card: another disc
          {{ signed(together.causes.other_disc, 1) }}, first throws
          {{ signed(together.causes.first_throw, 1) }}, what followed
          {{ signed(together.causes.followed, 1) }}.
        </p>
        <p>
          Dearest holes:
          <template v-for="(h, k) in together.holes.slice(0, 3)" :key="h.name"
            >{{ k ? ', ' : '' }}{{ h.name }} ({{ signed(h.over, 1) }})</template
          >.
        </p>
      </template>
    </div>
    <p v-if="query.error.value" class="soft">{{ query.error.value.message }}</p>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: baseline;
}
.day {
  margin-left: 10px;
}
.day,
.head .as-link {
  white-space: nowrap;
}
.head b {
  font-size: 19px;
}
.holes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(36px, 1fr));
  gap: 4px;
  max-width: 700px;
  margin: 6px 0;
  padding: 0;
  list-style: none;
}
.holes button {
  display: grid;
  justify-items: center;
  width: 100%;
  min-height: 48px;
  padding: 2px 0;
  background: var(--panel);
  border: 1px solid var(--rule);
  border-bottom-width: 4px;
  border-radius: 3px;
  color: var(--ink);
  font: inherit;
  line-height: 1.15;
  cursor: pointer;
}
.holes .told {
  border-bottom-color: var(--good);
}
.holes .here {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 1px var(--accent);
}
.holes b {
  font-size: 18px;
}
.two {
  display: grid;
  gap: 0 14px;
  align-items: start;
}
@media (min-width: 1150px) {
  .two {
    grid-template-columns: minmax(0, 7fr) minmax(0, 5fr);
  }
}
.rounds {
  margin: 0;
  padding: 0;
  list-style: none;
}
.rounds li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: center;
  border-bottom: 1px solid var(--rule-soft);
}
.rounds .as-link {
  min-height: 40px;
}
h3 {
  margin-top: 12px;
  font-size: 15px;
}
</style>
