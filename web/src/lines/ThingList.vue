<script setup lang="ts">
// What stands and lies about a line, one by one, each in figures once it is chosen; and how its ground rises and falls.
import { computed } from 'vue'
import type { LineSpec, Rise, Thing } from '@/api/client'
import { names } from '@/common/land'
import {
  movedRise,
  changedThing,
  MOST_RISES,
  risesOf,
  thingsOf,
  withoutThing,
  withRise,
} from '@/lines/things'
import { useFigures } from '@/lines/useFigures'

const props = defineProps<{ spec: LineSpec }>()
const chosen = defineModel<number | undefined>('chosen', { required: true })
const emit = defineEmits<{ change: [spec: LineSpec] }>()
const { get, toSi, symbol } = useFigures()

const things = computed(() => thingsOf(props.spec))
const rises = computed(() => risesOf(props.spec))
const called = computed(() => names(things.value))

/** What of each kind is told in metres. */
const METRES = {
  tree: { at_m: 'at', left_m: 'left', crown_m: 'half its width', foot_m: 'branches from', top_m: 'height' },
  wood: { top_m: 'height' },
  roof: { from_m: 'from', to_m: 'to', under_m: 'height' },
  mandatory: { at_m: 'at', left_m: 'left' },
  hazard: {},
} as const
const metres = (t: Thing) => Object.entries(METRES[t.kind]) as [string, string][]
const value = (t: Thing, key: string) => get((t as unknown as Record<string, number>)[key], 'distance')
const set = (k: number, part: Record<string, unknown>) =>
  emit('change', changedThing(props.spec, k, part as Partial<Thing>))
function setMetres(k: number, key: string, shown: number | null | undefined) {
  const m = toSi(shown, 'distance')
  if (m != null) set(k, { [key]: m })
}
function setCorner(
  k: number,
  t: Thing & { kind: 'wood' | 'hazard' },
  j: number,
  key: 'at_m' | 'left_m',
  shown: number | null | undefined,
) {
  const m = toSi(shown, 'distance')
  if (m != null) set(k, { area: t.area.map((s, i) => (i === j ? { ...s, [key]: m } : s)) })
}
const MOST_CORNERS = 12
const LEAST_CORNERS = 3
/** One more corner, half way from the last to the first. */
function addCorner(k: number, t: Thing & { kind: 'wood' | 'hazard' }) {
  const [first, last] = [t.area[0], t.area.at(-1)]
  if (!first || !last) return
  const between = { at_m: (first.at_m + last.at_m) / 2, left_m: (first.left_m + last.left_m) / 2 }
  set(k, { area: [...t.area, between] })
}
function setRise(k: number, part: Partial<Rise>) {
  const rise = { ...rises.value[k], ...part }
  emit('change', movedRise(props.spec, k, { x_m: rise.at_m ?? 0, z_m: rise.height_m ?? 0 }))
}
function takeAway(k: number) {
  chosen.value = undefined
  emit('change', withoutThing(props.spec, k))
}
</script>

<template>
  <div class="things">
    <div v-for="(t, k) in things" :key="k" class="thing" :data-thing="k">
      <button
        type="button"
        class="name"
        :aria-expanded="chosen === k"
        @click="chosen = chosen === k ? undefined : k"
      >
        {{ called[k] }}
      </button>
      <el-button :aria-label="`Take away ${called[k]?.toLowerCase()}`" @click="takeAway(k)"
        >Take away</el-button
      >
      <div v-if="chosen === k" class="figures">
        <label v-for="[key, label] in metres(t)" :key="key">
          <span>{{ label }}, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="value(t, key)"
            :controls="false"
            :data-test="`thing-${key}`"
            @update:model-value="setMetres(k, key, $event)"
          />
        </label>
        <label v-if="t.kind === 'mandatory'">
          <span>pass it</span>
          <el-select
            :model-value="t.pass"
            data-test="thing-pass"
            @update:model-value="set(k, { pass: $event })"
          >
            <el-option value="left" label="on its left" />
            <el-option value="right" label="on its right" />
          </el-select>
        </label>
        <template v-if="t.kind === 'hazard'">
          <label>
            <span>costs beyond a miss, strokes</span>
            <el-input-number
              :model-value="t.strokes ?? undefined"
              :min="0"
              :max="3"
              :step="0.5"
              :controls="false"
              placeholder="1"
              data-test="thing-strokes"
              @update:model-value="set(k, { strokes: $event ?? null })"
            />
          </label>
          <label>
            <span>discs not got back, %</span>
            <el-input-number
              :model-value="t.lost == null ? undefined : Math.round(100 * t.lost)"
              :min="0"
              :max="100"
              :controls="false"
              :placeholder="t.peril === 'water' ? '30' : '0'"
              data-test="thing-lost"
              @update:model-value="set(k, { lost: $event == null ? null : $event / 100 })"
            />
          </label>
        </template>
        <template v-if="t.kind === 'wood' || t.kind === 'hazard'">
          <div v-for="(s, j) in t.area" :key="j" class="corner">
            <label>
              <span>corner {{ j + 1 }} at, {{ symbol('distance') }}</span>
              <el-input-number
                :model-value="get(s.at_m, 'distance')"
                :controls="false"
                @update:model-value="setCorner(k, t, j, 'at_m', $event)"
              />
            </label>
            <label>
              <span>left, {{ symbol('distance') }}</span>
              <el-input-number
                :model-value="get(s.left_m, 'distance')"
                :controls="false"
                @update:model-value="setCorner(k, t, j, 'left_m', $event)"
              />
            </label>
            <el-button
              :disabled="t.area.length <= LEAST_CORNERS"
              :aria-label="`Take away corner ${j + 1}`"
              @click="set(k, { area: t.area.filter((_, i) => i !== j) })"
              >–</el-button
            >
          </div>
          <el-button
            :disabled="t.area.length >= MOST_CORNERS"
            data-test="thing-corner"
            @click="addCorner(k, t)"
            >One more corner</el-button
          >
        </template>
      </div>
    </div>
    <div v-if="rises.length" class="ground" data-test="rises">
      <b>Ground, against the tee</b>
      <div v-for="(r, k) in rises" :key="k" class="corner">
        <label>
          <span>at, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(r.at_m, 'distance')"
            :controls="false"
            @update:model-value="setRise(k, { at_m: toSi($event, 'distance') ?? r.at_m })"
          />
        </label>
        <label>
          <span>height, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(r.height_m, 'distance')"
            :controls="false"
            :data-test="`rise-${k}`"
            @update:model-value="setRise(k, { height_m: toSi($event, 'distance') ?? r.height_m })"
          />
        </label>
        <el-button
          :aria-label="`Take away height ${k + 1}`"
          @click="emit('change', { ...spec, rises: rises.filter((_, j) => j !== k) })"
          >–</el-button
        >
      </div>
      <el-button :disabled="rises.length >= MOST_RISES" @click="emit('change', withRise(spec))"
        >One more height</el-button
      >
    </div>
  </div>
</template>

<style scoped>
.thing,
.ground {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--rule-soft);
}
.name {
  flex: 1 1 120px;
  min-height: 40px;
  padding: 0 6px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-left: 4px solid transparent;
  cursor: pointer;
}
.name[aria-expanded='true'] {
  border-left-color: var(--accent);
  font-weight: 700;
}
.figures {
  flex: 1 0 100%;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 6px 10px;
  align-items: end;
}
.corner {
  grid-column: 1 / -1;
  flex: 1 0 100%;
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 6px 10px;
  align-items: end;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number,
.el-select {
  width: 100%;
}
</style>
