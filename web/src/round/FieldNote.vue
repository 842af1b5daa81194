<script setup lang="ts">
// Says whether bag, board, lines and card can be read on this device where the program is out of reach, and sees to it.
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import type { Course } from '@/api/client'
import { useAnalysis, useBag, useBoard, useDiscs, useLines, usePlayer, useSeason } from '@/api/useData'
import { useDay } from '@/common/stores/day'
import { KEPT } from '@/offline/kept'
import { useSessions } from '@/field/useField'
import { useReach } from '@/offline/reach'

const props = defineProps<{ course: Course; hasCard: boolean }>()
const client = useQueryClient()
const reach = useReach()
const day = useDay()
const bag = useBag()
// Asked here, so that they are known when their screens are opened out there.
const board = useBoard(() => day.conditions)
const analysis = useAnalysis(computed(() => day.conditions))
const season = useSeason(() => props.hasCard && analysis.data.value !== undefined)
const lines = useLines()
usePlayer()
useDiscs()
useSessions()

const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined
const state = ref<'unsafe' | 'busy' | 'kept' | 'part'>(workers ? 'busy' : 'unsafe')

/** What must be kept, and by which name it is asked. */
const parts = (id: number) => [
  ['/api/session', 'session'],
  ['/api/player', 'player'],
  ['/api/bags', 'bags'],
  ['/api/discs', 'discs'],
  ['/api/lines', 'lines'],
  ['/api/courses', 'courses'],
  ['/api/rounds', 'rounds'],
  ['/api/field/sessions', 'field'],
  [`/api/bags/${id}/board`, 'board'],
  [`/api/bags/${id}/analysis`, 'analysis'],
  [`/api/bags/${id}/season`, 'season'],
  [`/api/bags/${id}/card/${props.course.id}`, 'card'],
]

async function missing(id: number): Promise<string[]> {
  const cache = await caches.open(KEPT)
  const known = await Promise.all(
    parts(id).map(async ([path = '', name = '']) =>
      (await cache.match(path, { ignoreSearch: true })) ? '' : name,
    ),
  )
  return known.filter(Boolean)
}

const TRIES = 5
const WRITTEN_MS = 600

/** Looks what is kept, and asks once more for what is not. */
async function keep() {
  const id = bag.data.value?.id
  if (!workers || id === undefined) return
  state.value = 'busy'
  await workers.ready
  for (let tries = 0; tries < TRIES; tries++) {
    const names = await missing(id)
    if (names.length === 0) {
      state.value = 'kept'
      return
    }
    for (const name of names) await client.refetchQueries({ queryKey: [name], type: 'active' })
    // An answer is shown before it is written down.
    await new Promise((done) => setTimeout(done, WRITTEN_MS))
  }
  state.value = 'part'
}
const ready = computed(
  () =>
    props.hasCard &&
    [board, analysis, season, lines].every((q) => q.data.value !== undefined && !q.isPlaceholderData.value),
)
watch(
  [ready, () => props.course.id, () => bag.data.value?.id],
  () => ready.value && !reach.isOut && void keep(),
  {
    immediate: true,
  },
)
</script>

<template>
  <p class="soft" role="status" data-test="field-note" :data-state="state">
    <template v-if="state === 'unsafe'">
      To read the card where Zinc Kite is out of reach, open it over HTTPS: browsers keep nothing else.
    </template>
    <template v-else-if="state === 'kept'">
      Kept on this device for the field: bag, board, lines and card. What you tap out of reach waits here
      until Zinc Kite answers.
    </template>
    <template v-else-if="state === 'part'"
      >Not all could be kept for the field; open this page once more.</template
    >
    <template v-else-if="!reach.isOut">Keeping bag, board, lines and card for the field…</template>
  </p>
</template>

<style scoped>
p {
  margin-bottom: 14px;
}
</style>
