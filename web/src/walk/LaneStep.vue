<script setup lang="ts">
// One lane of the walk: its pegs, what sits there, a place to add discs, what the shelf could put there, what stays open.
import { computed, ref, watch } from 'vue'
import type { DiscUse, SeasonVerdict, ShelfDisc, Walk, WalkLane } from '@/api/client'
import AddLine from '@/shelf/AddLine.vue'
import DiscMark from '@/common/DiscMark.vue'
import LineDialog from '@/lines/LineDialog.vue'
import PegCard from '@/walk/PegCard.vue'
import { useActions, useDiscs, useLines } from '@/api/useData'
import { type Ranked, isRefused, open as openLines, ranked } from '@/walk/walk'
import { numbersText } from '@/common/disc'
import { percent, strokes } from '@/common/units'
import { STANDINGS } from '@/lines/line'
import { useOpenThing } from '@/common/useOpenThing'
import { useSelection } from '@/common/stores/selection'

const props = defineProps<{
  lane: WalkLane
  lanes: readonly WalkLane[]
  putting: Walk['putting']
  season: SeasonVerdict | undefined
  judging: boolean
}>()

const discs = useDiscs()
const lines = useLines()
const actions = useActions()
const selection = useSelection()
const adder = ref<{ focus: () => void } | null>(null)
const opened = useOpenThing('line')

const USES: Partial<Record<WalkLane['step'], DiscUse>> = {
  putting_set: 'putting',
  throwing_putters: 'throwing',
  utility: 'utility',
}
const disc = (id: number) => discs.data.value?.find((d) => d.id === id)
const all = (ids: readonly number[]) => ids.map(disc).filter((d): d is ShelfDisc => d !== undefined)
const lineOf = (key: string) => lines.data.value?.find((l) => l.key === key)
/** Carried discs of the lane that sit on none of its pegs. */
const beside = computed(() => {
  const seated = new Set(props.lane.pegs.flatMap((p) => p.disc_ids))
  return all(props.lane.here.map((d) => d.disc_id).filter((id) => !seated.has(id)))
})
const shelf = computed(() => ranked(props.lane, props.season).slice(0, 8))
const left = computed(() => openLines(props.lane, props.season).slice(0, 5))
const isPutting = computed(() => props.lane.step === 'putting_set')
const shared = computed(() => props.lane.step === 'control_drivers' && props.lane.slot === 'distance')
const wear = (id: number) => props.putting.discs.find((d) => d.disc_id === id)?.words

/** What school and hand have against a disc. */
const against = (r: Ranked) => [...r.objections.map((o) => o.words), ...(disc(r.id)?.feels_off ?? [])]

/** Where discs just added went that belong to another lane. */
const added = ref<number[]>([])
const elsewhere = computed(() => {
  const lane = props.lanes.find((l) => l.here.some((d) => added.value.includes(d.disc_id)))
  return lane && lane.step !== props.lane.step
    ? `By its speed or use it lies with the ${lane.label.toLowerCase()}.`
    : ''
})
watch(
  () => props.lane.step,
  () => (added.value = []),
)
defineExpose({ focus: () => adder.value?.focus() })
</script>

<template>
  <p class="question">{{ lane.question }}</p>
  <p v-if="shared" class="soft shared">
    Control drivers share the pegs of the distance drivers; the thrower’s step gives them a lane of their own.
  </p>
  <ul v-if="lane.pegs.length" class="pegs" aria-label="Pegs">
    <PegCard
      v-for="p in lane.pegs"
      :key="p.peg"
      :peg="p"
      :line="lineOf(p.line_key)"
      :discs="all(p.disc_ids)"
    />
  </ul>
  <p v-if="isPutting && putting.asks" class="soft shared" data-test="putting-asks">{{ putting.asks }}</p>
  <ul v-if="isPutting" class="checks" aria-label="The putting set">
    <li v-for="f in putting.findings" :key="f.check" :data-check="f.check" :data-ok="f.ok">
      <span class="mark" aria-hidden="true">{{ f.ok ? '✓' : '○' }}</span>
      <div>
        <b>{{ f.label }}</b><span class="visually-hidden">{{ f.ok ? ' is there' : ' is missing' }}</span>
        <p>{{ f.words }}</p>
        <el-button
          v-for="d in f.ok ? [] : all(f.disc_ids).filter((x) => !lane.here.some((h) => h.disc_id === x.id))"
          :key="d.id"
          data-test="check-carry"
          @click="actions.carry(d)"
          >Carry {{ d.name }}</el-button
        >
        <template v-if="f.check === 'handed_down' && !f.ok">
          <el-button
            v-for="d in all(f.disc_ids)"
            :key="d.id"
            data-test="hand-down"
            @click="
              actions.put(d.id, `${d.name} is a throwing putter now`, (s) => ({ ...s, used_for: 'throwing' }))
            "
            >Throw {{ d.name }}</el-button
          >
        </template>
      </div>
    </li>
  </ul>
  <AddLine
    ref="adder"
    :used-for="USES[lane.step]"
    :label="`Add ${isPutting ? 'putting putters' : lane.label.toLowerCase()}`"
    @added="added = $event"
  />
  <p v-if="elsewhere" role="status" class="elsewhere" data-test="elsewhere">{{ elsewhere }}</p>
  <div class="two">
    <section v-if="beside.length" class="panel" aria-label="Carried here">
      <h2>{{ lane.pegs.length ? 'Carried beside the pegs' : 'Carried here' }}</h2>
      <ul class="list">
        <li v-for="d in beside" :key="d.id">
          <button type="button" class="disc" @click="selection.discId = d.id">
            <DiscMark :colour="d.colour" :wear="d.wear_share" />
            <span
              ><b>{{ d.name }}</b
              ><small>{{ wear(d.id) ?? numbersText(d.printed) }}</small></span
            >
          </button>
          <el-button data-test="walk-bench" @click="actions.bench(d)">Bench</el-button>
        </li>
      </ul>
    </section>
    <section class="panel" aria-label="What the shelf could put here">
      <h2>On the shelf for this lane</h2>
      <p v-if="shelf.length === 0" class="soft">Nothing else of this lane is on the shelf.</p>
      <ul class="list">
        <li v-for="(r, k) in shelf" :key="r.id" :data-shelf="r.id">
          <button v-if="disc(r.id)" type="button" class="disc" @click="selection.discId = r.id">
            <DiscMark :colour="disc(r.id)!.colour" :wear="disc(r.id)!.wear_share" />
            <span
              ><b>{{ disc(r.id)!.name }}</b
              ><small
                ><template v-if="r.peg"
                  ><span class="peg-name">{{ r.peg }}</span
                  >{{ r.fills ? ', which is empty' : '' }} · </template
                ><template v-if="r.saves !== null">{{
                  r.saves > 0 ? `would save ${strokes(r.saves)}` : 'would save nothing'
                }}</template
                ><template v-else>{{ judging ? 'judging…' : '' }}</template></small
              ><small v-if="against(r).length" class="against" data-test="against">{{
                against(r).join('; ')
              }}</small></span
            >
          </button>
          <el-button
            v-if="disc(r.id)"
            :type="k === 0 && r.fills && !isRefused(r) ? 'primary' : 'default'"
            data-test="walk-carry"
            @click="actions.carry(disc(r.id)!)"
            >Carry</el-button
          >
        </li>
      </ul>
    </section>
    <section class="panel" aria-label="What stays open" data-test="open">
      <h2>What stays open</h2>
      <p v-if="!season" class="soft">{{ judging ? 'Judging the season…' : 'Not judged yet.' }}</p>
      <p v-else-if="lane.line_keys.length === 0" class="soft">No shot of yours asks for this lane alone.</p>
      <p v-else-if="left.length === 0">Every shot of this lane has two answers.</p>
      <ul class="list">
        <li v-for="l in left" :key="l.key">
          <button type="button" class="disc" @click="opened = l.key">
            <span
              ><b>{{ STANDINGS[l.standing] }}: {{ l.name }}</b
              ><small
                >{{ percent(l.chance) }} now, {{ percent(l.ideal) }} with the best disc there could be; leaves
                {{ strokes(l.leaves_strokes) }}</small
              ></span
            >
          </button>
        </li>
      </ul>
    </section>
  </div>
  <LineDialog v-model:line-key="opened" :disc-id="null" opened-in="today" />
</template>

<style scoped>
.question {
  max-width: 80ch;
  margin-bottom: 10px;
  font-size: 17px;
}
.against {
  font-weight: 700;
}
.shared {
  margin-bottom: 8px;
}
.pegs,
.checks {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 8px;
  margin: 0 0 12px;
  padding: 0;
  list-style: none;
}
.checks {
  grid-template-columns: repeat(auto-fit, minmax(250px, 1fr));
}
.checks li {
  display: flex;
  gap: 10px;
  padding: 8px 10px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  font-size: 14px;
}
.checks li[data-ok='false'] {
  border: 1px dashed var(--ink-soft);
}
.mark {
  font-size: 20px;
  line-height: 1;
  font-weight: 700;
}
.elsewhere {
  margin-top: 6px;
  padding: 6px 12px;
  border-left: 6px solid var(--accent);
  background: var(--panel);
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 12px;
  margin-top: 12px;
  align-items: start;
}
.list {
  margin: 0;
  padding: 0;
  list-style: none;
}
.list li {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  border-bottom: 1px solid var(--rule-soft);
}
.disc {
  display: flex;
  flex: 1;
  gap: 9px;
  align-items: center;
  min-height: 44px;
  padding: 2px 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.disc:hover b {
  text-decoration: underline;
}
.disc :deep(svg) {
  flex: none;
}
small {
  display: block;
  font-size: 13px;
  color: var(--ink-soft);
  line-height: 1.2;
}
.peg-name {
  text-transform: capitalize;
}
</style>
