<script setup lang="ts">
import { computed, ref } from 'vue'
import type { DiscSpec, Finding } from '@/api/client'
import DiscForm from '@/shelf/DiscForm.vue'
import { useActions, useDiscs } from '@/api/useData'
import { freshLike } from '@/common/disc'
import { LEAST_STROKES, strokes } from '@/common/units'
import { useOpenThing } from '@/common/useOpenThing'
import { useSelection } from '@/common/stores/selection'

const props = defineProps<{
  findings: readonly Finding[] | undefined
  busy: boolean
  progress: string
  /** The judgement was stopped before it was done. */
  stopped: boolean
  carried: number
}>()
const emit = defineEmits<{ stop: []; judge: [] }>()

const KINDS: Record<Finding['kind'], string> = {
  over_cap: 'Rule',
  over_full: 'Bag',
  gap: 'Gap',
  empty_peg: 'Empty peg',
  worn_out: 'Worn',
  twins: 'Twins',
  no_job: 'No job',
  better: 'Better',
  wears_out: 'Wears',
}

const discs = useDiscs()
const actions = useActions()
const selection = useSelection()

const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? 'the disc'

type Action = Finding['action']
/** The finding whose disc to look for is found, and how the form for it starts. */
const found = useOpenThing('found')
const wanted = computed<Partial<DiscSpec> | undefined>(() => {
  const action = props.findings?.find((f) => f.key === found.value)?.action
  if (action?.do === 'look_for') return { printed: action.numbers, plastic: 'mid_grade' }
  const old = action?.do === 'renew' ? discs.data.value?.find((d) => d.id === action.disc_id) : undefined
  return old && freshLike(old)
})
const opensForm = (a: Action) => a.do === 'look_for' || a.do === 'renew'
const adding = computed({ get: () => wanted.value !== undefined, set: (on) => !on && (found.value = null) })

const heading = ref<HTMLElement | null>(null)
/** A finding that is settled goes, and with it the button that had the focus: the list has it then. */
async function settle(key: string, a: Action) {
  await act(key, a)
  if (!opensForm(a)) heading.value?.focus()
}

function act(key: string, a: Action) {
  switch (a.do) {
    case 'carry':
      return actions.carry({ id: a.disc_id, name: name(a.disc_id) })
    case 'bench':
      return actions.bench({ id: a.disc_id, name: name(a.disc_id) })
    case 'swap':
      return actions.move(`${name(a.carry)} is carried for ${name(a.bench)}`, {
        carry: [{ disc_id: a.carry, spare: false }],
        bench: [a.bench],
      })
    case 'mark_spare':
      return actions.carry({ id: a.disc_id, name: name(a.disc_id) }, true)
    case 'season':
      return actions.season({ id: a.disc_id, name: name(a.disc_id) })
    case 'look_for':
    case 'renew':
      found.value = key
      return undefined
  }
}
</script>

<template>
  <section class="fix" aria-labelledby="fix-title" :aria-busy="busy">
    <h2 id="fix-title" ref="heading" tabindex="-1">Fix first</h2>
    <p v-if="busy" class="none" role="status" data-test="judging">
      <span>{{ progress }}<template v-if="findings">; what stands below is of the bag before</template></span>
      <el-button class="stop" data-test="stop" @click="emit('stop')">Stop</el-button>
    </p>
    <p v-else-if="stopped" class="none" role="status" data-test="stopped">
      <span>The season’s judgement was stopped.</span>
      <el-button class="stop" data-test="judge" @click="emit('judge')">Judge it</el-button>
    </p>
    <p v-else-if="findings?.length === 0 && carried > 0" class="none">
      Nothing on your shelf would save a stroke in a hundred rounds.
    </p>
    <ol :class="{ stale: busy }">
      <li
        v-for="(f, k) in findings"
        :key="f.key"
        :data-finding="f.key"
        :data-kind="f.kind"
        :data-lines="f.line_keys.join(' ')"
      >
        <p class="title">
          <span class="kind">{{ KINDS[f.kind] }}</span> <b>{{ f.title }}</b>
          <span v-if="f.saves_strokes >= LEAST_STROKES" class="saves"
            >saves {{ strokes(f.saves_strokes) }}</span
          >
        </p>
        <p class="reason">{{ f.reason }}</p>
        <div class="acts">
          <b v-if="opensForm(f.action)" class="spec">{{ f.action_label }}</b>
          <el-button
            :type="k === 0 ? 'primary' : 'default'"
            data-test="act"
            @click="settle(f.key, f.action)"
            >{{ opensForm(f.action) ? 'I have one: add it' : f.action_label }}</el-button
          >
          <el-button v-if="f.other" data-test="act-other" @click="settle(f.key, f.other.action)">{{
            f.other.label
          }}</el-button>
          <button
            v-for="id in f.disc_ids"
            :key="id"
            class="link"
            type="button"
            @click="selection.discId = id"
          >
            {{ name(id) }}
          </button>
        </div>
      </li>
    </ol>
    <DiscForm v-model="adding" :disc="null" :like="wanted" />
  </section>
</template>

<style scoped>
h2:focus {
  outline: none;
}
.none:has(.stop) {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 8px 12px;
}
.fix {
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-top: 2px solid var(--ink);
  padding: 10px 14px;
}
.none {
  padding: 10px 0;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  padding: 9px 0 10px;
  border-top: 1px solid var(--rule-soft);
}
.title {
  font-size: 15.5px;
}
.kind {
  display: inline-block;
  padding: 0 6px;
  margin-right: 3px;
  border: 1.5px solid var(--ink);
  font-size: 12px;
  font-weight: 700;
}
.saves {
  display: block;
  font-weight: 650;
}
.stale {
  opacity: 0.6;
}
.reason {
  margin: 3px 0 7px;
  font-size: 14px;
  color: var(--ink-soft);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: center;
}
.link {
  min-height: 40px;
  padding: 0 4px;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
.spec {
  padding: 8px 0;
}
.acts .el-button + .el-button {
  margin-left: 0;
}
.acts .el-button {
  font-weight: 650;
  border-color: var(--ink);
}
</style>
