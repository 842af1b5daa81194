<script setup lang="ts">
// The computer proposes: wishes on the left, the best bag under them and what there is to know about it on the right.
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import {
  type BuilderPart,
  useActions,
  useBag,
  useBags,
  useBuilder,
  useBuilderProgress,
  useDiscs,
  usePlayer,
  useSettled,
} from '@/api/useData'
import NearBags from '@/build/NearBags.vue'
import ProposedBag from '@/build/ProposedBag.vue'
import SchoolBags from '@/build/SchoolBags.vue'
import SizesPlot from '@/build/SizesPlot.vue'
import ToBuy from '@/build/ToBuy.vue'
import WishForm from '@/build/WishForm.vue'
import WishPrices from '@/build/WishPrices.vue'
import { asWishes, countWishes, type Form, freeName, keptForm, newForm } from '@/common/wishes'
import ProblemNote from '@/common/ProblemNote.vue'
import { useBagChoice } from '@/common/stores/bag'
import { LEAST_STROKES, figure, strokes } from '@/common/units'
import { useInQuery } from '@/common/useInQuery'
import { useKeptWishes } from '@/common/useKeptWishes'
import { useOnce } from '@/common/useOnce'

const bag = useBag()
const bags = useBags()
const discs = useDiscs()
const player = usePlayer()
const actions = useActions()
const choice = useBagChoice()
const router = useRouter()

/** On a phone the answer comes first. */
const narrow = useMediaQuery('(max-width: 1000px)')
const folded = ref(true)

const start = computed(() => newForm(bag.data.value ?? { capacity: 25 }))
const kept = useKeptWishes()
const form = ref<Form>(start.value)
watch(
  () => bag.data.value?.id,
  (id) => (form.value = keptForm(kept.value[id ?? 0], start.value)),
  { immediate: true },
)
watch(form, (now) => bag.data.value && (kept.value = { ...kept.value, [bag.data.value.id]: now }), {
  deep: true,
})
const wished = computed(() => countWishes(form.value, start.value))
function forget() {
  form.value = start.value
}

const there = computed(() => new Set(discs.data.value?.filter((d) => d.at_hand).map((d) => d.id)))
const wishes = useSettled(() =>
  bag.data.value && discs.data.value ? asWishes(form.value, (id) => there.value.has(id)) : undefined,
)
const view = useInQuery('view', ['bag', 'sizes', 'prices', 'near', 'shopping', 'schools'])
const VIEWS: Record<typeof view.value, string> = {
  bag: 'The bag',
  sizes: 'How many discs',
  prices: 'What wishes cost',
  near: 'As good as',
  shopping: 'What to look for',
  schools: 'By school',
}
const built = useBuilder(
  () => wishes.value,
  (part: BuilderPart) => part === 'proposal' || part === view.value,
)
const { proposal } = built
const shown = computed(() => (view.value === 'bag' ? proposal : built[view.value]))
const busy = computed(() => proposal.isFetching.value || shown.value.isFetching.value)
const progress = useBuilderProgress(() => busy.value)
const now = computed(() => proposal.data.value)
const isUnanswered = ({ data, error, isPlaceholderData }: (typeof built)['proposal' | 'near']) =>
  !error.value && (data.value === undefined || isPlaceholderData.value)
const isStopped = computed(
  () =>
    !busy.value &&
    wishes.value !== undefined &&
    (isUnanswered(proposal) || isUnanswered(shown.value as typeof proposal)),
)
function goOn() {
  if (isUnanswered(proposal)) void proposal.refetch()
  if (isUnanswered(shown.value as typeof proposal)) void shown.value.refetch()
}
const error = computed(() => proposal.error.value ?? shown.value.error.value)
const saves = computed(() => (now.value ? now.value.against.leaves_strokes - now.value.leaves_strokes : 0))
const own = computed(() => now.value?.discs.filter((id) => id > 0) ?? [])
const name = (id: number | null | undefined) =>
  discs.data.value?.find((d) => d.id === id)?.name ??
  now.value?.bought.find((b) => b.disc_id === id)?.name ??
  'nothing'

const { busy: making, run: make } = useOnce(() =>
  actions.attempt(async () => {
    if (!bag.data.value || !now.value) return
    const taken = bags.data.value?.map((b) => b.name) ?? []
    const made = await take(
      api.POST('/api/bags', {
        body: {
          name: freeName(`${bag.data.value.name}, built`.slice(0, 56), taken),
          capacity: form.value.capacity,
          event_cap_g: form.value.event_cap_g,
          carried: own.value.map((disc_id) => ({ disc_id, spare: false })),
        },
      }),
    )
    await actions.refresh()
    choice.bagId = made.id
    actions.did(`${made.name} is made: ${made.carried.length} discs`)
    await router.push('/')
  }),
)
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Build</h1>
        <p class="soft">
          Of all bags your shelf has, the one that leaves the fewest strokes over the season, with proof.
        </p>
      </div>
      <el-button v-if="wished > 0" data-test="forget" @click="forget"
        >Take back {{ wished === 1 ? 'one wish' : `${wished} wishes` }}</el-button
      >
    </div>
    <ProblemNote v-if="error" :error="error" @retry="shown.refetch()" />
    <p v-if="discs.data.value?.length === 0" class="panel">
      The shelf is empty: there is nothing to choose from.
      <RouterLink to="/walk">Take the walk</RouterLink> or <RouterLink to="/shelf">add discs</RouterLink>.
    </p>
    <div v-else class="desk">
      <section class="panel wished" aria-label="What you wish">
        <button
          v-if="narrow"
          type="button"
          class="fold"
          :aria-expanded="!folded"
          data-test="wishes-fold"
          @click="folded = !folded"
        >
          Wishes<template v-if="wished"> ({{ wished }})</template>
          <span aria-hidden="true">{{ folded ? '▾' : '▴' }}</span>
        </button>
        <WishForm
          v-show="!narrow || !folded"
          v-if="player.data.value && discs.data.value"
          v-model="form"
          :discs="discs.data.value"
          :lanes="now?.board.lanes.map((l) => l.slot) ?? []"
          :taste="player.data.value.habits?.mould_strokes ?? 0"
        />
      </section>
      <section class="answer" :aria-busy="busy" aria-label="The best bag">
        <div class="verdict">
          <div class="grow">
            <p v-if="now && now.discs.length > 0" class="value" data-test="build-verdict">
              <b>{{ now.discs.length }} discs</b> leave <b>{{ figure(now.leaves_strokes, 2) }}</b> strokes a
              round over the season;
              <template v-if="Math.abs(saves) < LEAST_STROKES">as many as</template>
              <template v-else
                >{{ strokes(Math.abs(saves)) }} {{ saves > 0 ? 'fewer' : 'more' }} than</template
              >
              {{ bag.data.value?.name }} of {{ bag.data.value?.carried.length }}.
            </p>
            <p v-else-if="now" class="value" data-test="build-verdict">
              <b>No bag keeps every wish.</b> What wishes cost says which one to give up.
            </p>
            <p v-if="now && now.discs.length > 0" class="soft" data-test="build-proof">
              <template v-if="now.is_proven"
                >Proven: no other bag under these wishes is better by
                {{
                  now.doubt_strokes < 0.001 ? 'a thousandth of a stroke' : strokes(now.doubt_strokes)
                }}.</template
              >
              <template v-else
                >The best found in the time there was; one could be
                {{ strokes(now.doubt_strokes) }} better.</template
              >
              {{ now.moulds }} moulds, {{ figure(now.mass_g / 1000, 1) }} kg<template
                v-if="now.taste_strokes >= LEAST_STROKES"
                >; by your taste moulds and discs cost {{ strokes(now.taste_strokes) }} more</template
              >.
            </p>
            <p v-for="u in now?.unmet ?? []" :key="u" class="unmet">Cannot be met: {{ u }}.</p>
          </div>
          <el-button
            type="primary"
            :loading="making"
            :disabled="own.length === 0 || proposal.isPlaceholderData.value"
            data-test="make-bag"
            @click="make"
            >{{
              now?.bought.length ? 'Make it a bag, without what is to be bought' : 'Make it a bag'
            }}</el-button
          >
        </div>
        <p class="status soft">
          <span role="status">{{ busy ? progress : isStopped ? 'The search was stopped.' : '' }}</span>
          <el-button v-if="busy" data-test="build-stop" @click="built.stop()">Stop</el-button>
          <el-button v-else-if="isStopped" data-test="build-go" @click="goOn">Go on</el-button>
        </p>
        <el-radio-group v-model="view" class="views" aria-label="What to see" data-test="build-view">
          <el-radio-button v-for="(label, key) in VIEWS" :key="key" :value="key">{{ label }}</el-radio-button>
        </el-radio-group>
        <template v-if="now">
          <ProposedBag
            v-if="view === 'bag'"
            :proposal="now"
            :name="name"
            :bag="bag.data.value?.name ?? 'the bag'"
          />
          <SizesPlot
            v-else-if="view === 'sizes' && built.sizes.data.value"
            :curve="built.sizes.data.value"
            :name="name"
          />
          <WishPrices
            v-else-if="view === 'prices' && built.prices.data.value"
            :prices="built.prices.data.value"
            :name="name"
          />
          <NearBags
            v-else-if="view === 'near' && built.near.data.value"
            :ties="built.near.data.value"
            :name="name"
          />
          <ToBuy
            v-else-if="view === 'shopping' && built.shopping.data.value"
            :discs="built.shopping.data.value"
          />
          <SchoolBags
            v-else-if="view === 'schools' && built.schools.data.value"
            :schools="built.schools.data.value"
            :name="name"
          />
        </template>
      </section>
    </div>
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-columns: 288px minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.fold {
  display: flex;
  justify-content: space-between;
  width: 100%;
  min-height: 40px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-weight: 650;
  cursor: pointer;
}
.verdict {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
}
.grow {
  flex: 1 1 340px;
}
.value {
  font-size: 17px;
}
.unmet {
  font-weight: 650;
}
.status {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 46px;
}
.views {
  margin-bottom: 10px;
}
@media (max-width: 1000px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
:global(.with-panel .desk) {
  grid-template-columns: minmax(0, 1fr);
}
</style>
