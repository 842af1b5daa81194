<script setup lang="ts">
// Where a line is drawn: shapes to begin from, the plan to take hold of, and how the best carried discs do on it meanwhile.
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { useThrottle } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { api, type Gate, type LineSpec, take } from '@/api/client'
import { useBag } from '@/api/useData'
import { DASHES } from '@/common/scene'
import { useDay } from '@/common/stores/day'
import { percent } from '@/common/units'
import LinePlan from '@/lines/LinePlan.vue'
import { MOST_RISES, MOST_THINGS, risesOf, THINGS, thingsOf, withRise, withThing } from '@/lines/things'
import {
  type Drawing,
  drawingOf,
  hasRoomForGates,
  mirrored,
  SHAPES,
  shaped,
  withMoreGates,
} from '@/lines/plan'

const spec = defineModel<LineSpec>({ required: true })

const bag = useBag()
const day = useDay()
const FOLLOW_MS = 60
/** What is drawn, as often as it can be followed. */
const drawn = useThrottle(
  computed(() => ({ line: spec.value, day: day.conditions })),
  FOLLOW_MS,
  true,
  true,
)
const tried = useQuery({
  queryKey: ['draft', computed(() => bag.data.value?.id), drawn],
  queryFn: ({ signal }) =>
    take(
      api.POST('/api/bags/{id}/line', {
        params: { path: { id: bag.data.value?.id ?? 0 } },
        body: drawn.value,
        signal,
      }),
    ),
  enabled: computed(() => bag.data.value !== undefined),
  placeholderData: keepPreviousData,
  gcTime: 0,
  retry: false,
})
const best = computed(() => (tried.error.value ? [] : (tried.data.value?.discs ?? [])))
const flights = computed(() =>
  best.value
    .filter((d) => d.path.length > 0)
    .map((d, k) => ({
      label: d.disc_name,
      path: d.path,
      run: d.run,
      ...(k === 0 ? { cloud: d.cloud } : {}),
    })),
)

/** What was drawn before, the latest last; of what is typed beside it nothing is taken back. */
const past = ref<Drawing[]>([])
let resting = drawingOf(spec.value)
/** Something drawn has come to rest. */
async function settled() {
  // The line is handed on to whoever holds it, and is here a moment later.
  await nextTick()
  const now = drawingOf(spec.value)
  if (JSON.stringify(now) === JSON.stringify(resting)) return
  past.value.push(resting)
  resting = now
}
function takeBack() {
  const before = past.value.pop()
  if (!before) return
  resting = before
  spec.value = { ...spec.value, ...drawingOf({ ...spec.value, ...before }) }
}
/** The line changed elsewhere than on the drawing, to be taken back like what is drawn. */
function change(to: LineSpec) {
  spec.value = to
  void settled()
}
/** Which of the things about it shows its edges and figures. */
const chosen = defineModel<number | undefined>('chosen', { required: true })
function add(what: string) {
  if (what === 'rise') return change(withRise(spec.value))
  const thing = THINGS[what]
  if (!thing) return
  chosen.value = thingsOf(spec.value).length
  change(withThing(spec.value, thing.of(spec.value)))
}
const isFull = computed(() => thingsOf(spec.value).length >= MOST_THINGS)
const risk = computed(() => (tried.error.value ? undefined : tried.data.value?.risk?.words))
const gates = computed(() => spec.value.gates ?? [])
const setGate = (k: number, part: Partial<Gate>) =>
  change({ ...spec.value, gates: gates.value.map((g, j) => (j === k ? { ...g, ...part } : g)) })
const isDearer = computed(() => best.value.some((d) => d.chance.perils.length > 0))
defineExpose({ change })
const ROOF_M = 8
const BRANCHES_M = 5
const BUSH_M = 2
</script>

<template>
  <section aria-label="The line drawn" :aria-busy="tried.isFetching.value">
    <div class="tools">
      <el-select
        model-value=""
        placeholder="Begin from a shape"
        aria-label="Begin from a shape"
        data-test="line-shape"
        @update:model-value="change(shaped(spec, $event))"
      >
        <el-option v-for="(shape, key) in SHAPES" :key="key" :value="key" :label="shape.label" />
      </el-select>
      <el-select
        model-value=""
        placeholder="Add to it"
        aria-label="Add to the line"
        data-test="line-add"
        @update:model-value="add"
      >
        <el-option
          v-for="(thing, key) in THINGS"
          :key="key"
          :value="key"
          :label="thing.label"
          :disabled="isFull"
        />
        <el-option value="rise" label="Slope" :disabled="risesOf(spec).length >= MOST_RISES" />
      </el-select>
      <el-button :disabled="!hasRoomForGates(spec)" data-test="line-gate" @click="change(withMoreGates(spec))"
        >Gate</el-button
      >
      <el-button
        data-test="line-roof"
        @click="change({ ...spec, ceiling_m: spec.ceiling_m == null ? ROOF_M : null })"
        >{{ spec.ceiling_m == null ? 'Roof' : 'No roof' }}</el-button
      >
      <el-button data-test="line-mirror" @click="change(mirrored(spec))">Mirror</el-button>
      <el-button :disabled="past.length === 0" data-test="line-undo" @click="takeBack">Take back</el-button>
    </div>
    <p class="soft">Drag the marks, or walk to them with Tab and use the arrows (with Shift a metre).</p>
    <ol class="best" data-test="line-best">
      <li v-for="(d, k) in best" :key="d.disc_id">
        <svg width="34" height="10" aria-hidden="true">
          <line x1="0" x2="34" y1="5" y2="5" :stroke-dasharray="DASHES[k]" />
        </svg>
        <b>{{ percent(d.chance.chance) }}</b> {{ d.disc_name }}
        <small v-if="d.chance.perils.length" class="soft">worth {{ percent(d.chance.worth) }}</small>
      </li>
      <li v-if="best.length === 0" class="soft">
        {{
          tried.error.value
            ? tried.error.value.message
            : tried.isFetching.value
              ? 'Flying your discs…'
              : 'No carried disc makes it.'
        }}
      </li>
    </ol>
    <p v-if="isDearer" class="soft">
      Worth: the throws that would have to be made for the same strokes if water and out of bounds cost no
      more than a miss.
    </p>
    <p v-if="risk" class="risk" data-test="line-risk">{{ risk }}</p>
    <LinePlan v-model="spec" v-model:chosen="chosen" :flights="flights" @settled="settled" />
    <div v-for="(g, k) in gates" :key="k" class="gate">
      <span>Gate {{ k + 1 }}</span>
      <el-button
        @click="
          setGate(k, { ceiling_m: g.ceiling_m == null ? Math.max(BRANCHES_M, (g.floor_m ?? 0) + 1) : null })
        "
        >{{ g.ceiling_m == null ? 'Branches over it' : 'No branches' }}</el-button
      >
      <el-button
        @click="setGate(k, { floor_m: g.floor_m ? null : Math.min(BUSH_M, (g.ceiling_m ?? 60) - 1) })"
        >{{ g.floor_m ? 'Nothing to clear' : 'Something to clear' }}</el-button
      >
      <el-button
        :aria-label="`Take away gate ${k + 1}`"
        @click="change({ ...spec, gates: gates.filter((_, j) => j !== k) })"
        >Take away</el-button
      >
    </div>
  </section>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.tools .el-select {
  flex: 1 1 170px;
}
.tools .el-button,
.gate .el-button {
  margin-left: 0;
}
.best {
  margin: 6px 0;
  padding: 0;
  list-style: none;
}
.best {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}
.best li {
  display: flex;
  gap: 8px;
  align-items: center;
}
.best line {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.risk {
  margin: 4px 0;
  padding-left: 8px;
  border-left: 4px solid var(--warn);
}
.gate {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
</style>
