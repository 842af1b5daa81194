<script setup lang="ts">
// Brings the release with which a disc does best on a line, and the wind of that line, to the range.
import { computed, ref } from 'vue'
import { useQuery } from '@tanstack/vue-query'
import {
  api,
  asQuery,
  asProblem,
  type ProblemError,
  type RangeThrow,
  type Setting,
  type ShelfDisc,
  take,
} from '@/api/client'
import FormProblem from '@/common/FormProblem.vue'
import { percent } from '@/common/units'
import { useDay } from '@/common/stores/day'

const props = defineProps<{ discs: readonly ShelfDisc[]; usual: readonly Setting[]; discId: number | null }>()
const emit = defineEmits<{ copied: [one: RangeThrow] }>()
const open = defineModel<boolean>({ required: true })

const day = useDay()
const lines = useQuery({
  queryKey: ['lines'],
  queryFn: () => take(api.GET('/api/lines')),
  enabled: open,
})
const lineKey = ref<string | null>(null)
const picked = ref<number | null>(null)
const disc = computed({ get: () => picked.value ?? props.discId, set: (id) => (picked.value = id) })
const problem = ref<ProblemError | null>(null)
const said = ref('')

async function copy() {
  problem.value = null
  said.value = ''
  if (lineKey.value === null || disc.value === null) {
    said.value = 'Choose a line and a disc first.'
    return
  }
  try {
    const sheet = await take(
      api.GET('/api/chance', {
        params: { query: { disc_id: disc.value, line_key: lineKey.value, ...asQuery(day.conditions) } },
      }),
    )
    const chosen = sheet.chance.chosen
    const usual = props.usual.find((s) => s.style === sheet.line.style)
    if (!chosen || !usual) {
      said.value = sheet.words
      return
    }
    const { power, hyzer_deg, launch_deg, aim_deg } = chosen
    emit('copied', {
      name: `${sheet.disc_name}: ${sheet.line.name}, ${percent(sheet.chance.chance)}`,
      disc: { kind: 'shelf', disc_id: disc.value },
      setting: { ...usual, power, hyzer_deg, launch_deg, aim_deg, conditions: sheet.conditions },
    })
    open.value = false
  } catch (error) {
    problem.value = asProblem(error)
  }
}
</script>

<template>
  <el-dialog v-model="open" title="Copy the release from a line" width="420px">
    <form class="form" @submit.prevent="copy">
      <label>
        <span>Line</span>
        <el-select v-model="lineKey" filterable placeholder="choose" data-test="copy-line">
          <el-option v-for="l in lines.data.value ?? []" :key="l.key" :value="l.key" :label="l.name" />
        </el-select>
      </label>
      <label>
        <span>Disc</span>
        <el-select v-model="disc" filterable placeholder="choose" data-test="copy-disc">
          <el-option v-for="d in discs" :key="d.id" :value="d.id" :label="d.name" />
        </el-select>
      </label>
      <p class="soft">
        The release is the one behind the chance on the Lines screen, in the wind of that line.
      </p>
      <p v-if="said" role="alert">{{ said }}</p>
      <FormProblem :problem="problem" />
      <div class="acts">
        <el-button @click="open = false">Cancel</el-button>
        <el-button type="primary" native-type="submit" data-test="copy-go">Copy</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}
.acts {
  display: flex;
  justify-content: flex-end;
}
label > span {
  display: block;
  color: var(--ink-soft);
  font-size: 14px;
}
</style>
