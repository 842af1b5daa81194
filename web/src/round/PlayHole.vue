<script setup lang="ts">
// One hole while it is played: what the card says, and the taps that say what happened.
import { computed, ref } from 'vue'
import type { CameOf, CourseHole, HoleOnCard, PickedDisc, PlayedHole } from '@/api/client'
import { useDiscs, useUnits } from '@/api/useData'
import DiscMark from '@/common/DiscMark.vue'
import TakeReading from '@/common/TakeReading.vue'
import { figure, percent, shown } from '@/common/units'
import { STYLES } from '@/lines/line'
import { windOn } from '@/round/course'
import { AT_HAND, bare, CAME, MOST_STROKES, toTap } from '@/round/played'
import WindArrow from '@/round/WindArrow.vue'

const props = defineProps<{
  hole: PlayedHole
  card: HoleOnCard | undefined
  ground: CourseHole | undefined
  first: boolean
  last: boolean
}>()
const emit = defineEmits<{ tell: [part: Partial<PlayedHole>]; go: [by: 1 | -1] }>()
const units = useUnits()
const discs = useDiscs()

/** Discs that are a tap away; the others behind a choice. */
const NEAR = 4
const shelfDisc = (id: number | null | undefined) => discs.data.value?.find((d) => d.id === id)
const near = computed(() => toTap(props.hole, props.card?.discs ?? [], NEAR))
const others = computed(() =>
  (discs.data.value ?? []).filter((d) => d.at_hand && !near.value.some((n) => n.disc_id === d.id)),
)
const best = computed(() => props.card?.best)
/** The drawn place that the throw is to end in. */
const zone = computed(() => {
  const line = best.value && props.ground?.ways?.[best.value.way]?.line
  if (!line || best.value?.short_m != null) return ''
  const size = (m: number) => shown(units.value, 'distance', m)
  return `${size(line.distance_m)} away, ${size(line.zone_length_m)} long and ${size(line.zone_width_m)} wide`
})
const came = Object.entries(CAME) as [CameOf, string][]

const isThrown = (disc: PickedDisc) => props.hole.threw?.disc_name === disc.disc_name
const throwDisc = (disc: PickedDisc) => emit('tell', { threw: isThrown(disc) ? null : disc })
function throwOther(id: number) {
  const known = props.card?.discs.find((d) => d.disc_id === id)
  const disc = shelfDisc(id)
  if (known) emit('tell', { threw: known })
  else if (disc) emit('tell', { threw: bare(disc) })
}
const cameOf = (of: CameOf) => emit('tell', { came_of: props.hole.came_of === of ? null : of })
const leaves = (m: number) => emit('tell', { left_m: props.hole.left_m === m ? null : m })
/** What is left as it was measured, where no button says it. */
const measured = computed(() => {
  const left = props.hole.left_m
  return left != null && !props.hole.left?.some((l) => l.from_m === left) ? left : null
})
const took = (n: number) => emit('tell', { strokes: props.hole.strokes === n ? null : n })
const more = computed(() => Math.max(props.hole.strokes ?? 0, AT_HAND))

const losing = ref(false)
const thrown = computed(() => props.hole.threw ?? props.hole.card)
function lose(disc: { disc_id?: number | null; disc_name: string }) {
  losing.value = false
  const lost = { disc_id: disc.disc_id ?? null, disc_name: disc.disc_name }
  emit('tell', { lost: [...(props.hole.lost ?? []), lost] })
}
const find = (name: string) =>
  emit('tell', { lost: (props.hole.lost ?? []).filter((l) => l.disc_name !== name) })
const carriedToLose = computed(() =>
  (discs.data.value ?? []).filter((d) => d.at_hand && d.name !== thrown.value?.disc_name),
)
</script>

<template>
  <div class="panel hole" data-test="play-hole">
    <header>
      <h2>Hole {{ hole.name }}</h2>
      <span
        >par {{ hole.par }}<template v-if="card">, {{ shown(units, 'distance', card.length_m) }}</template
        >, {{ figure(hole.expected, 1) }} expected</span
      >
      <span v-if="card" class="wind">
        <WindArrow :from="card.conditions.wind_from_deg" :strength="card.conditions.wind_m_s" />
        {{ windOn(units, card.conditions, ground) }}
      </span>
    </header>
    <p v-if="best" class="say">
      <b>{{ best.disc_name }}</b>, {{ STYLES[best.style] }}: {{ best.release
      }}<template v-if="best.short_m != null"
        >, aimed {{ shown(units, 'distance', best.short_m) }} away, short of the drawn target</template
      >.
      <template v-if="zone">
        Zone {{ zone }}: {{ percent(best.chance) }} end in it;
        {{ shown(units, 'distance', best.leaves_m) }} left in the mean.
      </template>
    </p>
    <p v-for="f in card?.flips ?? []" :key="f.words" class="soft">{{ f.words }}</p>
    <p v-if="ground?.note" class="note">{{ ground.note }}</p>

    <fieldset>
      <legend>Thrown, with the strokes the card expects</legend>
      <div class="taps">
        <button
          v-for="d in near"
          :key="d.disc_name"
          type="button"
          class="tap disc"
          :aria-pressed="isThrown(d)"
          :class="{ card: !hole.threw && d.disc_id === hole.card?.disc_id }"
          :data-threw="d.disc_name"
          @click="throwDisc(d)"
        >
          <DiscMark
            v-if="shelfDisc(d.disc_id)"
            :colour="shelfDisc(d.disc_id)!.colour"
            :wear="shelfDisc(d.disc_id)!.wear_share"
            :size="20"
          />
          <span>{{ d.disc_name }}</span>
          <small v-if="d.strokes != null">{{ figure(d.strokes, 2) }}</small>
        </button>
        <el-select
          :model-value="null"
          placeholder="another"
          aria-label="Another disc was thrown"
          class="other"
          data-test="threw-other"
          @update:model-value="throwOther"
        >
          <el-option v-for="d in others" :key="d.id" :value="d.id" :label="d.name" />
        </el-select>
      </div>
    </fieldset>
    <fieldset>
      <legend>It ended</legend>
      <div class="taps">
        <button
          v-for="[of, label] in came"
          :key="of"
          type="button"
          class="tap"
          :aria-pressed="hole.came_of === of"
          :data-came="of"
          @click="cameOf(of)"
        >
          {{ label }}
        </button>
      </div>
    </fieldset>
    <fieldset v-if="hole.left?.length">
      <legend>Left to the basket, about</legend>
      <div class="taps">
        <button
          v-for="l in hole.left"
          :key="l.from_m"
          type="button"
          class="tap figure"
          :aria-pressed="hole.left_m === l.from_m"
          :data-left="l.from_m"
          @click="leaves(l.from_m)"
        >
          {{ l.from_m === 0 ? 'in' : shown(units, 'distance', l.from_m) }}
        </button>
        <button
          v-if="measured != null"
          type="button"
          class="tap figure"
          aria-pressed="true"
          data-test="left-measured"
          @click="leaves(measured)"
        >
          {{ shown(units, 'distance', measured, 1) }}
        </button>
        <TakeReading
          of="rangefinder"
          @shot="emit('tell', { left_m: Math.round(10 * $event.level_m) / 10 })"
        />
      </div>
    </fieldset>
    <fieldset>
      <legend>Strokes, penalties among them</legend>
      <div class="taps">
        <button
          v-for="n in more"
          :key="n"
          type="button"
          class="tap figure"
          :aria-pressed="hole.strokes === n"
          :data-strokes="n"
          @click="took(n)"
        >
          {{ n }}
        </button>
        <button v-if="more < MOST_STROKES" type="button" class="tap figure" @click="took(more + 1)">
          {{ more + 1 }}+
        </button>
      </div>
    </fieldset>
    <p v-for="l in hole.lost ?? []" :key="l.disc_name" class="note" data-test="lost-here">
      <b>{{ l.disc_name }}</b> was lost here.
      <button type="button" class="as-link" :data-found="l.disc_name" @click="find(l.disc_name)">
        It was not
      </button>
    </p>
    <div v-if="losing" class="taps" data-test="losing">
      <button v-if="thrown" type="button" class="tap" :data-lose="thrown.disc_name" @click="lose(thrown)">
        {{ thrown.disc_name }} is lost
      </button>
      <el-select
        :model-value="null"
        placeholder="another disc"
        aria-label="Another disc is lost"
        class="other"
        data-test="lose-other"
        @update:model-value="(id: number) => shelfDisc(id) && lose(bare(shelfDisc(id)!))"
      >
        <el-option v-for="d in carriedToLose" :key="d.id" :value="d.id" :label="d.name" />
      </el-select>
      <button type="button" class="as-link" @click="losing = false">None</button>
    </div>
    <footer>
      <el-button size="large" :disabled="first" data-test="hole-back" @click="emit('go', -1)">Back</el-button>
      <el-button v-if="!losing" size="large" data-test="lose" @click="losing = true">Lost a disc</el-button>
      <el-button size="large" type="primary" :disabled="last" data-test="hole-next" @click="emit('go', 1)"
        >Next hole</el-button
      >
    </footer>
  </div>
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: center;
}
.wind {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.say {
  margin: 4px 0;
  font-size: 17px;
}
.note {
  padding-left: 8px;
  border-left: 3px solid var(--warn);
}
fieldset {
  margin: 8px 0 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  color: var(--ink-soft);
}
.tap.card {
  border: 2px dashed var(--ink-soft);
}
.other {
  width: 150px;
}
.other :deep(.el-select__wrapper) {
  min-height: 48px;
}
.taps + footer,
.note + .taps,
fieldset + .taps {
  margin-top: 10px;
}
footer {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  margin-top: 14px;
}
footer .el-button {
  min-height: 48px;
  margin: 0;
}
</style>
