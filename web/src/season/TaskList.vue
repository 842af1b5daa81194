<script setup lang="ts">
// What the year asks to be done, in order of days, each with its button where something can be done at once.
import { computed, ref } from 'vue'
import type { DiscSpec, YearTask } from '@/api/client'
import { useActions, useDiscs } from '@/api/useData'
import { freshLike } from '@/common/disc'
import { useSelection } from '@/common/stores/selection'
import { LEAST_STROKES, strokes } from '@/common/units'
import DiscForm from '@/shelf/DiscForm.vue'
import { KINDS, when } from '@/season/year'

const props = defineProps<{ tasks: readonly YearTask[]; today: string; supposed: boolean }>()
const discs = useDiscs()
const actions = useActions()
const selection = useSelection()

const named = (id: number | null | undefined) => discs.data.value?.find((d) => d.id === id)
const like = ref<Partial<DiscSpec>>()
const adding = computed({ get: () => like.value !== undefined, set: (on) => !on && (like.value = undefined) })

/** What can be done about a task here and now. */
function way(task: YearTask): { label: string; go: () => unknown } | undefined {
  const [disc, follows] = [named(task.disc_id), named(task.follows)]
  switch (task.kind) {
    case 'start':
      return disc && { label: `Start ${disc.name} now`, go: () => actions.season(disc) }
    case 'buy':
      return follows && { label: 'I have one: add it', go: () => (like.value = freshLike(follows)) }
    case 'decide':
      return disc && { label: `Look at ${disc.name}`, go: () => (selection.discId = disc.id) }
    case 'exchange':
    case 'look_again':
      return follows && { label: `Look at ${follows.name}`, go: () => (selection.discId = follows.id) }
  }
}
const rows = computed(() =>
  props.tasks.map((task) => ({ task, way: props.supposed ? undefined : way(task) })),
)
</script>

<template>
  <section class="panel" data-test="tasks" aria-label="What to do">
    <h2>What to do</h2>
    <p v-if="tasks.length === 0" class="soft">
      Nothing this year: no carried disc leaves its peg at a cost without another to take over.
    </p>
    <ol>
      <li
        v-for="{ task, way: act } in rows"
        :key="`${task.kind} ${task.follows} ${task.disc_id}`"
        :data-task="task.kind"
      >
        <p class="title">
          <span class="kind">{{ KINDS[task.kind] }}</span> <b>{{ when(task.on, today) }}: {{ task.title }}</b>
          <span v-if="task.strokes >= LEAST_STROKES" class="saves"
            >saves {{ strokes(task.strokes) }} a round then</span
          >
        </p>
        <p class="reason">{{ task.words }}</p>
        <el-button v-if="act" data-test="task-act" @click="act.go()">{{ act.label }}</el-button>
      </li>
    </ol>
    <DiscForm v-model="adding" :disc="null" :like="like" />
  </section>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  padding: 8px 0 10px;
  border-top: 1px solid var(--rule-soft);
}
li:first-child {
  border-top: 0;
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
  margin-left: 8px;
}
.reason {
  margin: 3px 0 7px;
  font-size: 14px;
  color: var(--ink-soft);
}
</style>
