<script setup lang="ts">
// Says when the program is out of reach, what waits for it, and what two windows told differently.
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { useQueryClient } from '@tanstack/vue-query'
import { computed, onMounted } from 'vue'
import { onReach } from '@/api/client'
import { useRefresh } from '@/api/useData'
import ClashNote from '@/common/ClashNote.vue'
import { clashesOf, useLater } from '@/offline/later'
import { askBegun } from '@/field/useField'
import { useReach } from '@/offline/reach'
import { useLogOut } from '@/offline/useLogOut'

const reach = useReach()
const later = useLater()
const out = useLogOut()
const client = useQueryClient()
const refresh = useRefresh()
onReach(reach)

/** How often a program that is out of reach is called, ms. */
const CALL_MS = 8000

const tagged = ({ tags }: Record<string, unknown>): unknown[] => (Array.isArray(tags) ? tags : [])
later.onSent(async (sent) => {
  // A throw that is told wears its disc by a throw, which no judgement waits for; a disc that is lost changes the bag.
  const isThrow = (w: (typeof sent)[number]) =>
    /^\/api\/(rounds|field)/.test(w.path) &&
    !('lost' in w.body) &&
    ![w.body, w.base].some((of) => tagged(of).includes('lost'))
  await askBegun(client, sent)
  if (sent.every(isThrow))
    for (const name of ['rounds', 'field', 'discs', 'changes'])
      await client.invalidateQueries({ queryKey: [name] })
  else await refresh()
})
async function call() {
  if (document.visibilityState !== 'visible') return
  if (out.isPending) await out.end()
  if (out.isOut) return
  if (reach.isOut) {
    const health = await fetch('/api/health', { cache: 'no-store' }).catch(() => undefined)
    if (!health?.ok) return
    reach.back()
    await later.sendAll()
    await refresh()
  } else if (later.waiting.length > 0) await later.sendAll()
}
useIntervalFn(call, CALL_MS)
useEventListener(window, 'online', call)
useEventListener(document, 'visibilitychange', call)
onMounted(async () => {
  if (out.isOut) return await out.end()
  await later.load()
  await later.sendAll()
})

const since = computed(() =>
  reach.keptAt?.toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' }),
)
const waits = computed(() => {
  const n = later.waiting.length
  if (n === 0) return ''
  return n === 1
    ? '1 change waits on this device and is sent then.'
    : `${n} changes wait on this device and are sent then.`
})
</script>

<template>
  <div class="bars">
    <div role="status">
      <p v-if="reach.isOut && !out.isOut" class="bar" data-test="out-of-reach">
        <b>Zinc Kite does not answer.</b>
        <template v-if="since"> Shown is what it said last, {{ since }}. </template>
        {{ waits }}
      </p>
    </div>
    <section
      v-for="one in later.clashes"
      :key="one.id"
      class="bar clash"
      data-test="tap-clash"
      :aria-label="`${one.words}: two windows differ`"
    >
      <b>{{ one.words }}</b>
      <ClashNote :clashes="clashesOf(one)" @settle="later.settle(one.id, $event)" />
    </section>
    <section v-for="one in later.refused" :key="one.id" class="bar clash" data-test="tap-refused">
      <b>{{ one.words }} could not be sent: {{ one.refused }}.</b>
      <el-button @click="later.drop(one.id)">Let it go</el-button>
    </section>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 8px 20px;
  background: var(--panel);
  border-bottom: 2px solid var(--warn);
  border-left: 10px solid var(--warn);
}
.clash {
  border-color: var(--bad);
}
@media print {
  .bars {
    display: none;
  }
}
</style>
