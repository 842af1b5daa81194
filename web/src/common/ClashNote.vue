<script setup lang="ts">
// What another window changed too, beside a form's buttons: nothing is saved until the player says which counts.
import type { Clash } from '@/api/saving'
import { useUnits } from '@/api/useData'
import { fieldLabel, fieldValue } from '@/common/fields'

defineProps<{ clashes: readonly Clash[] }>()
const emit = defineEmits<{ settle: [whose: 'mine' | 'theirs'] }>()
const units = useUnits()
</script>

<template>
  <div v-if="clashes.length > 0" class="clash" role="alert" data-test="clash">
    <p><b>Another window changed the same. Nothing is saved yet.</b></p>
    <table>
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">There</th>
          <th scope="col">Here</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in clashes" :key="c.field">
          <th scope="row">{{ fieldLabel(c.field) }}</th>
          <td>{{ fieldValue(units, c.field, c.theirs) }}</td>
          <td>{{ fieldValue(units, c.field, c.mine) }}</td>
        </tr>
      </tbody>
    </table>
    <div class="acts">
      <el-button data-test="keep-theirs" @click="emit('settle', 'theirs')">Keep what is there</el-button>
      <el-button type="primary" data-test="keep-mine" @click="emit('settle', 'mine')">Save mine</el-button>
    </div>
  </div>
</template>

<style scoped>
.clash {
  margin: 12px 0;
  padding: 10px 12px;
  border: 2px solid var(--bad);
  border-left-width: 10px;
}
table {
  width: 100%;
  margin: 8px 0;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 8px 4px 0;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--rule-soft);
}
</style>
