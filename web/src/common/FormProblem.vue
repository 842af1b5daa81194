<script setup lang="ts">
// What is wrong with a form, beside its buttons: what the server says, what is still empty, and figures that were set to the
// nearest one allowed. The fields at fault are marked, and the first of them has the focus.
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { ProblemError } from '@/api/client'
import { useUnits } from '@/api/useData'
import { emptyOnes, inWords, setBack } from '@/common/fields'

const props = defineProps<{ problem: ProblemError | null }>()
const units = useUnits()
const here = ref<HTMLElement | null>(null)
const form = ref<HTMLFormElement | null>(null)
const empty = ref('')
const figure = ref('')
const words = computed(() => empty.value || (props.problem && inWords(units.value, props.problem)))

type Field = HTMLInputElement | HTMLTextAreaElement
const fields = () => [...(form.value?.querySelectorAll<Field>('input, textarea') ?? [])]
/** Those of labels with `data-needed`. */
const needed = () => fields().filter((field) => field.closest('label[data-needed]'))
const labelOf = (field: Field) => field.closest('label')?.querySelector('span')?.textContent.trim() ?? ''

function mark(wrong: readonly Field[]) {
  for (const field of fields())
    if (wrong.includes(field)) field.setAttribute('aria-invalid', 'true')
    else field.removeAttribute('aria-invalid')
  wrong[0]?.focus()
}

onMounted(() => {
  form.value = here.value?.closest('form') ?? null
  // The browser tells of one field at a time, in its own language.
  if (form.value) form.value.noValidate = true
  for (const field of needed()) field.required = true
})
useEventListener(
  form,
  'submit',
  (event) => {
    figure.value = ''
    const missing = needed().filter((f) => f.value.trim() === '')
    empty.value = emptyOnes(missing.map(labelOf))
    mark(missing)
    if (missing.length === 0) return
    event.preventDefault()
    event.stopImmediatePropagation()
  },
  { capture: true },
)
useEventListener(
  form,
  'change',
  ({ target }) => {
    if (!(target instanceof HTMLInputElement) || target.getAttribute('role') !== 'spinbutton') return
    const [least, most] = ['aria-valuemin', 'aria-valuemax'].map((name) => Number(target.getAttribute(name)))
    figure.value = setBack(labelOf(target), target.value, least, most)
  },
  { capture: true },
)
useEventListener(form, 'input', ({ target }) => {
  if (target instanceof HTMLElement) target.removeAttribute('aria-invalid')
})
watch(
  () => props.problem,
  async (problem) => {
    empty.value = ''
    await nextTick()
    if (problem) mark(fields().filter((f) => f.name !== '' && f.name === problem.field))
  },
)
</script>

<template>
  <div ref="here">
    <p v-if="figure" class="note" role="status" data-test="set-back">{{ figure }}</p>
    <p v-if="words" class="problem" role="alert">{{ words }}</p>
  </div>
</template>

<style scoped>
.problem,
.note {
  margin: 12px 0;
  padding: 8px 12px;
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
.note {
  border-color: var(--rule);
}
</style>
