<script setup lang="ts">
// A throw in three taps: which disc, how it was meant, where it ended. What was told of the last throw stays for the next.
import { computed, ref, watch } from 'vue'
import type { FieldThrow, HandWind, LevelShot, SeenFlight, Style, ThrowTag, TrialThrow } from '@/api/client'
import { useBag, useDiscs, useLines, usePlayer, useUnits } from '@/api/useData'
import DiscMark from '@/common/DiscMark.vue'
import TakeReading from '@/common/TakeReading.vue'
import { shown } from '@/common/units'
import { windFrom } from '@/common/wind'
import {
  FARTHEST_M,
  heldFrom,
  MEANT,
  offOf,
  restOf,
  type ShownLog,
  TAGS,
  WAYS,
  windOffAim,
} from '@/field/log'
import SeenFields from '@/field/SeenFields.vue'
import { STYLES } from '@/lines/line'
import { useFigures } from '@/lines/useFigures'

const props = defineProps<{
  log: ShownLog
  /** The next throw of a trial. */
  next: TrialThrow | undefined
  /** A disc that is laid ready to be thrown flat, for a form check. */
  form: { disc_id: number; style: Style } | undefined
}>()
const emit = defineEmits<{ throw: [it: FieldThrow]; aim: [deg: number] }>()
const discs = useDiscs()
const bag = useBag()
const player = usePlayer()
const lines = useLines()
const units = useUnits()
const { get, toSi, symbol } = useFigures()

const held = ref(heldFrom(props.log.throws.at(-1), player.data.value?.strong_style ?? 'backhand'))
watch(
  () => props.log.key,
  () => (held.value = heldFrom(props.log.throws.at(-1), player.data.value?.strong_style ?? 'backhand')),
)
/** The trial says what is thrown next; whoever throws something else chooses it. */
watch(
  () => props.next,
  (now, before) => {
    if (!now || JSON.stringify(now) === JSON.stringify(before)) return
    const { disc_name, style, meant } = now
    // Whoever turns round has the wind from the other side.
    const from = { any: held.value.wind?.from_deg ?? 0, into: 0, before: 180 }[now.wind ?? 'any']
    const wind = { wind_m_s: held.value.wind?.wind_m_s ?? 0, from_deg: from }
    held.value = { ...held.value, disc_id: now.disc_id ?? null, disc_name, style, meant, wind }
  },
  { immediate: true },
)
watch(
  () => props.form,
  (now) => {
    if (!now) return
    choose(now.disc_id)
    held.value = { ...held.value, style: now.style, meant: 'flat', power_pct: null, line: null }
  },
)
const tags = ref<ThrowTag[]>([])
const distance = ref<number>()
const left = ref<number>()
const seen = ref<SeenFlight>({})
const standing = ref<'tee' | 'disc'>('tee')
const details = ref(false)

const AT_HAND = 6
/** Discs to tap: those thrown here, the latest first, then what is carried. */
const near = computed(() => {
  const all = discs.data.value ?? []
  const thrown = [...props.log.throws].reverse().map((t) => t.disc_id)
  const carried = (bag.data.value?.carried ?? []).map((c) => c.disc_id)
  const ids = [...new Set([...thrown, ...carried])]
  const shownIds = ids.slice(0, Math.max(AT_HAND, new Set(thrown).size))
  // What is chosen is always seen to be.
  const chosen = held.value.disc_id
  if (chosen != null && !shownIds.includes(chosen)) shownIds.push(chosen)
  return all
    .filter((d) => shownIds.includes(d.id))
    .sort((a, b) => shownIds.indexOf(a.id) - shownIds.indexOf(b.id))
})
const others = computed(() => (discs.data.value ?? []).filter((d) => !near.value.some((n) => n.id === d.id)))
function choose(id: number) {
  const disc = discs.data.value?.find((d) => d.id === id)
  if (disc) held.value = { ...held.value, disc_id: id, disc_name: disc.name }
}
/** Styles of most throws, and the one that is thrown. */
const styles = computed(() => [...new Set<Style>(['backhand', 'forehand', held.value.style])])
const wanted = computed(() => (lines.data.value ?? []).filter((l) => l.enabled))

/** How far to the side it may be told to be. */
const off = computed(() => {
  const far = toSi(distance.value, 'distance')
  const side = toSi(left.value, 'distance')
  return far == null || side == null ? null : offOf(far, side)
})
const tooWide = computed(() => distance.value != null && left.value != null && off.value === null)

function tell(rest: Pick<FieldThrow, 'distance_m' | 'off_deg'>) {
  emit('throw', { ...held.value, ...rest, tags: tags.value, seen: seen.value })
  tags.value = []
  seen.value = {}
  distance.value = undefined
  left.value = undefined
}
const typed = () => tell({ distance_m: toSi(distance.value, 'distance'), off_deg: off.value })
const ranged = (shot: LevelShot) => tell(restOf(shot, props.log.aim_deg, standing.value))
function metered(wind: HandWind) {
  const from_deg = windOffAim(wind.from_deg, props.log.aim_deg) ?? held.value.wind?.from_deg ?? 0
  held.value.wind = { wind_m_s: Math.round(10 * wind.at_10_m_m_s) / 10, from_deg }
}
const toggle = (tag: ThrowTag) =>
  (tags.value = tags.value.includes(tag) ? tags.value.filter((t) => t !== tag) : [...tags.value, tag])
const ready = computed(() => held.value.disc_name !== '')
const sides: readonly [number, string][] = [
  [0, 'ahead'],
  [90, 'the right'],
  [180, 'behind'],
  [270, 'the left'],
]
const windWords = computed(() => {
  const wind = held.value.wind
  if (!wind || wind.wind_m_s === 0) return 'calm'
  return `${shown(units.value, 'speed', wind.wind_m_s, 1)} ${windFrom(wind.from_deg ?? 0)}`
})
</script>

<template>
  <form class="panel" data-test="log-throw" novalidate @submit.prevent="ready && !tooWide && typed()">
    <h2>Throw {{ log.throws.length + 1 }}</h2>
    <p v-if="next" data-test="trial-next">
      The trial’s next: <b>{{ next.disc_name }}</b>,
      {{ [STYLES[next.style], MEANT[next.meant], WAYS[next.wind ?? 'any']].filter(Boolean).join(', ') }}
      <span v-if="next.wind !== 'any'" class="soft"
        >Wherever you turn round, take the aim and the wind anew, below.</span
      >
    </p>
    <fieldset>
      <legend>Disc</legend>
      <div class="taps">
        <button
          v-for="d in near"
          :key="d.id"
          type="button"
          class="tap"
          :aria-pressed="held.disc_id === d.id"
          :data-disc="d.name"
          @click="choose(d.id)"
        >
          <DiscMark :colour="d.colour" :wear="d.wear_share" :size="20" /> {{ d.name }}
        </button>
        <el-select
          :model-value="null"
          filterable
          placeholder="another"
          aria-label="Another disc"
          class="other"
          data-test="throw-other"
          @update:model-value="choose"
        >
          <el-option v-for="d in others" :key="d.id" :value="d.id" :label="d.name" />
        </el-select>
      </div>
    </fieldset>
    <fieldset>
      <legend>Meant</legend>
      <div class="taps">
        <button
          v-for="style in styles"
          :key="style"
          type="button"
          class="tap"
          :aria-pressed="held.style === style"
          :data-style="style"
          @click="held.style = style"
        >
          {{ STYLES[style] }}
        </button>
        <el-select
          :model-value="null"
          placeholder="other"
          aria-label="Another style"
          class="style"
          data-test="other-style"
          @update:model-value="(style: Style) => (held.style = style)"
        >
          <el-option v-for="(label, style) in STYLES" :key="style" :value="style" :label="label" />
        </el-select>
      </div>
      <div class="taps below">
        <button
          v-for="(label, meant) in MEANT"
          :key="meant"
          type="button"
          class="tap"
          :aria-pressed="held.meant === meant"
          :data-meant="meant"
          @click="held.meant = meant"
        >
          {{ label }}
        </button>
      </div>
    </fieldset>
    <fieldset>
      <legend>It came to rest</legend>
      <div class="taps">
        <TakeReading v-if="ready" of="rangefinder" class="whole" @shot="ranged" />
        <label
          ><span>{{ symbol('distance') }} away</span>
          <el-input-number
            v-model="distance"
            :min="0"
            :max="get(FARTHEST_M, 'distance') ?? FARTHEST_M"
            :controls="false"
            inputmode="decimal"
            data-test="throw-distance"
        /></label>
        <label
          ><span>{{ symbol('distance') }} left of the aim (right: −)</span>
          <el-input-number v-model="left" :controls="false" inputmode="decimal" data-test="throw-left"
        /></label>
      </div>
      <div class="taps below">
        <button
          v-for="(label, tag) in TAGS"
          :key="tag"
          type="button"
          class="tap"
          :aria-pressed="tags.includes(tag)"
          :data-tag="tag"
          @click="toggle(tag)"
        >
          {{ label }}
        </button>
        <el-button
          type="primary"
          size="large"
          native-type="submit"
          class="keep"
          :disabled="!ready || tooWide"
          data-test="keep-throw"
          >Keep the throw</el-button
        >
      </div>
      <p v-if="!ready" class="soft">Choose a disc first.</p>
      <p v-if="tooWide" class="wrong" role="alert">It cannot lie farther to the side than it is away.</p>
    </fieldset>
    <details :open="details" @toggle="details = ($event.target as HTMLDetailsElement).open">
      <summary data-test="throw-details">Aim, wind ({{ windWords }}), power, line, what was seen</summary>
      <fieldset>
        <legend>
          The aim
          {{ log.aim_deg == null ? 'is not known: read something straight ahead' : `is ${log.aim_deg}°` }}
        </legend>
        <div class="taps">
          <TakeReading of="rangefinder" aim @shot="emit('aim', Math.round($event.bearing_deg) % 360)" />
          <button
            v-for="from in ['tee', 'disc'] as const"
            :key="from"
            type="button"
            class="tap"
            :aria-pressed="standing === from"
            @click="standing = from"
          >
            I read from the {{ from }}
          </button>
        </div>
      </fieldset>
      <fieldset>
        <legend>Wind at 10 m</legend>
        <div class="taps">
          <TakeReading of="wind_meter" @wind="metered" />
          <label
            ><span>{{ symbol('speed') }}</span>
            <el-input-number
              :model-value="get(held.wind?.wind_m_s, 'speed')"
              :min="0"
              :controls="false"
              data-test="throw-wind"
              @update:model-value="held.wind = { ...held.wind, wind_m_s: toSi($event, 'speed') ?? 0 }"
          /></label>
          <button
            v-for="[deg, label] in sides"
            :key="deg"
            type="button"
            class="tap"
            :aria-pressed="(held.wind?.from_deg ?? 0) === deg"
            @click="held.wind = { wind_m_s: held.wind?.wind_m_s ?? 0, from_deg: deg }"
          >
            from {{ label }}
          </button>
        </div>
      </fieldset>
      <div class="taps fields">
        <label
          ><span>Share of full power, %</span>
          <el-input-number
            :model-value="held.power_pct"
            :min="20"
            :max="110"
            :controls="false"
            placeholder="100"
            data-test="throw-power"
            @update:model-value="held.power_pct = $event ?? null"
        /></label>
        <label
          ><span>For the line</span>
          <el-select v-model="held.line" clearable filterable placeholder="none" data-test="throw-line">
            <el-option v-for="l in wanted" :key="l.key" :value="l.key" :label="l.name" />
          </el-select>
        </label>
        <SeenFields v-model="seen" />
      </div>
    </details>
  </form>
</template>

<style scoped>
fieldset {
  margin: 8px 0 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  color: var(--ink-soft);
}
.taps {
  align-items: end;
}
.below {
  margin-top: 6px;
}
label {
  display: grid;
  gap: 2px;
}
label span {
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number {
  width: 132px;
}
.el-input-number :deep(.el-input__wrapper),
.style :deep(.el-select__wrapper),
.other :deep(.el-select__wrapper) {
  min-height: 48px;
}
.other {
  width: 150px;
}
.style {
  width: 105px;
}
.fields .el-select {
  width: 180px;
}
.fields {
  margin-top: 10px;
}
.whole {
  flex: 1 0 100%;
}
.keep {
  min-height: 48px;
  margin-left: auto;
}
.wrong {
  color: var(--bad);
}
summary {
  min-height: 40px;
  padding-top: 10px;
  cursor: pointer;
}
</style>
