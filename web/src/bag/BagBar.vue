<script setup lang="ts">
// Which bag, what it may hold, and the ways to make, copy, change and delete one.
import { computed, ref, watch } from 'vue'
import { api, asProblem, type Bag, type BagSpec, type Board, type ProblemError, take } from '@/api/client'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
import { useOpenThing } from '@/common/useOpenThing'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions, useBags } from '@/api/useData'
import { figure, strokes } from '@/common/units'
import { useBagChoice } from '@/common/stores/bag'

const props = defineProps<{ bag: Bag; board: Board | undefined }>()
const bags = useBags()
const choice = useBagChoice()
const actions = useActions()

/** "settings" or "new", as the address has it. */
const dialog = useOpenThing('bag')
const open = computed({ get: () => dialog.value !== null, set: (on) => !on && (dialog.value = null) })
const isNew = computed(() => dialog.value === 'new')
const copies = ref(true)
const form = ref<BagSpec>({ name: '', capacity: 25, event_cap_g: null })
const problem = ref<ProblemError | null>(null)

const chosen = computed({ get: () => props.bag.id, set: (id: number) => (choice.bagId = id) })
const over = computed(() => props.bag.carried.length > props.bag.capacity)
const specOf = ({ name, capacity, event_cap_g }: Bag): BagSpec => ({
  name,
  capacity,
  event_cap_g: event_cap_g ?? null,
})

function begin() {
  form.value = { ...specOf(props.bag), ...(isNew.value ? { name: '' } : {}) }
  problem.value = null
  saving.begin(specOf(props.bag), props.bag.etag)
}

async function make(spec: BagSpec, carried: Bag['carried']) {
  const made = await take(api.POST('/api/bags', { body: { ...spec, carried } }))
  await actions.refresh()
  choice.bagId = made.id
  return made
}

const saving = useSaving<BagSpec>(async (body, etag) => {
  const params = { path: { id: props.bag.id }, header: ifMatch(etag) }
  await take(api.PUT('/api/bags/{id}', { params, body }))
  await actions.refresh()
})
const { clashes } = saving
watch(dialog, (now) => now !== null && begin(), { immediate: true })

function saved(done: boolean) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`${form.value.name} is saved${saving.kept.value}`)
  close()
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

const { busy, run: save } = useOnce(async () => {
  problem.value = null
  if (!isNew.value) return saved(await saving.save(form.value))
  try {
    const made = await make(form.value, copies.value ? props.bag.carried : [])
    actions.did(`${made.name} is made`)
    close()
  } catch (error) {
    problem.value = asProblem(error)
  }
})

const { guard, close } = useGuarded(open, () => form.value)

async function remove() {
  const gone = props.bag
  problem.value = null
  try {
    const params = { path: { id: gone.id }, header: ifMatch(gone.etag) }
    await take(api.DELETE('/api/bags/{id}', { params }))
    choice.bagId = null
    await actions.refresh()
    actions.did(`${gone.name} is deleted`)
    close()
  } catch (error) {
    problem.value = asProblem(error)
  }
}
</script>

<template>
  <div class="bar">
    <el-select
      v-if="(bags.data.value?.length ?? 0) > 1"
      v-model="chosen"
      class="choice"
      aria-label="Bag"
      data-test="bag-choice"
    >
      <el-option v-for="b in bags.data.value" :key="b.id" :value="b.id" :label="b.name" />
    </el-select>
    <p class="holds" data-test="bag-limits">
      <b :class="{ over }">{{ bag.carried.length }}</b> of {{ bag.capacity }} discs<template
        v-if="bag.event_cap_g"
        >, each up to {{ figure(bag.event_cap_g) }} g</template
      ><template v-if="board && board.mass_g > 0"
        >; {{ figure(board.mass_g / 1000, 1) }} kg,
        <span
          :title="
            board.moulds_strokes > 0
              ? `by your own dial they cost ${strokes(board.moulds_strokes)} a round`
              : undefined
          "
          >{{ board.moulds }} mould{{ board.moulds === 1 ? '' : 's' }}</span
        ></template
      >
      <span class="views"
        ><RouterLink to="/bags" data-test="to-bags">Compare</RouterLink>
        <RouterLink to="/ladder" data-test="to-ladder">Distances</RouterLink></span
      >
    </p>
    <el-button data-test="bag-edit" @click="dialog = 'settings'">Bag settings</el-button>
    <el-button data-test="bag-new" @click="dialog = 'new'">New bag</el-button>
    <el-dialog
      v-model="open"
      :title="isNew ? 'New bag' : `Settings of ${bag.name}`"
      width="440px"
      append-to-body
      :before-close="guard"
      :close-on-click-modal="false"
    >
      <form @submit.prevent="save">
        <label data-needed
          ><span>Name</span><el-input v-model="form.name" name="name" maxlength="60" data-test="bag-name"
        /></label>
        <label>
          <span>Discs it holds</span>
          <el-input-number
            v-model="form.capacity"
            :min="1"
            :max="60"
            controls-position="right"
            data-test="capacity"
          />
        </label>
        <label>
          <span>Heaviest disc the event allows, g</span>
          <el-input-number
            v-model="form.event_cap_g"
            :min="100"
            :max="220"
            controls-position="right"
            placeholder="no cap"
            data-test="cap"
          />
        </label>
        <el-checkbox v-if="isNew" v-model="copies">Start with the discs of {{ bag.name }}</el-checkbox>
        <FormProblem :problem="problem" />
        <ClashNote :clashes="clashes" @settle="settle" />
        <div class="acts">
          <el-button v-if="!isNew" class="left" data-test="bag-delete" @click="remove"
            >Delete this bag</el-button
          >
          <el-button @click="close">Cancel</el-button>
          <el-button type="primary" native-type="submit" :loading="busy" data-test="bag-save">{{
            isNew ? 'Make it' : 'Save'
          }}</el-button>
        </div>
      </form>
    </el-dialog>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
}
.bar > .el-button {
  margin-left: 0;
}
.choice {
  width: 170px;
}
.views a {
  display: inline-block;
  padding: 8px 6px;
}
.over {
  color: var(--bad);
}
form {
  display: grid;
  gap: 12px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.el-input-number {
  width: 100%;
}
.acts {
  display: flex;
  justify-content: flex-end;
}
.left {
  margin-right: auto;
}
</style>
