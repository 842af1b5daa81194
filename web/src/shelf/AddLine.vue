<script setup lang="ts">
// Discs added by one line: it is read as it is typed, and says what it was read as.
import { computed, ref, useId, watch } from 'vue'
import { api, asProblem, type DiscUse, type Entry, take } from '@/api/client'
import DiscMark from '@/common/DiscMark.vue'
import { useActions, useBag } from '@/api/useData'

const props = defineProps<{ usedFor?: DiscUse | undefined; label?: string }>()
const emit = defineEmits<{ added: [ids: number[], names: string[]]; detail: [entry: Entry] }>()

const actions = useActions()
const bag = useBag()
const line = ref('')
const carry = ref(true)
const busy = ref(false)
const entry = ref<Entry | null>(null)
const problem = ref('')
const input = ref<{ focus: () => void } | null>(null)
const id = useId()

const READ_MS = 90
let timer: ReturnType<typeof setTimeout> | undefined
let asked = 0
const body = () => ({ line: line.value, used_for: props.usedFor ?? null })

async function read() {
  const mine = ++asked
  try {
    const found = await take(api.POST('/api/shelf/read', { body: body() }))
    // A slower answer to what was typed before must not stand over what is typed now.
    if (mine === asked) {
      entry.value = found
      problem.value = ''
    }
  } catch (error) {
    if (mine === asked) problem.value = asProblem(error).message
  }
}
watch([line, () => props.usedFor], () => {
  clearTimeout(timer)
  if (line.value.trim() === '') {
    asked += 1
    entry.value = null
    problem.value = ''
  } else timer = setTimeout(() => void read(), READ_MS)
})

const count = computed(() => entry.value?.discs.length ?? 0)
const names = computed(() => {
  const all = entry.value?.discs.map((d) => d.name) ?? []
  return all.length > 3 ? `${all[0]} … ${all.at(-1)}` : all.join(', ')
})
const problems = computed(() => (problem.value ? [problem.value] : (entry.value?.problems ?? [])))

async function add() {
  if (busy.value) return
  clearTimeout(timer)
  asked += 1
  if (line.value.trim() === '') return
  busy.value = true
  try {
    const bag_id = carry.value ? (bag.data.value?.id ?? null) : null
    const added = await take(api.POST('/api/shelf/add', { body: { ...body(), bag_id } }))
    line.value = ''
    entry.value = null
    problem.value = ''
    await actions.refresh()
    const are = added.names.length === 1 ? 'is' : 'are'
    const what = added.names.length > 3 ? `${added.names.length} discs` : added.names.join(', ')
    actions.did(`${what} ${are} on the shelf${bag_id ? ' and carried' : ''}`)
    emit('added', added.disc_ids, added.names)
  } catch (error) {
    problem.value = asProblem(error).message
    entry.value = entry.value && { ...entry.value, problems: [] }
  } finally {
    busy.value = false
    input.value?.focus()
  }
}
defineExpose({ focus: () => input.value?.focus() })
</script>

<template>
  <form class="add-line" @submit.prevent="add">
    <label :for="id">{{ label ?? 'Add discs in one line' }}</label>
    <div class="row">
      <el-input
        :id="id"
        ref="input"
        v-model="line"
        maxlength="400"
        placeholder="2 purlin premium 173 seasoned orange"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        :aria-describedby="`${id}-read`"
        data-test="add-line"
      />
      <el-button type="primary" native-type="submit" :loading="busy" data-test="add-line-go">{{
        count > 1 ? `Add ${count}` : 'Add'
      }}</el-button>
      <el-checkbox v-model="carry" data-test="add-line-carry">carry</el-checkbox>
    </div>
    <div :id="`${id}-read`" class="read" data-test="add-line-read">
      <ul v-if="entry && entry.parts.length" class="parts">
        <li v-for="(p, k) in entry.parts" :key="k" :class="p.kind" :data-part="p.kind">
          <DiscMark v-if="p.colour" :colour="p.colour" :wear="0" :size="18" />{{ p.reads
          }}<span v-if="p.kind === 'unread'"> ?</span>
        </li>
        <li v-for="a in entry.assumed" :key="a" class="assumed" title="not said, so taken as usual">
          {{ a }}
        </li>
        <li v-if="count" class="names">
          → <b>{{ names }}</b>
        </li>
      </ul>
      <p v-for="p in problems" :key="p" class="wrong" role="status" data-test="add-line-problem">{{ p }}</p>
      <details v-if="!entry && !problem" class="help">
        <summary>What a line can say</summary>
        <p>
          How many, then the mould by any beginning of its name, then in any order: plastic (base, tacky,
          mid-grade, premium, soft, glow, featherweight), weight in grams or with oz, wear (fresh, broken in,
          seasoned, beat, flippy, or 350 throws, 12 hits), top (flat, domed), colour, use (putting, utility),
          “its name”, // a note.
        </p>
        <p>
          A mould for the first time: add its four numbers and its maker,
          <code>comfrey 12/6/-2/2 by saltmarsh</code>. After that any beginning of its name is enough. Put a
          name that begins like another mould’s in “quotes”.
        </p>
      </details>
    </div>
  </form>
</template>

<style scoped>
.add-line {
  padding: 10px 14px;
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-left: 6px solid var(--accent);
}
label {
  font-weight: 650;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-top: 4px;
}
.row .el-input {
  flex: 1 1 260px;
}
.row .el-input :deep(input) {
  font-size: 16px;
  height: 40px;
}
.read {
  min-height: 30px;
  padding-top: 6px;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.parts li {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  padding: 1px 8px;
  border: 1px solid var(--rule);
  background: var(--ground);
}
.parts .unread {
  border: 2px dashed var(--bad);
}
.parts .new_mould {
  border: 2px solid var(--ink);
}
.parts .assumed {
  border-style: dotted;
  background: none;
  color: var(--ink-soft);
}
.parts .names {
  border-color: transparent;
  background: none;
}
.wrong {
  margin-top: 5px;
  padding-left: 10px;
  border-left: 4px solid var(--bad);
}
.help summary {
  min-height: 24px;
  color: var(--ink-soft);
  cursor: pointer;
}
.help p {
  max-width: 86ch;
  padding: 2px 0 6px;
}
</style>
