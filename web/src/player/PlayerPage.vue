<script setup lang="ts">
import { computed } from 'vue'
import type { Player } from '@/api/client'
import ArmEvidence from '@/player/ArmEvidence.vue'
import ArmFields from '@/player/ArmFields.vue'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import FeelTable from '@/player/FeelTable.vue'
import ScatterTable from '@/player/ScatterTable.vue'
import SchoolFields from '@/player/SchoolFields.vue'
import StyleFields from '@/player/StyleFields.vue'
import { usePlayerForm } from '@/player/form'
import { type Quantity, unit } from '@/common/units'

const { stored, form, habits, save, settle, problem, clashes } = usePlayerForm()

interface Field {
  key: 'altitude_m' | 'temperature_c'
  label: string
  quantity: Quantity
}
const HOME: readonly Field[] = [
  { key: 'altitude_m', label: 'Altitude at home', quantity: 'distance' },
  { key: 'temperature_c', label: 'Usual temperature', quantity: 'temperature' },
]

type Season = NonNullable<Player['season']>
const WINDINESS: Record<NonNullable<Season['windiness']>, string> = {
  sheltered: 'sheltered: woods, a valley',
  ordinary: 'ordinary',
  open: 'open: fields, hills',
  coast: 'the coast or a moor',
}
const PREVAILING: Record<NonNullable<Season['prevailing']>, string> = {
  none: 'from every side',
  ahead: 'from ahead',
  behind: 'from behind',
  left: 'from the left',
  right: 'from the right',
}
const CALM_SEASON = { windiness: 'ordinary', prevailing: 'none', wet_share: 0 } as const
const season = computed<Season>({
  get: () => form.value?.season ?? CALM_SEASON,
  set: (value) => {
    if (form.value) form.value.season = value
  },
})
const say = (part: Partial<Season>) => (season.value = { ...season.value, ...part })

const units = computed(() => form.value?.units ?? 'metric')
const get = (si: number, quantity: Quantity) => Math.round(10 * unit(units.value, quantity).toShown(si)) / 10
</script>

<template>
  <div class="page narrow">
    <div class="page-head">
      <div class="grow">
        <h1>Player</h1>
        <p class="soft">
          Your arm speed follows from how far you throw under control; every disc on every screen is flown at
          it.
        </p>
      </div>
    </div>
    <ProblemNote v-if="stored.error.value" :error="stored.error.value" @retry="stored.refetch()" />
    <form v-if="form" novalidate @submit.prevent="save">
      <section>
        <h2>The arm</h2>
        <label
          ><span>Name</span><el-input v-model="form.name" maxlength="60" data-test="player-name"
        /></label>
        <ArmFields v-model="form" />
        <label v-for="n in HOME" :key="n.key">
          <span>{{ n.label }}, {{ unit(units, n.quantity).symbol }}</span>
          <el-input-number
            :model-value="get(form[n.key], n.quantity)"
            controls-position="right"
            :data-test="`player-${n.key}`"
            @update:model-value="form[n.key] = unit(units, n.quantity).toSi($event ?? 0)"
          />
        </label>
      </section>
      <section v-if="stored.data.value">
        <div class="wide">
          <h2>How fast the arm is</h2>
          <p class="soft">
            The drives above are enough. What else you know makes it surer: how far another slot goes, or a
            speed that someone measured.
          </p>
        </div>
        <ArmEvidence
          class="wide"
          :model-value="form.evidence ?? []"
          :arms="stored.data.value.arms"
          :units="units"
          @update:model-value="form.evidence = $event"
        />
      </section>
      <section v-if="stored.data.value">
        <div class="wide">
          <h2>How far one throw differs from the next</h2>
          <p class="soft">
            Standard deviations of the release at three quarters of full power; near full power they grow, on
            weak footing and with slick wet plastic too. Chances are shares of this scatter.
          </p>
        </div>
        <ScatterTable
          class="wide"
          :model-value="form.scatter ?? []"
          :used="stored.data.value.scatter_used"
          @update:model-value="form.scatter = $event"
        />
      </section>
      <section>
        <h2>Styles</h2>
        <StyleFields v-model:habits="habits" :strong="form.strong_style" />
      </section>
      <section>
        <div class="wide">
          <h2>What feels right in the hand</h2>
          <p class="soft">
            Leave open what does not matter to you. A disc whose rim is more than 0.1 cm off, or that differs
            otherwise, is flagged on the shelf and in the walk; it is never forbidden. Measures come from your
            <RouterLink to="/shelf/moulds">moulds</RouterLink>.
          </p>
        </div>
        <FeelTable
          class="wide"
          :model-value="habits.feel"
          @update:model-value="habits = { ...habits, feel: $event }"
        />
      </section>
      <section>
        <div class="wide">
          <h2>The weather of your season</h2>
          <p class="soft">
            What to carry is judged over this mix: calm, and wind from ahead, behind, left and right. The
            dials on the bag are for today.
          </p>
        </div>
        <label>
          <span>Home is</span>
          <el-select
            :model-value="season.windiness"
            data-test="player-windiness"
            @update:model-value="say({ windiness: $event })"
          >
            <el-option v-for="(label, value) in WINDINESS" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Wind mostly comes</span>
          <el-select
            :model-value="season.prevailing"
            data-test="player-prevailing"
            @update:model-value="say({ prevailing: $event })"
          >
            <el-option v-for="(label, value) in PREVAILING" :key="value" :value="value" :label="label" />
          </el-select>
        </label>
        <label>
          <span>Throws in the wet, %</span>
          <el-input-number
            :model-value="Math.round(100 * (season.wet_share ?? 0))"
            :min="0"
            :max="90"
            controls-position="right"
            data-test="player-wet"
            @update:model-value="say({ wet_share: ($event ?? 0) / 100 })"
          />
        </label>
      </section>
      <section class="roomy">
        <h2>The school</h2>
        <SchoolFields v-model="form" v-model:habits="habits" />
      </section>
      <FormProblem :problem="problem" />
      <ClashNote :clashes="clashes" @settle="settle" />
      <el-button type="primary" native-type="submit" data-test="player-save">Save</el-button>
      <p class="soft caution">
        Warm up before full throws, build forehand up slowly, and stop when something hurts. This is no
        medical or coaching advice.
      </p>
    </form>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 860px;
}
section {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 14px 22px;
  padding: 14px 18px 18px;
  margin-bottom: 14px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-top: 2px solid var(--ink);
}
.roomy {
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 360px), 1fr));
}
h2,
.wide {
  grid-column: 1 / -1;
}
label > span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
.el-input-number,
.el-select {
  width: 100%;
}
.caution {
  margin-top: 14px;
}
</style>
