<script setup lang="ts">
// A lean bag for the cold months, as wishes to the builder.
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Cover } from '@/api/client'
import { COVERS } from '@/common/disc'
import { useBag, useLean } from '@/api/useData'
import ProblemNote from '@/common/ProblemNote.vue'
import { useSelection } from '@/common/stores/selection'
import { useKeptWishes } from '@/common/useKeptWishes'

defineProps<{ name: (id: number) => string }>()
const cover = ref<Cover>('leaves')
const frost = ref(false)
const lean = useLean(() => ({ cover: cover.value, frost: frost.value }))
const bag = useBag()
const kept = useKeptWishes()
const selection = useSelection()
const router = useRouter()

async function propose() {
  const { slots: _slots, ...wishes } = lean.data.value?.wishes ?? {}
  if (!bag.data.value) return
  kept.value = { ...kept.value, [bag.data.value.id]: wishes }
  await router.push('/build')
}
</script>

<template>
  <section class="panel" data-test="lean">
    <h2>A lean bag for the cold months</h2>
    <p>
      Few discs, slow, straight and overstable, that can be lost and that show on the ground. The builder puts
      them together from your shelf.
    </p>
    <div class="choose">
      <div>
        <span id="cover-label" class="soft">They lie on</span>
        <el-radio-group v-model="cover" aria-labelledby="cover-label" data-test="cover">
          <el-radio-button v-for="(label, value) in COVERS" :key="value" :value="value">{{
            label
          }}</el-radio-button>
        </el-radio-group>
      </div>
      <el-checkbox v-model="frost" data-test="frost">It is below freezing</el-checkbox>
      <el-button type="primary" :disabled="!lean.data.value" data-test="lean-build" @click="propose"
        >Propose it</el-button
      >
    </div>
    <p class="soft">
      Cold plastic is hard and can crack; it hurts more to be hit by. Warm up longer before full throws, and
      leave a disc that lies on ice or in cold water.
    </p>
    <ProblemNote v-if="lean.error.value" :error="lean.error.value" @retry="lean.refetch()" />
    <template v-if="lean.data.value">
      <h3>
        Stay at home: {{ lean.data.value.stays_home.length }} of
        {{ lean.data.value.stays_home.length + lean.data.value.could_come }}
      </h3>
      <ul class="home">
        <li v-for="s in lean.data.value.stays_home" :key="s.disc_id" :data-home="s.disc_id">
          <button type="button" class="as-link" @click="selection.discId = s.disc_id">
            {{ name(s.disc_id) }}
          </button>
          <span class="soft">{{ s.words }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: end;
  margin: 8px 0 12px;
}
.choose span {
  display: block;
  font-size: 14px;
}
h3 {
  margin: 10px 0 2px;
  font-size: 16px;
}
.home {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 320px), 1fr));
  gap: 0 18px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.home li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: center;
}
</style>
