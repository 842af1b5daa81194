<script setup lang="ts">
// A peg of a lane: what a disc on it does, drawn small, and what sits there.
import type { LineSpec, ShelfDisc, WalkLane } from '@/api/client'
import DiscMark from '@/common/DiscMark.vue'
import LineSketch from '@/lines/LineSketch.vue'
import { useSelection } from '@/common/stores/selection'

defineProps<{
  peg: WalkLane['pegs'][number]
  line: LineSpec | undefined
  discs: readonly ShelfDisc[]
}>()
const selection = useSelection()
</script>

<template>
  <li
    class="peg"
    :class="{ empty: peg.wanted && discs.length === 0, idle: !peg.wanted }"
    :data-peg="peg.peg"
    :data-empty="peg.wanted && discs.length === 0"
  >
    <div class="head">
      <LineSketch v-if="line" :line="line" :width="46" :height="62" />
      <div>
        <h2>{{ peg.label }}</h2>
        <p class="meaning">{{ line?.meaning || peg.meaning }}</p>
      </div>
    </div>
    <div class="discs">
      <button v-for="d in discs" :key="d.id" type="button" class="disc" @click="selection.discId = d.id">
        <DiscMark :colour="d.colour" :wear="d.wear_share" :size="22" />{{ d.name }}
      </button>
      <p v-if="discs.length === 0 && peg.wanted" class="none">empty</p>
      <p v-else-if="discs.length === 0" class="soft none">
        {{ peg.why_not ? `not wanted: ${peg.why_not}` : 'not wanted here' }}
      </p>
    </div>
  </li>
</template>

<style scoped>
.peg {
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 8px 10px;
  background: var(--panel);
  border: 1px solid var(--rule);
  border-top: 2px solid var(--ink);
}
.empty {
  background: repeating-linear-gradient(
    45deg,
    var(--panel) 0 9px,
    color-mix(in srgb, var(--hatch) 30%, var(--panel)) 9px 11px
  );
  border-style: dashed;
}
.idle {
  background: var(--ground);
}
.head {
  display: flex;
  gap: 8px;
}
h2 {
  font-size: 16px;
}
.meaning {
  font-size: 14px;
  line-height: 1.25;
}
.empty .meaning,
.empty h3,
.empty .none {
  width: fit-content;
  background: var(--panel);
}
.discs {
  margin-top: auto;
}
.disc {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 40px;
  padding: 0;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}
.disc:hover {
  text-decoration: underline;
}
.none {
  font-size: 14px;
  line-height: 1.25;
}
.empty .none {
  font-weight: 650;
}
</style>
