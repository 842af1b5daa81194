<script setup lang="ts">
import type { Finding } from '@/api/client'
import { useActions, useDiscs } from '@/composables/useData'
import { useSelection } from '@/stores/selection'

defineProps<{ findings: readonly Finding[]; busy: boolean }>()

const KINDS: Record<Finding['kind'], string> = {
  over_cap: 'Rule',
  over_full: 'Bag',
  gap: 'Gap',
  empty_peg: 'Empty peg',
  worn_out: 'Worn',
  twins: 'Twins',
  no_line: 'No line',
}

const discs = useDiscs()
const actions = useActions()
const selection = useSelection()

const name = (id: number) => discs.data.value?.find((d) => d.id === id)?.name ?? 'the disc'

function act(finding: Finding) {
  const a = finding.action
  switch (a.do) {
    case 'carry':
      return actions.carry({ id: a.disc_id, name: name(a.disc_id) })
    case 'bench':
      return actions.bench({ id: a.disc_id, name: name(a.disc_id) })
    case 'swap':
      return actions.move(`${name(a.carry)} is carried for ${name(a.bench)}`, {
        carry: [{ disc_id: a.carry, spare: false }],
        bench: [a.bench],
      })
    case 'look_for':
      return undefined
  }
}
</script>

<template>
  <section class="fix" aria-labelledby="fix-title" :aria-busy="busy">
    <h2 id="fix-title">Fix first</h2>
    <p v-if="findings.length === 0 && !busy" class="none">
      Nothing to fix: every line has an answer, every wanted peg has a disc and no two discs do one job.
    </p>
    <ol>
      <li v-for="(f, k) in findings" :key="f.key" :data-finding="f.key" :data-kind="f.kind">
        <p class="title">
          <span class="kind">{{ KINDS[f.kind] }}</span> <b>{{ f.title }}</b>
        </p>
        <p class="reason">{{ f.reason }}</p>
        <div class="acts">
          <el-button
            v-if="f.action.do !== 'look_for'"
            :type="k === 0 ? 'primary' : 'default'"
            @click="act(f)"
            >{{ f.action_label }}</el-button
          >
          <b v-else class="spec">{{ f.action_label }}</b>
          <button
            v-for="id in f.disc_ids"
            :key="id"
            class="link"
            type="button"
            @click="selection.discId = id"
          >
            {{ name(id) }}
          </button>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.fix {
  background: var(--panel);
  border: 1px solid var(--rule-soft);
  border-top: 2px solid var(--ink);
  padding: 10px 14px;
}
.none {
  padding: 10px 0;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  padding: 9px 0 10px;
  border-top: 1px solid var(--rule-soft);
}
.title {
  font-size: 15.5px;
}
.kind {
  display: inline-block;
  padding: 0 6px;
  margin-right: 3px;
  border: 1.5px solid var(--ink);
  font-size: 12px;
  font-weight: 700;
}
.reason {
  margin: 3px 0 7px;
  font-size: 14px;
  color: var(--ink-soft);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: center;
}
.link {
  min-height: 40px;
  padding: 0 4px;
  background: none;
  border: 0;
  color: var(--ink);
  font: inherit;
  text-decoration: underline;
  cursor: pointer;
}
.spec {
  padding: 8px 0;
}
.acts .el-button {
  font-weight: 650;
  border-color: var(--ink);
}
</style>
