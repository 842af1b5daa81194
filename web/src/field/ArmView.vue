<script setup lang="ts">
// What an arm really does in a style, as its throws say, and whether its chances are honest.
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { type FoundOfArm, type MeasuredDistance, type Player, type Style } from '@/api/client'
import { useActions, usePlayer, useUnits } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { figure, unit } from '@/common/units'
import { useInQuery } from '@/common/useInQuery'
import { useOnce } from '@/common/useOnce'
import HonestPlot from '@/field/HonestPlot.vue'
import SureBar from '@/field/SureBar.vue'
import { useFoundArm } from '@/field/useField'
import { STYLES } from '@/lines/line'

const ARMS = ['backhand', 'forehand', 'thumber', 'tomahawk'] as const satisfies readonly Style[]
const actions = useActions()
const units = useUnits()
const player = usePlayer()
const style = useInQuery('style', [...ARMS])
const arms = computed(() => (player.data.value?.overhand_m == null ? ARMS.slice(0, 2) : ARMS))
const query = useFoundArm(() => style.value)
const arm = computed(() => (query.data.value?.found.style === style.value ? query.data.value : undefined))
interface Row {
  name: string
  says: FoundOfArm
  shown: (value: number) => string
}
const times = (value: number) => `${figure(value, 2)} ×`
const rows = computed((): Row[] => {
  const found = arm.value?.found
  return found
    ? [
        {
          name: `speed, ${unit(units.value, 'speed').symbol}`,
          says: found.speed_m_s,
          shown: (value) => figure(unit(units.value, 'speed').toShown(value), 1),
        },
        { name: 'scatter along: speed, launch, nose', says: found.along_times, shown: times },
        { name: 'scatter to the sides: hyzer, aim', says: found.side_times, shown: times },
      ]
    : []
})
/** The bar reaches from a half to twice of what was told; of a speed, a fifth either way. */
const place = (row: Row) => (value: number) =>
  Math.log(value / row.says.told) / Math.log(row.says === arm.value?.found.speed_m_s ? 1.2 : 2)

const length = (m: number) => figure(unit(units.value, 'distance').toShown(m), 0)
/** Whether a disc goes surely farther or less far than expected. */
function isFar({ measured_m: { sd, n, mean }, expected_m }: MeasuredDistance) {
  const apart = Math.abs(mean - expected_m)
  return n > 2 && sd != null && apart > (2 * sd) / Math.sqrt(n) && apart > 2
}
const off = ({ measured_m: { mean }, expected_m }: MeasuredDistance) =>
  `goes ${length(Math.abs(mean - expected_m))} ${mean > expected_m ? 'farther' : 'less'}`
/** Whether anything was surely found to be otherwise than told. */
const differs = computed(() => rows.value.some(({ says }) => says.low > says.told || says.high < says.told))

/** What of a player an arm is told by. */
const toldBy = ({ backhand_m, forehand_m, overhand_m, evidence, scatter }: Player) => ({
  backhand_m,
  forehand_m,
  overhand_m,
  evidence,
  scatter,
})
const { busy, run: takeOver } = useOnce(async () => {
  const found = arm.value?.found
  if (!found) return
  const label = `Your ${STYLES[found.style]} is told as its throws say from now on`
  await actions.tellPlayer(label, (now) => ({ ...now, ...toldBy(found.as_found) }))
})
const { busy: scattering, run: takeScatter } = useOnce(async () => {
  const honest = arm.value?.honest
  if (!honest) return
  const label = `Your ${STYLES[style.value]} scatters as its chances say from now on`
  await actions.tellPlayer(label, (now) => ({ ...now, scatter: honest.as_found.scatter }))
})
</script>

<template>
  <div>
    <el-radio-group v-model="style" class="styles" aria-label="Style" data-test="arm-style">
      <el-radio-button v-for="s in arms" :key="s" :value="s">{{ STYLES[s] }}</el-radio-button>
    </el-radio-group>
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <p v-else-if="!arm" class="soft" role="status">Throwing it with every arm it may be…</p>
    <div v-if="arm" class="two">
      <section class="panel" data-test="found-arm">
        <h2>What your {{ STYLES[arm.found.style] }} really does</h2>
        <p data-test="arm-words">{{ arm.found.words }}</p>
        <table class="figures">
          <thead>
            <tr>
              <th scope="col"><span class="visually-hidden">what</span></th>
              <th scope="col" class="number">told</th>
              <th scope="col" class="number">found</th>
              <th scope="col" class="number">in 9 of 10 cases</th>
              <th scope="col" class="wide"><span class="visually-hidden">drawn</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td class="number">{{ row.shown(row.says.told) }}</td>
              <td class="number">
                <b>{{ row.shown(row.says.found) }}</b>
              </td>
              <td class="number">{{ row.shown(row.says.low) }} to {{ row.shown(row.says.high) }}</td>
              <td class="wide"><SureBar :figure="row.says" :place="place(row)" /></td>
            </tr>
          </tbody>
        </table>
        <p class="soft">
          From {{ arm.found.used === 1 ? '1 full throw' : `${arm.found.used} full throws` }} with
          {{ arm.found.discs === 1 ? '1 disc' : `${arm.found.discs} discs`
          }}<template v-if="arm.found.left_out"
            >; {{ arm.found.left_out }} more were held back, for a line or a target, not measured with their
            side, slipped, hit something, were of a disc that is gone, far off all others or older than a
            year</template
          >.
        </p>
        <el-button
          v-if="arm.found.used"
          :type="arm.found.is_enough && differs ? 'primary' : ''"
          :loading="busy"
          data-test="take-over-arm"
          @click="takeOver"
          >Tell it so on the Player screen</el-button
        >
      </section>
      <section class="panel honest" data-test="honest">
        <h2>Are the chances honest?</h2>
        <p data-test="honest-words">{{ arm.honest.words }}</p>
        <HonestPlot v-if="arm.honest.bins.length" :bins="arm.honest.bins" />
        <p v-if="arm.honest.bins.length" class="soft">
          {{ arm.honest.in_rounds }} of rounds, {{ arm.honest.in_field }} for a line in the field. A dot on
          the slanted stroke is an honest chance; nine in ten of such bars reach the truth.
        </p>
        <p v-if="arm.honest.is_off" class="soft">
          To change it so that they are honest: let your {{ STYLES[arm.found.style] }} scatter
          {{ figure(arm.honest.scatter_times.found, 1) }} times as much on the Player screen. Where measured
          throws tell the same, take those over instead: they say in which direction.
        </p>
        <el-button
          v-if="arm.honest.is_off"
          type="primary"
          :loading="scattering"
          data-test="take-over-scatter"
          @click="takeScatter"
          >Let it scatter so</el-button
        >
      </section>
      <section class="panel" data-test="arm-distances">
        <h2>Distances against the ladder</h2>
        <p v-if="arm.found.distances.length === 0" class="soft">
          No flat full {{ STYLES[arm.found.style] }} of a disc of your shelf is measured yet.
        </p>
        <div v-else class="scroll">
          <table class="figures">
            <thead>
              <tr>
                <th scope="col">disc</th>
                <th scope="col" class="number wide">throws</th>
                <th scope="col" class="number">measured, {{ unit(units, 'distance').symbol }}</th>
                <th scope="col" class="number">expected of them</th>
                <th scope="col" class="number">ladder</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="d in arm.found.distances" :key="d.disc_id" :data-distance="d.disc_name">
                <th scope="row">
                  <RouterLink :to="`/field?disc-season=${d.disc_id}`">{{ d.disc_name }}</RouterLink>
                </th>
                <td class="number wide">{{ d.measured_m.n }}</td>
                <td class="number">
                  <b>{{ length(d.measured_m.mean) }}</b><template v-if="d.measured_m.sd != null">
                    ± {{ length(d.measured_m.sd) }}</template
                  >
                </td>
                <td class="number">
                  {{ length(d.expected_m) }}<small v-if="isFar(d)"><br />{{ off(d) }}</small>
                </td>
                <td class="number">{{ length(d.ladder_m) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <p v-if="arm.found.distances.length" class="soft">
          Expected: just these throws, in the wind of each, to where they come to rest, with the arm as you
          told it. <RouterLink to="/ladder">The ladder</RouterLink> has calm air and the first touch.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.styles {
  margin-bottom: 10px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0 14px;
  align-items: start;
}
table {
  margin: 8px 0;
}
.number {
  white-space: nowrap;
}
.scroll {
  overflow-x: auto;
}
@media (min-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 7fr) minmax(0, 5fr);
    grid-template-rows: auto 1fr;
  }
  .honest {
    grid-row: span 2;
    grid-column: 2;
  }
}
@media (max-width: 600px) {
  .wide {
    display: none;
  }
}
</style>
