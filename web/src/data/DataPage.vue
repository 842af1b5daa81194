<script setup lang="ts">
// Where the records are, what was changed, and the ways to copy them and bring them back.
import { computed } from 'vue'
import CopiesPanel from '@/data/CopiesPanel.vue'
import ProblemNote from '@/common/ProblemNote.vue'
import RecentChanges from '@/data/RecentChanges.vue'
import { bytes, holdsText } from '@/data/data'
import { useRecords } from '@/api/useData'

/** Drawn by the server; no file of the front end. */
const CODE = '/api/data/address.svg'
const records = useRecords()
const now = computed(() => records.data.value)
const reachable = computed(() => now.value?.addresses ?? [])
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Data</h1>
        <p class="soft">Where your records are, what was changed, and how to keep them safe.</p>
      </div>
    </div>
    <ProblemNote v-if="records.error.value" :error="records.error.value" @retry="records.refetch()" />
    <div class="columns">
      <RecentChanges />
      <div v-if="now">
        <section class="panel" aria-labelledby="where">
          <h2 id="where">Your file</h2>
          <p v-if="now.path" class="path" data-test="path">{{ now.path }}</p>
          <p v-else>Everything is in memory only, and gone when the program ends.</p>
          <p class="soft">
            {{ holdsText(now.holds) }}; {{ bytes(now.bytes) }}. Every change is on the disk before it is
            answered.
          </p>
        </section>
        <CopiesPanel :records="now" />
        <section class="panel" aria-labelledby="phone">
          <h2 id="phone">Open it on a phone</h2>
          <div v-if="reachable.length > 0" class="phone">
            <img :src="CODE" alt="QR code of the address" width="200" height="200" />
            <div data-test="addresses">
              <p>With the phone in the same network, scan this or type</p>
              <p v-for="a in reachable" :key="a">
                <b>{{ a }}</b>
              </p>
              <p class="soft">It asks for your password.</p>
            </div>
          </div>
          <template v-else>
            <p>
              Now only this machine can open it. To open it on a phone in the same network, end it and run
            </p>
            <pre>
zinc-kite password
zinc-kite serve --host 0.0.0.0</pre>
            <p class="soft">
              Without TLS others in that network can read what is sent: use it at home, or give it a
              certificate with --tls-cert and --tls-key.
            </p>
          </template>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 14px;
  align-items: start;
}
.path {
  overflow-wrap: anywhere;
  font-weight: 650;
}
.phone {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 18px;
}
.phone img {
  background: #fff;
}
pre {
  margin: 8px 0;
  padding: 10px 12px;
  overflow-x: auto;
  background: var(--ground);
  border: 1px solid var(--rule-soft);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
