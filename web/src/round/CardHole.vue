<script setup lang="ts">
// One hole of the card.
import { computed, ref } from 'vue'
import type { CourseHole, HoleOnCard, HoleThrow } from '@/api/client'
import { useDiscs, useUnits } from '@/api/useData'
import DiscMark from '@/common/DiscMark.vue'
import { useSelection } from '@/common/stores/selection'
import { figure, percent, shown, signed } from '@/common/units'
import { STYLES } from '@/lines/line'
import { clock, windOn } from '@/round/course'
import WindArrow from '@/round/WindArrow.vue'

const props = defineProps<{ card: HoleOnCard; hole: CourseHole | undefined }>()
const emit = defineEmits<{ open: [] }>()
const units = useUnits()
const selection = useSelection()
const discs = useDiscs()
const disc = computed(() => discs.data.value?.find((d) => d.id === props.card.best?.disc_id))
const open = ref(false)
const wind = computed(() => props.card.conditions)
const windWords = computed(() => windOn(units.value, wind.value, props.hole))
const short = (t: HoleThrow) => `${t.disc_name}, ${STYLES[t.style]}, ${figure(t.strokes, 2)} strokes`
/** What is not the first choice, with when it is. */
const others = computed(() => {
  const { stand_in, turned, calm, flips, schools, lay_up } = props.card
  return [
    ...(lay_up ? [{ when: 'Lay-up', what: lay_up.words }] : []),
    ...(stand_in ? [{ when: 'If that is lost', what: short(stand_in) }] : []),
    ...flips.map((f) => ({ when: 'Wind', what: f.words })),
    ...(turned ? [{ when: 'If the wind turns about', what: short(turned) }] : []),
    ...(calm ? [{ when: 'In calm', what: short(calm) }] : []),
    ...(schools
      ? [
          {
            when: 'Across or up',
            what: `Across to ${schools.across.disc_name} ${figure(schools.across.strokes, 2)}, up to ${schools.up.disc_name} ${figure(schools.up.strokes, 2)}. ${schools.words}`,
          },
        ]
      : []),
    ...props.card.other_ways.map((w) => ({ when: `By ${w.line}`, what: short(w) })),
  ]
})
/** Said at once; the rest when the hole is opened. */
const AT_ONCE = 2
</script>

<template>
  <li class="row" :data-card-hole="card.name">
    <div class="hole">
      <b class="name">{{ card.name }}</b>
      <small>par {{ card.par }}<br />{{ shown(units, 'distance', card.length_m) }}</small>
    </div>
    <div class="wind">
      <WindArrow :from="wind.wind_from_deg" :strength="wind.wind_m_s" />
      <small>{{ clock(card.minute) }}<br />{{ windWords }}<template v-if="wind.wet">, wet</template></small>
    </div>
    <div v-if="card.best" class="throw">
      <p>
        <DiscMark v-if="disc" :colour="disc.colour" :wear="disc.wear_share" :size="22" />
        <button type="button" class="as-link disc" @click="selection.discId = card.best.disc_id">
          {{ card.best.disc_name }}
        </button>
        <span>{{ STYLES[card.best.style] }}</span>
      </p>
      <p class="soft">
        {{ card.best.release
        }}<template v-if="card.best.short_m != null"
          >, aimed {{ shown(units, 'distance', card.best.short_m) }} away, short of the drawn target</template
        >.
      </p>
    </div>
    <p v-else class="throw">
      No disc in the bag suits a drawn way: play it in shorter throws, or draw a way that your arm reaches.
    </p>
    <div class="sum">
      <p>
        <b>{{ figure(card.strokes, 2) }}</b> <small>({{ signed(card.strokes - card.par, 2) }})</small>
      </p>
      <small v-if="card.best"
        >{{ percent(card.best.chance) }} make it, leaves {{ shown(units, 'distance', card.best.leaves_m)
        }}<template v-if="card.best.miss_costs != null"
          >; a miss {{ signed(card.best.miss_costs, 1) }}</template
        ></small
      >
    </div>
    <dl>
      <div v-for="(o, k) in open ? others : others.slice(0, AT_ONCE)" :key="k">
        <dt>{{ o.when }}</dt>
        <dd>{{ o.what }}</dd>
      </div>
    </dl>
    <div class="acts no-print">
      <button
        type="button"
        class="as-link"
        :aria-expanded="open"
        :aria-label="`${open ? 'less' : 'more'} of hole ${card.name}`"
        data-test="card-more"
        @click="open = !open"
      >
        {{ open ? 'less' : 'more' }}
      </button>
      <button type="button" class="as-link" :aria-label="`open hole ${card.name}`" @click="emit('open')">
        open
      </button>
    </div>
    <div v-if="open" class="reasons" data-test="card-reasons">
      <p v-if="card.best">
        {{ card.best.words }}
        <template v-if="card.best.lost >= 0.005"
          >{{ percent(card.best.lost) }} of throws lose the disc.</template
        >
      </p>
      <p v-if="hole?.note" class="note">{{ hole.note }}</p>
    </div>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 80px 150px minmax(190px, 1fr) 160px minmax(220px, 1.2fr) 48px;
  gap: 4px 14px;
  align-items: start;
  padding: 8px 12px;
  background: var(--panel);
  border-top: 1px solid var(--rule-soft);
}
.hole {
  display: flex;
  gap: 8px;
}
.name {
  min-width: 26px;
  font-size: 22px;
  line-height: 1.1;
}
small {
  font-size: 13.5px;
  line-height: 1.25;
  color: var(--ink-soft);
}
.wind {
  display: flex;
  gap: 6px;
}
.throw p:first-child {
  display: flex;
  flex-wrap: wrap;
  gap: 0 7px;
  align-items: center;
}
.disc {
  font-weight: 650;
}
.sum p {
  white-space: nowrap;
}
.sum b {
  font-size: 18px;
  font-variant-numeric: tabular-nums;
}
dl,
dl div {
  margin: 0;
}
dt {
  float: left;
  margin-right: 6px;
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
.acts {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.reasons {
  grid-column: 2 / -1;
}
.note {
  padding-left: 8px;
  border-left: 3px solid var(--warn);
}
@media screen and (max-width: 1000px) {
  .row {
    grid-template-columns: 74px minmax(0, 1fr) auto;
  }
  .throw,
  .sum,
  dl,
  .reasons {
    grid-column: 1 / -1;
  }
  .acts {
    grid-column: 1 / -1;
    flex-direction: row;
    gap: 18px;
  }
}
@media print {
  .row {
    grid-template-columns: 14mm 24mm minmax(0, 1fr) 21mm minmax(0, 1.35fr);
    gap: 0 1.6mm;
    padding: 0.6mm 0;
    break-inside: avoid;
  }
  .row small {
    font-size: 6.3pt;
  }
  .name {
    min-width: 4.5mm;
    font-size: 11pt;
  }
  .sum b {
    font-size: 9pt;
  }
  .arrow {
    width: 5mm;
    height: 5mm;
  }
  .throw svg {
    width: 3.6mm;
    height: 3.6mm;
  }
  .row button.as-link {
    min-height: 0;
    text-decoration: none;
  }
  .reasons {
    display: none;
  }
}
</style>
