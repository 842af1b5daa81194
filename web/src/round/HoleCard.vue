<script setup lang="ts">
// A hole at a glance: where it leads, how it is played, what is left.
import type { CourseHole } from '@/api/client'
import { useUnits } from '@/api/useData'
import { shown } from '@/common/units'
import LineSketch from '@/lines/LineSketch.vue'
import { compass } from '@/round/course'

defineProps<{
  hole: CourseHole
  /** To the basket behind the first throw, way by way, m. */ left: readonly number[]
}>()
const emit = defineEmits<{ edit: [] }>()
const units = useUnits()
/** What is left of less than this needs no word: it is at the basket. */
const AT_BASKET_M = 12
const height = (m: number) => `${shown(units.value, 'distance', Math.abs(m))} ${m > 0 ? 'up' : 'down'}`
</script>

<template>
  <li class="hole" :data-hole="hole.name">
    <LineSketch v-if="hole.ways?.[0]" :line="hole.ways[0].line" :width="84" :height="120" />
    <div class="what">
      <h2>
        {{ hole.name }}
        <small>par {{ hole.par }}, {{ shown(units, 'distance', hole.length_m) }}</small>
      </h2>
      <p class="soft">
        {{ compass(hole.bearing_deg) }} ({{ Math.round(hole.bearing_deg) }}°)<template
          v-if="Math.abs(hole.height_m ?? 0) >= 0.5"
          >, {{ height(hole.height_m ?? 0) }}</template
        ><template v-if="(hole.ways?.[0]?.line.lee ?? 0) > 0"
          >, {{ Math.round(100 * (hole.ways?.[0]?.line.lee ?? 0)) }} % of the wind kept off</template
        >
      </p>
      <ul>
        <li v-for="(way, k) in hole.ways ?? []" :key="k">
          <b>{{ way.line.name }}</b>: {{ way.line.meaning || 'no words yet' }}
          <template v-if="(left[k] ?? 0) > AT_BASKET_M">
            Leaves {{ shown(units, 'distance', left[k] ?? 0) }}.
          </template>
        </li>
      </ul>
      <p v-if="hole.note" class="note">{{ hole.note }}</p>
      <button
        type="button"
        class="as-link"
        :aria-label="`Edit hole ${hole.name}`"
        data-test="edit-hole"
        @click="emit('edit')"
      >
        edit
      </button>
    </div>
  </li>
</template>

<style scoped>
.hole {
  display: flex;
  gap: 10px;
  padding: 8px 10px;
  background: var(--panel);
  border-left: 4px solid var(--rule);
}
.what {
  min-width: 0;
}
h2 {
  font-size: 17px;
}
h2 small {
  font-weight: 400;
  color: var(--ink-soft);
}
p,
ul {
  margin: 2px 0;
}
ul {
  padding-left: 18px;
}
.note {
  padding-left: 8px;
  border-left: 3px solid var(--warn);
}
</style>
