<script setup lang="ts">
import { useUsualLines } from '@/lines/useUsualLines'
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import {
  api,
  asProblem,
  type Line,
  type LineSpec,
  type LineVerdict,
  type ProblemError,
  type Style,
  take,
} from '@/api/client'
import { useGuarded } from '@/common/useGuarded'
import { useOnce } from '@/common/useOnce'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import { useSaving } from '@/api/saving'
import { ifMatch, useActions } from '@/api/useData'
import { SLOTS } from '@/common/disc'
import { STYLES } from '@/lines/line'
import LineDesk from '@/lines/LineDesk.vue'

const props = defineProps<{ line: LineVerdict['line'] | null }>()
const open = defineModel<boolean>({ required: true })

const actions = useActions()
const problem = ref<ProblemError | null>(null)

const usual = useUsualLines()
const usually = (style: Style) => usual.data.value?.find((l) => l.style === style)
const copy = <T,>(x: T): T => JSON.parse(JSON.stringify(x)) as T

const spec = ref<LineSpec>()
/** What of a line the form holds. */
function specOf(line: Line): LineSpec {
  const { key: _key, generated: _generated, enabled: _enabled, spared: _spared, etag: _etag, ...given } = line
  return { ...copy(given as LineSpec), gates: copy(given.gates ?? []) }
}
/** The line as it is now; what a judgement shows of it may be older. */
const stored = useQuery({
  queryKey: ['line', computed(() => props.line?.key)],
  queryFn: () => take(api.GET('/api/lines/{key}', { params: { path: { key: props.line?.key ?? '' } } })),
  enabled: computed(() => open.value && props.line !== null),
  staleTime: 0,
  gcTime: 0,
})
const saving = useSaving<LineSpec>(async (body, etag) => {
  const params = { path: { key: props.line?.key ?? '' }, header: ifMatch(etag) }
  await take(api.PUT('/api/lines/{key}', { params, body }))
  await actions.refresh()
})
const { clashes } = saving
watch(
  [open, () => usual.data.value, () => stored.data.value],
  ([now, usuals, line]) => {
    if (!now) spec.value = undefined
    else if (!spec.value && usuals) {
      problem.value = null
      if (!props.line) {
        const start = usually('backhand')
        spec.value = start && { ...copy(start), gates: copy(start.gates ?? []) }
      } else if (line?.key === props.line.key) {
        spec.value = specOf(line)
        saving.begin(spec.value, line.etag)
      }
    }
  },
  { immediate: true },
)

const { guard, close } = useGuarded(open, () => spec.value)

/** Another way of throwing wants other angles; one that is usually thrown alike keeps what was typed. */
function setStyle(style: Style) {
  const [now, before] = [usually(style), spec.value && usually(spec.value.style)]
  if (!spec.value || !now || !before) return
  const part: Record<string, unknown> = {}
  for (const [key, value] of Object.entries(now))
    if (JSON.stringify(value) !== JSON.stringify(before[key as keyof LineSpec])) part[key] = value
  spec.value = { ...spec.value, ...part, style }
}

function saved(done: boolean) {
  problem.value = saving.problem.value
  if (!done) return
  actions.did(`${spec.value?.name ?? 'The line'} is saved${saving.kept.value}`)
  close()
}
const settle = async (whose: 'mine' | 'theirs') => saved(await saving.settle(whose))

const { busy, run: save } = useOnce(async () => {
  problem.value = null
  const body = spec.value
  if (!body) return
  if (props.line) return saved(await saving.save(body))
  await add(body)
})

async function add(body: LineSpec) {
  try {
    const added = await take(api.POST('/api/lines', { body }))
    await actions.refresh()
    actions.did(`${added.name} is added`)
    close()
  } catch (error) {
    problem.value = asProblem(error)
  }
}

/** A line of its own like this one, the one it was made from left as it is stored. */
const { busy: copying, run: saveCopy } = useOnce(async () => {
  problem.value = null
  const body = spec.value && { ...spec.value, name: `${spec.value.name.slice(0, 73)}, copy` }
  if (body) await add(body)
})

async function remove() {
  const line = props.line
  const etag = saving.seen.value?.etag
  if (!line || !etag) return
  const done = await actions.attempt(async () => {
    const params = { path: { key: line.key }, header: ifMatch(etag) }
    await take(api.DELETE('/api/lines/{key}', { params }))
    await actions.refresh()
    actions.did(line.key.startsWith('own-') ? `${line.name} is deleted` : `${line.name} is as it came`)
  })
  if (done) close()
}
</script>

<template>
  <el-dialog
    v-model="open"
    :title="line ? `Edit ${line.name}` : 'Add a line'"
    width="min(1120px, 98vw)"
    top="4vh"
    :before-close="guard"
    :close-on-click-modal="false"
  >
    <ProblemNote v-if="!spec && usual.error.value" :error="usual.error.value" @retry="usual.refetch()" />
    <ProblemNote v-if="!spec && stored.error.value" :error="stored.error.value" @retry="stored.refetch()" />
    <form v-if="spec" @submit.prevent="save">
      <LineDesk v-model="spec" name-test="line-name">
        <template #fields>
          <label>
            <span>Slot</span>
            <el-select v-model="spec.slot">
              <el-option v-for="(label, value) in SLOTS" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>Style</span>
            <el-select :model-value="spec.style" data-test="line-style" @update:model-value="setStyle">
              <el-option v-for="(label, value) in STYLES" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
        </template>
        <FormProblem :problem="problem" />
        <ClashNote :clashes="clashes" @settle="settle" />
        <div class="acts">
          <el-button v-if="line && !line.generated" class="left" @click="remove">
            {{ line.key.startsWith('own-') ? 'Delete' : 'Back to how it came' }}
          </el-button>
          <el-button v-if="line" :loading="copying" data-test="line-copy" @click="saveCopy"
            >Save as a copy</el-button
          >
          <el-button @click="close">Cancel</el-button>
          <el-button type="primary" native-type="submit" :loading="busy" data-test="line-save"
            >Save</el-button
          >
        </div>
      </LineDesk>
    </form>
  </el-dialog>
</template>

<style scoped src="../styles/fields.css"></style>
<style scoped>
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
.left {
  margin-right: auto;
}
</style>
