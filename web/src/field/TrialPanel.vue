<script setup lang="ts">
// What a trial says: in words, disc by disc, and what to do with each of them.
import { computed } from 'vue'
import type { ShelfDisc, Trial, TriedDisc } from '@/api/client'
import { useActions, useBag, useDiscs, useUnits } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { figure, unit } from '@/common/units'
import type { ShownLog } from '@/field/log'
import type { useTrial } from '@/field/useField'
import { dateOf } from '@/round/played'

const props = defineProps<{ log: ShownLog; trial: Trial; query: ReturnType<typeof useTrial> }>()
const emit = defineEmits<{ save: [trial: Trial] }>()
const actions = useActions()
const bag = useBag()
const discs = useDiscs()
const units = useUnits()
const verdict = computed(() => props.query.data.value)
const length = (m: number) => figure(unit(units.value, 'distance').toShown(m), 1)
const FEELS: Record<number, string> = {
  1: '1 not at all',
  2: '2 hardly',
  3: '3 well enough',
  4: '4 well',
  5: '5 as if made for it',
}
const feel = (k: number, mark: number | null) =>
  emit('save', {
    ...props.trial,
    candidates: props.trial.candidates.map((c, at) => (at === k ? { ...c, feel: mark } : c)),
  })
const shelved = (d: TriedDisc): ShelfDisc | undefined =>
  discs.data.value?.find((disc) => disc.id === d.disc_id)
const isCarried = (id: number) => bag.data.value?.carried.some((c) => c.disc_id === id) ?? false
const carried = computed(() =>
  (bag.data.value?.carried ?? []).flatMap((c) => discs.data.value?.find((d) => d.id === c.disc_id) ?? []),
)

/** A disc that is kept is on trial no longer. */
async function settle(disc: ShelfDisc) {
  if (disc.keeping?.status !== 'trial') return
  await actions.put(disc.id, `${disc.name} is kept`, (spec) => ({
    ...spec,
    keeping: { ...spec.keeping, status: 'ready', trial_until: null },
  }))
}
async function keep(disc: ShelfDisc) {
  await settle(disc)
  if (!isCarried(disc.id)) await actions.carry(disc)
}
async function replace(disc: ShelfDisc, goes: number) {
  const other = discs.data.value?.find((d) => d.id === goes)
  await settle(disc)
  await actions.move(`${disc.name} takes the place of ${other?.name ?? 'another'}`, {
    carry: [{ disc_id: disc.id, spare: false }],
    bench: [goes],
  })
}
function tryOn(disc: ShelfDisc) {
  const until = new Date()
  until.setMonth(until.getMonth() + 1)
  return actions.put(disc.id, `${disc.name} is on trial for a month`, (spec) => ({
    ...spec,
    keeping: { ...spec.keeping, status: 'trial', trial_until: dateOf(until) },
  }))
}
</script>

<template>
  <section class="panel" data-test="trial">
    <h2>What the trial says</h2>
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <p v-else-if="!verdict" class="soft" role="status">
      Worked out as soon as Zinc Kite has been told of the trial.
    </p>
    <template v-if="verdict">
      <ul data-test="trial-words">
        <li v-for="(said, k) in verdict.words" :key="k" :class="{ first: k === 0 }">{{ said }}</li>
      </ul>
      <p class="soft" data-test="trial-left">
        {{
          verdict.left.length === 0
            ? 'Every throw of it is made.'
            : `${verdict.left.length} ${verdict.left.length === 1 ? 'throw' : 'throws'} left.`
        }}
        “Surely” is wrong in at most one trial of twenty; a percentage is how likely it is.
      </p>
      <ul class="discs">
        <li v-for="(d, k) in verdict.discs" :key="d.disc_name" :data-tried="d.disc_name">
          <div class="name">
            <b>{{ d.disc_name }}</b>
            <span v-if="verdict.best === k" class="best">best here</span>
            <span v-if="shelved(d)?.keeping?.status === 'trial'" class="soft"
              >on trial until {{ shelved(d)?.keeping?.trial_until ?? 'you decide' }}</span
            >
          </div>
          <dl>
            <div>
              <dt>throws</dt>
              <dd>{{ d.throws }}</dd>
            </div>
            <div>
              <dt>distance, {{ unit(units, 'distance').symbol }}</dt>
              <dd>{{ d.distance_m ? length(d.distance_m.mean) : '–' }}</dd>
            </div>
            <div>
              <dt>left of the aim</dt>
              <dd>{{ d.left_m ? length(d.left_m.mean) : '–' }}</dd>
            </div>
            <div>
              <dt>scatter</dt>
              <dd>{{ d.scatter_m == null ? '–' : length(d.scatter_m) }}</dd>
            </div>
            <div v-if="d.skip_m">
              <dt>went on</dt>
              <dd>{{ length(d.skip_m.mean) }}</dd>
            </div>
            <div v-if="d.made != null">
              <dt>made</dt>
              <dd>{{ d.made }} of {{ d.tried }}</dd>
            </div>
          </dl>
          <div class="acts">
            <el-select
              :model-value="d.feel"
              placeholder="in the hand"
              clearable
              class="feel"
              :aria-label="`How ${d.disc_name} lies in the hand`"
              :data-test="`feel-${k}`"
              @update:model-value="feel(k, $event || null)"
            >
              <el-option v-for="(label, mark) in FEELS" :key="mark" :value="Number(mark)" :label="label" />
            </el-select>
            <template v-for="disc in [shelved(d)]" :key="disc?.id">
              <template v-if="disc">
                <el-button
                  v-if="!isCarried(disc.id) || disc.keeping?.status === 'trial'"
                  :data-test="`keep-${k}`"
                  @click="keep(disc)"
                  >Keep</el-button
                >
                <el-button v-if="isCarried(disc.id)" :data-test="`bench-${k}`" @click="actions.bench(disc)"
                  >Bench</el-button
                >
                <el-select
                  v-if="!isCarried(disc.id)"
                  :model-value="null"
                  filterable
                  placeholder="instead of…"
                  class="instead"
                  :aria-label="`${disc.name} instead of a carried disc`"
                  :data-test="`replace-${k}`"
                  @update:model-value="replace(disc, $event)"
                >
                  <el-option v-for="c in carried" :key="c.id" :value="c.id" :label="c.name" />
                </el-select>
                <el-button
                  v-if="disc.keeping?.status !== 'trial'"
                  :data-test="`month-${k}`"
                  @click="tryOn(disc)"
                  >On trial for a month</el-button
                >
              </template>
              <span v-else class="soft">not on the shelf</span>
            </template>
          </div>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
ul {
  margin: 0 0 8px;
  padding-left: 18px;
}
.first {
  font-weight: 700;
}
.discs {
  padding: 0;
  list-style: none;
}
.discs > li {
  padding: 8px 0;
  border-top: 1px solid var(--rule-soft);
}
.name {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
}
.best {
  padding: 0 6px;
  border: 2px solid var(--ink);
  font-size: 13.5px;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin: 4px 0;
}
dt {
  font-size: 13px;
  color: var(--ink-soft);
}
dd {
  margin: 0;
  font-variant-numeric: tabular-nums;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
}
.acts .el-button {
  margin: 0;
}
.feel {
  width: 172px;
}
.instead {
  width: 150px;
}
</style>
