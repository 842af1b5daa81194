<script setup lang="ts">
// Two bags side by side, and what could take the place of each carried disc.
import { computed } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import DifferenceTable from '@/common/DifferenceTable.vue'
import DiscMark from '@/common/DiscMark.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useActions, useBackups, useBag, useBags, useComparison, useDiscs } from '@/api/useData'
import { LEAST_STROKES, figure, strokes } from '@/common/units'
import { useBagChoice } from '@/common/stores/bag'
import { useSelection } from '@/common/stores/selection'

const route = useRoute()
const router = useRouter()
const bags = useBags()
const bag = useBag()
const discs = useDiscs()
const actions = useActions()
const selection = useSelection()
const choice = useBagChoice()

/** Both are part of the address, so that a comparison can be shared and gone back to. */
const asked = (name: 'a' | 'b') => {
  const id = Number(route.query[name])
  return bags.data.value?.some((b) => b.id === id) ? id : undefined
}
const others = computed(() => (bags.data.value ?? []).filter((b) => b.id !== first.value))
const first = computed({
  get: () => asked('a') ?? bag.data.value?.id,
  set: (id) => void router.replace({ query: { ...route.query, a: id } }),
})
const second = computed({
  get: () => {
    const id = asked('b')
    return id !== undefined && id !== first.value ? id : others.value[0]?.id
  },
  set: (id) => void router.replace({ query: { ...route.query, b: id } }),
})
const found = useComparison(
  () => first.value,
  () => second.value,
)
const now = computed(() => found.data.value)
const named = (id: number | undefined) => bags.data.value?.find((b) => b.id === id)?.name ?? ''
const disc = (id: number | null | undefined) => discs.data.value?.find((d) => d.id === id)
const saved = computed(() =>
  now.value ? now.value.first_leaves_strokes - now.value.second_leaves_strokes : 0,
)
const sentence = computed(() =>
  Math.abs(saved.value) < LEAST_STROKES
    ? 'leaves as much as'
    : `${saved.value > 0 ? 'saves' : 'costs'} ${strokes(Math.abs(saved.value))} a round against`,
)
const onlyIn = computed(() =>
  now.value
    ? [
        {
          name: named(first.value),
          ids: now.value.only_first,
          massG: now.value.first_mass_g,
          moulds: now.value.first_moulds,
          mouldsCost: now.value.first_moulds_strokes,
        },
        {
          name: named(second.value),
          ids: now.value.only_second,
          massG: now.value.second_mass_g,
          moulds: now.value.second_moulds,
          mouldsCost: now.value.second_moulds_strokes,
        },
      ]
    : [],
)
const gained = computed(() => now.value?.differences.filter((d) => d.saves_strokes > 0) ?? [])
const lost = computed(() => (now.value?.differences.filter((d) => d.saves_strokes < 0) ?? []).toReversed())
const backups = useBackups(() => first.value)
const spares = computed(() => {
  const list = backups.data.value ?? []
  return {
    list,
    home: list.filter((b) => b.home.length > 0).length,
    copies: list.filter((b) => b.home.length === 0 && b.copies.length > 0).length,
    none: list.filter((b) => b.home.length + b.carried.length + b.copies.length === 0).length,
  }
})
const names = (ids: readonly number[]) => ids.map((id) => disc(id)?.name ?? '').join(', ')

const pack = () =>
  actions.attempt(async () => {
    const made = await take(
      api.POST('/api/bags/{id}/backups', { params: { path: { id: first.value ?? 0 } } }),
    )
    await actions.refresh()
    actions.did(`${made.name} is made: ${made.carried.length} discs`)
    second.value = made.id
  })
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Bags side by side</h1>
        <p class="soft">
          The same shelf, the same lines, the same season: what each bag makes of them.
          <RouterLink to="/">Back to the bag</RouterLink>
        </p>
      </div>
    </div>
    <ProblemNote
      v-if="bags.error.value ?? found.error.value"
      :error="(bags.error.value ?? found.error.value)!"
      @retry="found.refetch()"
    />
    <div v-if="bags.data.value" class="pick">
      <label
        ><span>This bag</span>
        <el-select v-model="first" data-test="first-bag">
          <el-option v-for="b in bags.data.value" :key="b.id" :value="b.id" :label="b.name" />
        </el-select>
      </label>
      <label v-if="others.length"
        ><span>beside</span>
        <el-select v-model="second" data-test="second-bag">
          <el-option v-for="b in others" :key="b.id" :value="b.id" :label="b.name" />
        </el-select>
      </label>
      <el-button
        v-if="second !== undefined"
        data-test="work-on-second"
        @click="((choice.bagId = second), router.push('/'))"
        >Work on {{ named(second) }}</el-button
      >
    </div>
    <p v-if="bags.data.value && others.length === 0" class="panel">
      There is one bag. Copy it with <RouterLink to="/">New bag</RouterLink> and change the copy, or pack a
      bag of backups below; then both stand here side by side.
    </p>
    <p v-else-if="found.isFetching.value" role="status" class="soft" aria-busy="true">
      Judging both over the season…
    </p>
    <template v-if="now && others.length">
      <p class="verdict" data-test="compare-verdict">
        <b>{{ named(second) }}</b>
        {{ sentence }}
        <b>{{ named(first) }}</b>: it leaves {{ figure(now.second_leaves_strokes, 2) }}, the other
        {{ figure(now.first_leaves_strokes, 2) }}.
      </p>
      <div class="two">
        <section v-for="own in onlyIn" :key="own.name" class="panel">
          <h2>Only in {{ own.name }}</h2>
          <p class="soft">
            {{ figure(own.massG / 1000, 2) }} kg of discs in all, {{ own.moulds }} moulds<template
              v-if="own.mouldsCost > 0"
              >, which cost you {{ strokes(own.mouldsCost) }}</template
            >
          </p>
          <button v-for="id in own.ids" :key="id" type="button" class="disc" @click="selection.discId = id">
            <DiscMark v-if="disc(id)" :colour="disc(id)!.colour" :wear="disc(id)!.wear_share" />{{
              disc(id)?.name
            }}
          </button>
          <p v-if="own.ids.length === 0" class="soft">nothing</p>
        </section>
        <section class="panel">
          <h2>In both</h2>
          <p>{{ now.both.length ? names(now.both) : 'nothing' }}</p>
        </section>
      </div>
      <div class="two">
        <section
          v-for="side in [
            { title: `${named(second)} does better`, list: gained, test: 'gained' },
            { title: `${named(first)} does better`, list: lost, test: 'lost' },
          ]"
          :key="side.test"
          class="panel"
          :data-test="side.test"
        >
          <h2>{{ side.title }}</h2>
          <DifferenceTable
            :differences="side.list"
            :first="named(first)"
            :second="named(second)"
            :name="(id) => disc(id)?.name ?? 'nothing'"
          />
        </section>
      </div>
    </template>
    <section class="panel" data-test="backups">
      <h2>If a disc is lost</h2>
      <p class="soft">
        Of {{ spares.list.length }} carried discs {{ spares.home }} have one at home that flies alike,
        {{ spares.copies }} another copy of the mould that flies otherwise by now, {{ spares.none }} nothing
        at all.
      </p>
      <el-button v-if="spares.home + spares.copies > 0" data-test="pack-backups" @click="pack"
        >Pack a bag of backups</el-button
      >
      <div class="scroll" tabindex="0" role="region" aria-label="Stand-ins">
        <table class="figures">
          <thead>
            <tr>
              <th scope="col">Carried</th>
              <th scope="col">flies alike in the bag</th>
              <th scope="col">flies alike at home</th>
              <th scope="col">another copy at home</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="b in spares.list" :key="b.disc_id">
              <th scope="row">
                <button type="button" class="disc" @click="selection.discId = b.disc_id">
                  <DiscMark
                    v-if="disc(b.disc_id)"
                    :colour="disc(b.disc_id)!.colour"
                    :wear="disc(b.disc_id)!.wear_share"
                  />{{ disc(b.disc_id)?.name }}
                </button>
              </th>
              <td>{{ names(b.carried) || '–' }}</td>
              <td>{{ names(b.home) || '–' }}</td>
              <td>{{ names(b.copies) || '–' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  align-items: end;
  margin-bottom: 12px;
}
.pick label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.pick .el-select {
  width: 220px;
}
.verdict {
  margin-bottom: 12px;
  font-size: 18px;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
  gap: 0 14px;
  align-items: start;
}
.disc {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}
.disc :deep(svg) {
  flex: none;
}
.disc:hover {
  text-decoration: underline;
}
.scroll {
  overflow-x: auto;
  margin-top: 8px;
}
</style>
