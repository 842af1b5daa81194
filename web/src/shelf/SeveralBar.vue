<script setup lang="ts">
// What can be done to the discs that are chosen, all at once and in one step.
import { ref } from 'vue'
import { api, type DiscChange, type ShelfDisc, take } from '@/api/client'
import { useActions, usePlastics } from '@/api/useData'
import { GRADES, SLOTS, STATUSES, TIES, TOPS, USES } from '@/common/disc'
import { STYLES } from '@/lines/line'

const props = defineProps<{ discs: readonly ShelfDisc[] }>()
const emit = defineEmits<{ clear: [] }>()
const actions = useActions()
const plastics = usePlastics()
const open = ref(false)
const change = ref<DiscChange>({})

const ids = () => props.discs.map((d) => d.id)
const told = () => (props.discs.length === 1 ? props.discs[0]!.name : `${props.discs.length} discs`)
const are = () => (props.discs.length === 1 ? 'is' : 'are')

const carry = () =>
  actions.move(`${told()} ${are()} carried`, {
    carry: props.discs.filter((d) => d.at_hand).map((d) => ({ disc_id: d.id, spare: false })),
    bench: [],
  })
const bench = () => actions.move(`${told()} ${are()} benched`, { carry: [], bench: ids() })

function begin() {
  change.value = {}
  open.value = true
}
const apply = () =>
  actions.attempt(async () => {
    const label = `${told()} ${are()} changed`
    // What was chosen and then cleared again stays as it is.
    const set = Object.entries(change.value).filter(([, v]) => v !== null && v !== undefined && v !== '')
    await take(
      api.POST('/api/shelf/change', {
        body: { disc_ids: ids(), change: Object.fromEntries(set) as DiscChange },
      }),
    )
    open.value = false
    await actions.refresh()
    actions.did(label)
  })
const remove = () =>
  actions.attempt(async () => {
    const label = `${told()} ${are()} deleted`
    await take(api.POST('/api/shelf/delete', { body: { disc_ids: ids() } }))
    await actions.refresh()
    actions.did(label)
    emit('clear')
  })
const CHOICES = [
  { key: 'status', label: 'Status', of: STATUSES },
  { key: 'grade', label: 'Condition', of: GRADES },
  { key: 'used_for', label: 'Carried for', of: USES },
  { key: 'top', label: 'Top', of: TOPS },
  { key: 'class', label: 'Slot', of: SLOTS },
] as const
</script>

<template>
  <div class="bar" data-test="several">
    <b role="status">{{ discs.length }} chosen</b>
    <el-button data-test="several-carry" @click="carry">Carry</el-button>
    <el-button data-test="several-bench" @click="bench">Bench</el-button>
    <el-button data-test="several-change" @click="begin">Change…</el-button>
    <el-button data-test="several-delete" @click="remove">Delete</el-button>
    <el-button text @click="emit('clear')">Choose none</el-button>
    <el-dialog v-model="open" :title="`Change ${told()}`" width="560px">
      <form @submit.prevent="apply">
        <p class="soft">What you leave empty stays as it is with each.</p>
        <div class="grid">
          <label v-for="c in CHOICES" :key="c.key">
            <span>{{ c.label }}</span>
            <el-select
              v-model="change[c.key]"
              clearable
              placeholder="as it is"
              :data-test="`several-${c.key}`"
            >
              <el-option v-for="(label, value) in c.of" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>Plastic</span>
            <el-select v-model="change.plastic" clearable placeholder="as it is">
              <el-option
                v-for="p in plastics.data.value ?? []"
                :key="p.plastic"
                :value="p.plastic"
                :label="p.label"
              />
            </el-select>
          </label>
          <label v-if="change.status === 'trial'">
            <span>Trial until</span>
            <el-date-picker
              v-model="change.trial_until"
              value-format="YYYY-MM-DD"
              type="date"
              placeholder="a date"
            />
          </label>
          <label>
            <span>Kept for</span>
            <el-select v-model="change.kept_for" multiple clearable placeholder="as it is">
              <el-option v-for="(label, value) in STYLES" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>Ties</span>
            <el-select v-model="change.ties" multiple clearable placeholder="as it is">
              <el-option v-for="(label, value) in TIES" :key="value" :value="value" :label="label" />
            </el-select>
          </label>
          <label>
            <span>Where kept</span>
            <el-input
              v-model="change.place"
              maxlength="60"
              placeholder="as it is"
              data-test="several-place"
            />
          </label>
          <label>
            <span>Run</span>
            <el-input v-model="change.run" maxlength="60" placeholder="as it is" />
          </label>
        </div>
        <div class="acts">
          <el-button @click="open = false">Cancel</el-button>
          <el-button type="primary" native-type="submit" data-test="several-apply"
            >Change {{ discs.length }}</el-button
          >
        </div>
      </form>
    </el-dialog>
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  top: 0;
  z-index: 5;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-bottom: 8px;
  padding: 6px 12px;
  background: var(--panel);
  border: 2px solid var(--ink);
}
.bar .el-button + .el-button {
  margin-left: 0;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 10px 14px;
  margin-top: 8px;
}
label > span {
  display: block;
  font-size: 13.5px;
  color: var(--ink-soft);
}
.grid :deep(.el-date-editor) {
  width: 100%;
}
.acts {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
</style>
