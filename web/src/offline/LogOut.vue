<script setup lang="ts">
// What logging out asks where changes still wait to be sent.
import { useLater } from '@/offline/later'
import { useLogOut } from '@/offline/useLogOut'

const out = useLogOut()
const later = useLater()
</script>

<template>
  <el-dialog v-model="out.asks" title="Changes are not sent yet" width="420px" append-to-body>
    <p>
      {{ later.all.length === 1 ? '1 change waits' : `${later.all.length} changes wait` }} on this device.
      Logging out discards {{ later.all.length === 1 ? 'it' : 'them' }}:
    </p>
    <ul>
      <li v-for="one in later.all" :key="one.id">{{ one.words }}</li>
    </ul>
    <template #footer>
      <el-button type="primary" data-test="stay-logged-in" @click="out.asks = false">
        Stay logged in
      </el-button>
      <el-button data-test="discard-and-log-out" @click="out.leave">Discard and log out</el-button>
    </template>
  </el-dialog>
</template>
