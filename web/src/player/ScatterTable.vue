<script setup lang="ts">
// How far one release differs from the next, style by style: what the skill tells, or what the player has found.
import { computed } from 'vue'
import type { Player, Scatter, Style } from '@/api/client'
import { STYLES } from '@/lines/line'

const props = defineProps<{ used: readonly { style: Style; scatter: Scatter }[] }>()
const own = defineModel<NonNullable<Player['scatter']>>({ required: true })

const ERRORS = [
  { key: 'speed_pct', label: 'Speed, %' },
  { key: 'hyzer_deg', label: 'Hyzer, °' },
  { key: 'launch_deg', label: 'Launch, °' },
  { key: 'nose_deg', label: 'Nose, °' },
  { key: 'aim_deg', label: 'Aim, °' },
] as const
const rows = computed(() =>
  (Object.keys(STYLES) as Style[]).map((style) => {
    const mine = own.value.find((o) => o.style === style)
    return {
      style,
      mine: mine !== undefined,
      scatter: mine?.scatter ?? props.used.find((u) => u.style === style)?.scatter,
    }
  }),
)
function set(style: Style, scatter: Scatter | undefined, part: Partial<Scatter>) {
  if (!scatter) return
  const rest = own.value.filter((o) => o.style !== style)
  own.value = [...rest, { style, scatter: { ...scatter, ...part } }]
}
function back(style: Style) {
  own.value = own.value.filter((o) => o.style !== style)
}
</script>

<template>
  <div class="scroll">
    <table data-test="scatter">
      <thead>
        <tr>
          <th scope="col">Style</th>
          <th v-for="e in ERRORS" :key="e.key" scope="col">{{ e.label }}</th>
          <th scope="col">Whose</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.style">
          <th scope="row">{{ STYLES[row.style] }}</th>
          <td v-for="e in ERRORS" :key="e.key">
            <el-input-number
              v-if="row.scatter"
              :model-value="Math.round(100 * row.scatter[e.key]) / 100"
              :min="0.2"
              :max="15"
              :step="0.1"
              :controls="false"
              :aria-label="`${STYLES[row.style]} ${e.label}`"
              :data-test="`scatter-${row.style}-${e.key}`"
              @update:model-value="$event !== undefined && set(row.style, row.scatter, { [e.key]: $event })"
            />
          </td>
          <td class="whose">
            <el-button v-if="row.mine" @click="back(row.style)">As the skill tells</el-button>
            <span v-else class="soft">as the skill tells</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
th {
  font-weight: 400;
  text-align: left;
  padding-right: 10px;
  white-space: nowrap;
}
thead th {
  color: var(--ink-soft);
  font-size: 14px;
}
.el-input-number {
  width: 84px;
}
.whose {
  min-width: 150px;
}
</style>
