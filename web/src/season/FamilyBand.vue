<script setup lang="ts">
// The copies of a mould over the year: where each finishes, with the pegs as zones, and how sure that is.
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, ref } from 'vue'
import type { Family } from '@/api/client'
import DiscMark from '@/common/DiscMark.vue'
import { useSelection } from '@/common/stores/selection'
import { percent } from '@/common/units'
import { monthLetter, monthWords, reach, spread } from '@/season/year'

const props = defineProps<{ family: Family; days: readonly string[] }>()
const step = defineModel<number>({ required: true })
const selection = useSelection()

type Copy = Family['copies'][number]
type Point = Copy['forecast']['points'][number]

const plot = ref<HTMLElement | null>(null)
const { width: wide } = useElementSize(plot)
const width = computed(() => Math.max(240, wide.value))
const HEIGHT = 140
const TOP = 20
const FOOT = 18
const LEFT = 6
const RIGHT = 46
const NAME_PX = 19

const x = computed(() => scaleLinear([0, props.days.length - 1], [LEFT, width.value - RIGHT]))
const y = computed(() => scaleLinear(reach(props.family), [HEIGHT - FOOT, TOP]))
const inside = (deg: number) => Math.min(HEIGHT - FOOT, Math.max(TOP, y.value(deg)))
const zones = computed(() =>
  props.family.zones
    .map((z, k, all) => ({
      ...z,
      from: inside(k === 0 ? 90 : z.most_deg),
      to: inside(k === all.length - 1 ? -90 : z.least_deg),
    }))
    .filter((z) => z.to - z.from > 0.5),
)
const path = (copy: Copy) =>
  line<Point>(
    (_, k) => x.value(k),
    (p) => y.value(p.finish_deg),
  )(copy.forecast.points) ?? ''
const doubt = (copy: Copy) =>
  area<Point>(
    (_, k) => x.value(k),
    (p) => y.value(p.least_worn_finish_deg),
    (p) => y.value(p.most_worn_finish_deg),
  )(copy.forecast.points) ?? ''
const at = (copy: Copy) => copy.forecast.points[step.value]
const names = computed(() => {
  const wanted = props.family.copies.map((c) => y.value(at(c)?.finish_deg ?? 0))
  // A name stands above its line, not in it.
  const above = wanted.map((at) => at - 7)
  return spread(above, NAME_PX, [12, HEIGHT - FOOT - 3])
})
const headline = computed(() => {
  const name = (id: number) => props.family.copies.find((c) => c.disc_id === id)?.name ?? ''
  const label = (peg: string) => props.family.zones.find((z) => z.peg === peg)?.label ?? ''
  const moves = props.family.moves.map(
    (m) => `${name(m.disc_id)} comes to ${label(m.to)} about ${monthWords(m.on)}`,
  )
  return moves.join('; ') || 'No copy comes to another peg this year'
})
/** Names stand on the side of the day that has more room. */
const leftward = computed(() => step.value > (props.days.length - 1) / 2)

function pointed(event: PointerEvent) {
  if (event.type === 'pointermove' && event.buttons === 0) return
  const box = plot.value?.getBoundingClientRect()
  if (!box) return
  const place = Math.round(x.value.invert(event.clientX - box.left))
  step.value = Math.min(props.days.length - 1, Math.max(0, place))
}
</script>

<template>
  <section class="family" :data-family="family.mould" :aria-label="`${family.mould}: the year ahead`">
    <div class="who">
      <h3>
        {{ family.mould }} <small class="soft">{{ family.label }}</small>
      </h3>
      <ul>
        <li v-for="c in family.copies" :key="c.disc_id">
          <button
            type="button"
            class="link"
            :disabled="c.disc_id < 0"
            @click="c.disc_id > 0 && (selection.discId = c.disc_id)"
          >
            <DiscMark :colour="c.colour" :wear="at(c)?.wear_share ?? c.wear_share" :size="20" />
            <span
              >{{ c.name
              }}<template v-if="!c.is_carried">
                · {{ c.status === 'seasoning' ? 'worn in' : 'at home' }}</template
              ></span
            >
          </button>
        </li>
        <li v-if="family.further" class="soft">and {{ family.further }} more at home</li>
      </ul>
    </div>
    <div ref="plot" class="plot" @pointerdown="pointed" @pointermove="pointed">
      <svg
        :width="width"
        :height="HEIGHT"
        role="img"
        :aria-label="family.copies.map((c) => `${c.name}: ${c.forecast.words}`).join('. ')"
      >
        <g v-for="(z, k) in zones" :key="z.peg">
          <rect
            :x="LEFT"
            :width="width - LEFT - RIGHT"
            :y="z.from"
            :height="z.to - z.from"
            :class="{ zone: true, odd: k % 2 === 1 }"
          />
          <line v-if="k > 0" :x1="LEFT" :x2="width - RIGHT" :y1="z.from" :y2="z.from" class="edge" />
          <text v-if="z.to - z.from > 13" :x="width - RIGHT + 6" :y="(z.from + z.to) / 2 + 5" class="peg">
            {{ z.label }}
          </text>
        </g>
        <text
          v-for="(on, k) in days"
          :key="on"
          :x="x(k)"
          :y="HEIGHT - 4"
          :text-anchor="k === 0 ? 'start' : 'middle'"
          class="month"
        >
          {{ monthLetter(on) }}
        </text>
        <template v-for="c in family.copies" :key="c.disc_id">
          <path :d="doubt(c)" class="doubt" />
          <path :d="path(c)" class="course" :class="{ home: !c.is_carried }" />
        </template>
        <line :x1="x(step)" :x2="x(step)" :y1="TOP" :y2="HEIGHT - FOOT" class="day" />
        <g v-for="(c, k) in family.copies" :key="`n${c.disc_id}`">
          <circle :cx="x(step)" :cy="y(at(c)?.finish_deg ?? 0)" r="6" :fill="c.colour" class="dot" />
          <text
            :x="x(step) + (leftward ? -11 : 11)"
            :y="names[k]"
            :text-anchor="leftward ? 'end' : 'start'"
            class="name"
          >
            {{ c.name }}, {{ percent(at(c)?.wear_share ?? 0) }}
          </text>
        </g>
      </svg>
    </div>
    <details class="more">
      <summary>{{ headline }}</summary>
      <ul class="told">
        <li v-for="c in family.copies" :key="c.disc_id">
          <b>{{ c.name }}</b>: {{ c.forecast.words }}.
          <span class="soft"
            >Lasts {{ c.forecast.life.words }}; {{ Math.round(c.forecast.times_a_week) }} throws and putts a
            week.</span
          >
        </li>
        <li v-if="family.reserve">{{ family.reserve.words }}</li>
        <li>{{ family.water.words }}</li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
.family {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  gap: 0 14px;
  padding: 10px 0 4px;
  border-top: 1px solid var(--rule-soft);
}
h3 {
  margin: 0;
  font-size: 16px;
}
small {
  font-weight: 400;
}
.who ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.link {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 28px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-size: 14px;
  text-align: left;
  cursor: pointer;
}
.link:hover span {
  text-decoration: underline;
}
.plot {
  min-width: 0;
  touch-action: pan-y;
  cursor: ew-resize;
}
svg {
  display: block;
  font-size: 13px;
  fill: var(--ink);
}
.zone {
  fill: var(--panel);
}
.zone.odd {
  fill: var(--ground);
}
.edge {
  stroke: var(--rule);
}
.peg,
.month {
  fill: var(--ink-soft);
}
.doubt {
  fill: var(--ink);
  opacity: 0.12;
}
.course {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.course.home {
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
}
.day {
  stroke: var(--accent);
  stroke-width: 2;
}
.dot {
  stroke: var(--ink);
  stroke-width: 2;
}
.name {
  paint-order: stroke;
  stroke: var(--panel);
  stroke-width: 4px;
  stroke-linejoin: round;
}
.more {
  grid-column: 1 / -1;
}
summary {
  padding: 5px 0;
  color: var(--ink-soft);
  cursor: pointer;
}
.told {
  margin: 0 0 6px;
  padding-left: 20px;
}
@media (max-width: 700px) {
  .family {
    grid-template-columns: minmax(0, 1fr);
  }
  .who ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0 14px;
  }
  .link {
    min-height: 40px;
  }
}
</style>
