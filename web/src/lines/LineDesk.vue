<script setup lang="ts">
// A line on the desk: drawn on the left, told in words and figures on the right.
import { ref, useTemplateRef } from 'vue'
import type { LineSpec } from '@/api/client'
import DrawnLine from '@/lines/DrawnLine.vue'
import LineFigures from '@/lines/LineFigures.vue'
import ThingList from '@/lines/ThingList.vue'
import { useFigures } from '@/lines/useFigures'

defineProps<{
  /** What the field of its name is known by to a test. */
  nameTest: string
}>()
const spec = defineModel<LineSpec>({ required: true })
const { get, toSi, symbol } = useFigures()
const drawing = useTemplateRef('drawing')
/** Which of the things about it shows its edges and figures. */
const chosen = ref<number>()
</script>

<template>
  <div class="desk">
    <DrawnLine ref="drawing" v-model="spec" v-model:chosen="chosen" />
    <div>
      <div class="fields">
        <label class="wide" data-needed>
          <span>Name</span><el-input v-model="spec.name" name="name" maxlength="80" :data-test="nameTest" />
        </label>
        <label class="wide">
          <span>What the shot is, in a sentence</span>
          <el-input v-model="spec.meaning" name="meaning" maxlength="200" data-test="line-meaning" />
        </label>
        <slot name="fields" />
        <label
          v-for="f in [
            { key: 'distance_m', label: 'Distance' },
            { key: 'zone_length_m', label: 'Zone length' },
            { key: 'zone_width_m', label: 'Zone width' },
          ] as const"
          :key="f.key"
        >
          <span>{{ f.label }}, {{ symbol('distance') }}</span>
          <el-input-number
            :model-value="get(spec[f.key], 'distance')"
            :min="1"
            controls-position="right"
            :data-test="`line-${f.key}`"
            @update:model-value="spec[f.key] = toSi($event, 'distance') ?? spec[f.key]"
          />
        </label>
      </div>
      <ThingList v-model:chosen="chosen" :spec="spec" @change="drawing?.change($event)" />
      <LineFigures v-model="spec" />
      <slot />
    </div>
  </div>
</template>

<style scoped src="../styles/fields.css"></style>
<style scoped>
.desk {
  display: grid;
  grid-template-columns: minmax(0, 390px) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
@media (max-width: 900px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
