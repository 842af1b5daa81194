<script setup lang="ts">
// The card: hole by hole what to throw, what stands in for it, and what the round comes to.
import { computed } from 'vue'
import type { Course, RoundCard } from '@/api/client'
import { useUnits } from '@/api/useData'
import { figure, percent, signed, shown } from '@/common/units'
import CardHole from '@/round/CardHole.vue'
import { clock } from '@/round/course'
import LeftTable from '@/round/LeftTable.vue'

const props = defineProps<{ course: Course; card: RoundCard }>()
const emit = defineEmits<{ day: []; hole: [name: string] }>()
const units = useUnits()
const rounds = computed(() => props.card.rounds)
const day = computed(() => props.course.day)
const winds = computed(() => {
  const all = (day.value?.hours ?? []).map((h) => h.wind_m_s)
  if (all.length === 0) return 'a calm day'
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const most_shown = shown(units.value, 'speed', most)
  return Math.round(least) === Math.round(most)
    ? `wind ${most_shown}`
    : `wind ${figure(Number(shown(units.value, 'speed', least).split(' ')[0]))} to ${most_shown}`
})
const changes = computed(() => {
  const n = props.card.changed_by_wind
  if (n === 0) return ''
  return n === 1 ? 'The day changes one hole against calm.' : `The day changes ${n} holes against calm.`
})
</script>

<template>
  <section class="card print-alone" data-test="card">
    <h2 class="title">{{ course.name }}</h2>
    <header class="sum">
      <p class="figure">
        <b data-test="card-strokes">{{ figure(card.strokes, 1) }}</b>
        strokes, par {{ card.par }} ({{ signed(card.strokes - card.par) }})
      </p>
      <p v-if="rounds" class="soft" data-test="card-rounds">
        Of {{ rounds.played.toLocaleString('en') }} rounds played with your scatter eight in ten take
        {{ rounds.good }} to {{ rounds.bad }}; {{ percent(rounds.at_par) }} are par or better.
      </p>
      <p class="day">
        <b>{{ day?.date ?? 'Any day' }}</b>, from {{ clock(day?.start_min ?? 600) }}, {{ winds }}.
        {{ changes }}
        <button type="button" class="as-link no-print" data-test="edit-day" @click="emit('day')">
          Change the day
        </button>
        <small v-if="day?.source" class="soft">{{ day.source }}</small>
      </p>
    </header>
    <ol>
      <CardHole
        v-for="(h, k) in card.holes"
        :key="h.name"
        :card="h"
        :hole="course.holes[k]"
        @open="emit('hole', h.name)"
      />
    </ol>
    <p class="soft no-print">
      “Make it” is the share of throws that end in the drawn zone. On a course throws scatter more than in a
      field, where nothing is guessed: chances are lower here than under Lines. Strokes count to the basket,
      approaches and putts on open ground.
    </p>
    <p class="title">
      Warm up. Wait until nobody is in reach. Leave a disc in deep, cold or fast water where it is. Follow the
      course’s and the event’s rules.
    </p>
    <LeftTable class="no-print" :left="card.left" :leave="card.leave_m ?? null" :words="card.lay_up" />
  </section>
</template>

<style scoped>
.sum {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 18px;
  align-items: baseline;
  padding: 10px 14px;
  background: var(--panel);
  border-top: 2px solid var(--ink);
}
.figure b {
  font-size: 26px;
  font-variant-numeric: tabular-nums;
}
.day {
  grid-column: 1 / -1;
}
.day small {
  display: block;
}
ol {
  margin: 0 0 12px;
  padding: 0;
  list-style: none;
}
.title {
  display: none;
}
@media print {
  .card {
    font-size: 6.9pt;
    line-height: 1.15;
  }
  .title {
    display: block;
  }
  .sum {
    padding: 0;
  }
  .figure b {
    font-size: 11pt;
  }
  h2.title {
    font-size: 10pt;
  }
  ol {
    margin-bottom: 1mm;
  }
}
@media (max-width: 600px) {
  .sum {
    display: block;
  }
}
</style>
