<script setup lang="ts">
// The same shelf by every school, on the same lines.
import { computed } from 'vue'
import type { SchoolBag } from '@/api/client'
import { figure } from '@/common/units'

const props = defineProps<{
  schools: readonly SchoolBag[]
  name: (id: number | null | undefined) => string
}>()
/** Discs that every school carries. */
const common = computed(() => {
  const bags = props.schools.filter((s) => s.discs.length > 0)
  return (bags[0]?.discs ?? []).filter((id) => bags.every((b) => b.discs.includes(id)))
})
const rest = (bag: SchoolBag) => bag.discs.filter((id) => !common.value.includes(id))
</script>

<template>
  <section data-test="schools">
    <p v-if="common.length" class="panel">
      In every one of them: {{ common.map((id) => name(id)).join(', ') }}.
    </p>
    <div class="all">
      <article v-for="s in schools" :key="s.label" class="panel" :data-school="s.label">
        <h2>{{ s.label }}</h2>
        <p class="soft">{{ s.asks }}</p>
        <template v-if="s.discs.length">
          <p>
            <b>{{ s.discs.length }} discs</b> of {{ s.moulds }} moulds, {{ figure(s.mass_g / 1000, 1) }} kg,
            leave <b>{{ figure(s.leaves_strokes, 2) }}</b><template v-if="!s.is_proven">
              (not proven)</template
            >.
          </p>
          <p class="discs">
            {{
              rest(s)
                .map((id) => name(id))
                .join(', ')
            }}
          </p>
        </template>
        <p v-else>Your shelf has no such bag of this size.</p>
        <p v-for="u in s.unmet" :key="u" class="soft">Cannot be met: {{ u }}.</p>
      </article>
    </div>
  </section>
</template>

<style scoped>
.all {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 260px), 1fr));
  gap: 0 14px;
  align-items: start;
}
.discs {
  margin-top: 6px;
  font-size: 14px;
}
</style>
