<script setup lang="ts">
// What to take to the course on its day: the smallest bag that plays it about as well as all that could come, and what else.
import { computed } from 'vue'
import type { Course, Cover, Packing } from '@/api/client'
import { useActions, useBag, useBags, useDiscs } from '@/api/useData'
import { COVERS } from '@/common/disc'
import DiscMark from '@/common/DiscMark.vue'
import { useSelection } from '@/common/stores/selection'
import { figure, percent, strokeCount } from '@/common/units'
import { useDayPart } from '@/round/useDayPart'

const props = defineProps<{ course: Course; packing: Packing }>()
const discs = useDiscs()
const bag = useBag()
const bags = useBags()
const actions = useActions()
const selection = useSelection()
const changeDay = useDayPart(() => props.course)

const disc = (id: number) => discs.data.value?.find((d) => d.id === id)
const name = (id: number) => disc(id)?.name ?? ''
const names = (ids: readonly number[]) => ids.map(name).join(', ')
const comes = computed(() => props.packing.take.filter((t) => !t.carried))
const saves = computed(() => props.packing.bag_strokes - props.packing.strokes)
/** Fewer is no gain that anybody would change a bag for. */
const LITTLE = 0.05
const verdict = computed(() => {
  const { take, stay } = props.packing
  const n = take.length
  const against = `${n === 1 ? 'One disc' : `${n} discs`} instead of ${bag.data.value?.carried.length ?? 0}`
  if (saves.value > LITTLE) return `${against}, ${strokeCount(saves.value)} strokes fewer.`
  if (saves.value < -LITTLE)
    return `${against}, ${strokeCount(-saves.value)} strokes more: little for what it weighs.`
  return stay.length ? `${against}, and as few strokes.` : 'The bag as it is has no disc too many for it.'
})
const forWhat = (t: Packing['take'][number]) => {
  const holes =
    t.holes.length === 0 ? [] : [`${t.holes.length === 1 ? 'hole' : 'holes'} ${t.holes.join(', ')}`]
  const after = t.approaches >= 0.05 ? [`${figure(t.approaches, 1)} throws from where it lies`] : []
  return [...holes, ...after].join('; ') || 'seldom, but then it counts'
}

const packed = computed(() => new Set(props.course.day?.packed ?? []))
const keyOf = (id: number) => `disc-${id}`
const all = computed(() => [
  ...props.packing.take.map((t) => keyOf(t.disc_id)),
  ...props.packing.items.map((i) => i.key),
])
const ticked = computed(() => all.value.filter((key) => packed.value.has(key)).length)
const tick = (key: string) =>
  changeDay((day) => {
    const before = day.packed ?? []
    return { ...day, packed: before.includes(key) ? before.filter((k) => k !== key) : [...before, key] }
  })
const clear = () => changeDay((day) => ({ ...day, packed: [] }))
const lies = (cover: Cover) => changeDay((day) => ({ ...day, cover }))

const packBag = () =>
  actions.move('The bag is packed for this day', {
    carry: comes.value.map((t) => ({ disc_id: t.disc_id, spare: false })),
    bench: [...new Set([...props.packing.stay.map((s) => s.disc_id), ...props.packing.over_cap])].filter(
      (id) => !props.packing.take.some((t) => t.disc_id === id),
    ),
  })
const isPacked = computed(() => comes.value.length === 0 && props.packing.stay.length === 0)
</script>

<template>
  <section data-test="pack">
    <div class="panel">
      <h2>What to take</h2>
      <p data-test="pack-verdict">
        <b>{{ verdict }}</b>
        The round takes {{ figure(packing.strokes, 1) }} with it, {{ figure(packing.bag_strokes, 1) }} with
        what the bag holds now.
        <template v-if="!packing.is_proven">There was no time for the proof that nothing is better.</template>
      </p>
      <p v-for="u in packing.unmet" :key="u" class="soft">A wish that nothing can meet: {{ u }}.</p>
      <div class="scroll" tabindex="0" role="region" aria-label="Discs to take">
        <table class="figures">
          <thead>
            <tr>
              <th scope="col"><span class="visually-hidden">Packed</span></th>
              <th scope="col">Take</th>
              <th scope="col">for</th>
              <th scope="col" class="number">saves</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in packing.take" :key="t.disc_id" :data-take="t.disc_id">
              <td>
                <el-checkbox
                  :model-value="packed.has(keyOf(t.disc_id))"
                  :aria-label="`${name(t.disc_id)} is packed`"
                  @change="tick(keyOf(t.disc_id))"
                />
              </td>
              <th scope="row">
                <span class="disc">
                  <DiscMark
                    :colour="disc(t.disc_id)?.colour ?? '#888'"
                    :wear="disc(t.disc_id)?.wear_share ?? 0"
                    :size="20"
                  />
                  <button type="button" class="as-link" @click="selection.discId = t.disc_id">
                    {{ name(t.disc_id) }}
                  </button>
                </span>
                <small v-if="!t.carried">from the shelf</small>
              </th>
              <td>{{ forWhat(t) }}</td>
              <td class="number">{{ strokeCount(t.saves) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="packing.stay.length" data-test="pack-stay">
        <b>Stay at home:</b> {{ names(packing.stay.map((s) => s.disc_id)) }}.
        <template v-if="(packing.stay[packing.stay.length - 1]?.saves ?? 0) >= 0.005"
          >The one most missed, {{ name(packing.stay[packing.stay.length - 1]!.disc_id) }}, would save
          {{ strokeCount(packing.stay[packing.stay.length - 1]!.saves) }}.</template
        >
      </p>
      <p v-for="c in packing.copies" :key="c.disc_id" class="warn">
        <b>{{ name(c.disc_id) }}</b> is lost in {{ percent(c.lost) }} of rounds, on
        {{ c.holes.length === 1 ? 'hole' : 'holes' }} {{ c.holes.join(', ') }}:
        <template v-if="c.copy != null">{{ name(c.copy) }} flies alike, take it too.</template>
        <template v-else>nothing of yours flies alike; the card has the stand-in.</template>
      </p>
      <p v-if="packing.over_cap.length" class="warn" data-test="pack-cap">
        Too heavy for the event: {{ names(packing.over_cap) }}.
      </p>
      <p v-if="packing.unseen.length" class="warn" data-test="pack-unseen">
        Hard to find on {{ COVERS[packing.cover] }}: {{ names(packing.unseen) }}. Watch where
        {{ packing.unseen.length === 1 ? 'it lands' : 'they land' }}.
      </p>
      <div class="acts no-print">
        <label
          >On the ground lies
          <el-select
            :model-value="packing.cover"
            aria-label="What lies on the ground"
            data-test="pack-cover"
            @update:model-value="lies"
          >
            <el-option v-for="(label, cover) in COVERS" :key="cover" :value="cover" :label="label" />
          </el-select>
        </label>
        <el-button v-if="!isPacked" type="primary" data-test="pack-bag" @click="packBag"
          >Pack {{ bags.data.value && bags.data.value.length > 1 ? bag.data.value?.name : 'the bag' }} like
          this</el-button
        >
      </div>
      <p class="soft">
        From all that is at hand, under the wishes you have under Build; a disc comes if it saves
        {{ strokeCount(0.02) }} strokes or more in this round.
      </p>
    </div>
    <div class="panel">
      <h2>And beside discs</h2>
      <ul class="list">
        <li v-for="i in packing.items" :key="i.key">
          <el-checkbox :model-value="packed.has(i.key)" :data-test="`tick-${i.key}`" @change="tick(i.key)">
            {{ i.name }}<template v-if="i.why"> ({{ i.why }})</template>
          </el-checkbox>
        </li>
      </ul>
      <p role="status" data-test="pack-ticked">{{ ticked }} of {{ all.length }} packed.</p>
      <el-button v-if="ticked" data-test="pack-clear" @click="clear">Begin the list anew</el-button>
    </div>
  </section>
</template>

<style scoped>
.scroll {
  margin: 8px 0;
  overflow-x: auto;
}
.disc {
  display: flex;
  gap: 7px;
  align-items: center;
}
.warn {
  margin: 6px 0;
  padding-left: 8px;
  border-left: 3px solid var(--warn);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  margin: 10px 0;
}
.acts .el-select {
  width: 170px;
}
.list {
  columns: 2 260px;
  margin: 0 0 8px;
  padding: 0;
  list-style: none;
}
.list :deep(.el-checkbox),
td :deep(.el-checkbox) {
  height: auto;
  min-height: 40px;
  white-space: normal;
}
</style>
