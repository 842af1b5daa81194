<script setup lang="ts">
// What can be done to one disc of the shelf.
import { api, type ShelfDisc, take } from '@/api/client'
import { useActions } from '@/api/useData'

const props = defineProps<{ disc: ShelfDisc; carried: boolean }>()
const emit = defineEmits<{ edit: [] }>()
const actions = useActions()

const copy = () =>
  actions.attempt(async () => {
    const params = { path: { id: props.disc.id } }
    const made = await take(api.POST('/api/discs/{id}/copies', { params, body: { count: 1 } }))
    const name = props.disc.name
    await actions.refresh()
    actions.did(`${made.names.join(', ')} is a copy of ${name}`)
  })
function more(what: 'edit' | 'copy' | 'delete') {
  if (what === 'edit') emit('edit')
  else void (what === 'copy' ? copy() : actions.remove(props.disc))
}
</script>

<template>
  <span class="acts">
    <el-button v-if="carried" data-test="row-bench" @click="actions.bench(disc)">Bench</el-button>
    <el-button v-else-if="disc.at_hand" data-test="row-carry" @click="actions.carry(disc)">Carry</el-button>
    <el-dropdown trigger="click" :persistent="false" @command="more">
      <el-button :aria-label="`More for ${disc.name}`" data-test="row-more">⋯</el-button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item command="edit" data-test="row-edit">Edit</el-dropdown-item>
          <el-dropdown-item command="copy" data-test="row-copy">Add one like it</el-dropdown-item>
          <el-dropdown-item command="delete" data-test="row-delete">Delete</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </span>
</template>

<style scoped>
.acts {
  white-space: nowrap;
}
.acts .el-button {
  padding: 8px 11px;
}
.acts .el-dropdown {
  margin-left: 6px;
}
</style>
