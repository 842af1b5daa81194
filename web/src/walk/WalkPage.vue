<script setup lang="ts">
// A bag put together from nothing, one lane at a time.
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import LaneStep from '@/walk/LaneStep.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import ThrowerStep from '@/walk/ThrowerStep.vue'
import { useBag, useSeason, useSeasonProgress, useWalk } from '@/api/useData'
import { addressOf, PATHS, short, stepAt, type StepKey, useLeft } from '@/walk/walk'
import { figure } from '@/common/units'

const route = useRoute()
const router = useRouter()
const bag = useBag()
const walk = useWalk()
const season = useSeason(() => walk.data.value !== undefined)
const progress = useSeasonProgress(() => season.isFetching.value)
const left = useLeft()

const lanes = computed(() => walk.data.value?.lanes ?? [])
const steps = computed<StepKey[]>(() => ['thrower', ...lanes.value.map((l) => l.step)])
const step = computed(() => stepAt(String(route.params.step ?? PATHS.thrower)))
const place = computed(() => steps.value.indexOf(step.value))
const lane = computed(() => lanes.value.find((l) => l.step === step.value))
const label = (key: StepKey) => lanes.value.find((l) => l.step === key)?.label ?? 'Thrower'
const next = computed(() => steps.value[place.value + 1])
const carried = computed(() => bag.data.value?.carried.length ?? 0)

const thrower = ref<{ leave: () => Promise<boolean> } | null>(null)
const laneStep = ref<{ focus: () => void } | null>(null)
const heading = ref<HTMLElement | null>(null)

watch(step, (key) => (left.value = key), { immediate: true })
const list = ref<HTMLElement | null>(null)
/** On a phone the steps lie side by side: the present one is brought into view. */
watch(
  [step, () => lanes.value.length],
  async () => {
    await nextTick()
    const here = list.value?.querySelector<HTMLElement>('[aria-current]')
    if (here && list.value) list.value.scrollLeft = here.offsetLeft - 60
  },
  { immediate: true },
)

async function go(key: StepKey | undefined) {
  if (step.value === 'thrower' && thrower.value && !(await thrower.value.leave())) return
  if (!key) {
    left.value = ''
    await router.push('/')
    return
  }
  await router.push(addressOf(key))
  await nextTick()
  window.scrollTo({ top: 0 })
  if (key === 'thrower') heading.value?.focus()
  else laneStep.value?.focus()
}
</script>

<template>
  <div class="page">
    <ProblemNote
      v-if="walk.error.value ?? bag.error.value"
      :error="(walk.error.value ?? bag.error.value)!"
      @retry="walk.refetch()"
    />
    <div class="walk">
      <nav class="steps" aria-label="Steps of the walk">
        <ol ref="list">
          <li v-for="(key, k) in steps" :key="key">
            <RouterLink :to="addressOf(key)" :aria-current="key === step ? 'step' : undefined">
              <b>{{ k + 1 }} {{ label(key) }}</b>
              <small v-if="key !== 'thrower'">{{
                short(
                  lanes.find((l) => l.step === key)!,
                  walk.data.value?.putting,
                )
              }}</small>
            </RouterLink>
          </li>
        </ol>
        <p class="sum" data-test="walk-sum">
          <b>{{ carried }}</b> of {{ bag.data.value?.capacity ?? 0 }} discs<template
            v-if="season.data.value && carried"
          >
            · leaves <b>{{ figure(season.data.value.leaves_strokes, 1) }}</b> strokes a round</template
          >
          <span v-if="season.isFetching.value" class="soft" role="status"><br />{{ progress }}</span>
        </p>
        <RouterLink class="leave" to="/" data-test="walk-leave">Leave; go on later</RouterLink>
      </nav>
      <section class="work" :aria-label="label(step)">
        <h1 ref="heading" tabindex="-1">{{ label(step) }}</h1>
        <ThrowerStep v-if="step === 'thrower'" ref="thrower" />
        <LaneStep
          v-else-if="lane && walk.data.value"
          ref="laneStep"
          :lane="lane"
          :lanes="lanes"
          :putting="walk.data.value.putting"
          :season="season.data.value"
          :judging="season.isFetching.value"
        />
        <div class="foot">
          <el-button v-if="place > 0" data-test="walk-back" @click="go(steps[place - 1])">Back</el-button>
          <span class="grow" />
          <el-button v-if="next" type="primary" data-test="walk-next" @click="go(next)">
            {{
              lane && lane.here.length === 0
                ? `Skip to ${label(next).toLowerCase()}`
                : `Next: ${label(next).toLowerCase()}`
            }}
          </el-button>
          <el-button v-else type="primary" data-test="walk-done" @click="go(undefined)"
            >Done: see the bag</el-button
          >
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.walk {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
  gap: 22px;
  align-items: start;
}
.steps ol {
  margin: 0;
  padding: 0;
  list-style: none;
  border-top: 2px solid var(--ink);
}
.steps a {
  display: block;
  min-height: 44px;
  padding: 5px 10px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 1px solid var(--rule-soft);
  border-left: 6px solid transparent;
}
.steps b {
  font-weight: 550;
}
.steps a[aria-current='step'] {
  background: var(--panel);
  border-left-color: var(--accent);
}
.steps a[aria-current='step'] b {
  font-weight: 750;
}
.steps small {
  display: block;
  font-size: 13px;
  color: var(--ink-soft);
  line-height: 1.2;
}
.sum {
  padding: 12px 10px 6px;
}
.steps .leave {
  border: 0;
  text-decoration: underline;
}
h1 {
  margin-bottom: 4px;
}
h1:focus {
  outline: 0;
}
.foot {
  position: sticky;
  bottom: 0;
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 14px;
  padding: 10px 0;
  background: var(--ground);
  border-top: 2px solid var(--ink);
}
.grow {
  flex: 1;
}
@media (max-width: 800px) {
  .walk {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
  .steps ol {
    position: relative;
    display: flex;
    overflow-x: auto;
  }
  .steps a {
    white-space: nowrap;
    border-left: 0;
    border-bottom: 4px solid transparent;
  }
  .steps a[aria-current='step'] {
    border-bottom-color: var(--accent);
  }
  .sum {
    padding: 6px 0;
  }
  .foot {
    bottom: 54px;
  }
  .steps .leave {
    display: inline-block;
    padding: 8px 0;
  }
}
</style>
