<script setup lang="ts">
// What did really happen? Sessions in the field with their throws, and each disc over the season.
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { FieldSession } from '@/api/client'
import ProblemNote from '@/common/ProblemNote.vue'
import { useInQuery } from '@/common/useInQuery'
import { useOpenThing } from '@/common/useOpenThing'
import ArmView from '@/field/ArmView.vue'
import DiscSeason from '@/field/DiscSeason.vue'
import FoundNumbers from '@/field/FoundNumbers.vue'
import { begun, PURPOSES } from '@/field/log'
import PractiseView from '@/field/PractiseView.vue'
import SessionForm from '@/field/SessionForm.vue'
import SessionView from '@/field/SessionView.vue'
import { useLog, useSessions } from '@/field/useField'
import { newId, useLater } from '@/offline/later'

const later = useLater()
const view = useInQuery('view', ['log', 'arm', 'practise'])
const wanted = useOpenThing('session')
const disc = useOpenThing('disc-season')
const discId = computed(() => (disc.value !== null && /^\d+$/.test(disc.value) ? Number(disc.value) : null))
const { query, sessions } = useSessions()
const { query: one, log } = useLog(() => wanted.value)
const beginning = ref(false)
/** Where the latest session was. */
const places = computed(() => sessions.value.map((s) => s.place))
/** The disc that is shown over the season. */
const shownDisc = ref<number | null>(null)

async function begin(session: FieldSession) {
  const key = newId()
  const told = later.tell(begun(key, session))
  // It is there before the program has it.
  wanted.value = key
  await told
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div class="grow">
        <h1>Field</h1>
        <p v-if="!wanted" class="soft">
          Throws as you measured them: where each came to rest, in which wind, how it was meant. They wear
          your discs as they are logged.
        </p>
      </div>
      <el-button
        v-if="!wanted && view === 'log'"
        type="primary"
        data-test="begin-session"
        @click="beginning = true"
        >Begin a session</el-button
      >
    </div>
    <ProblemNote v-if="query.error.value" :error="query.error.value" @retry="query.refetch()" />
    <template v-if="wanted">
      <ProblemNote v-if="!log && one.error.value" :error="one.error.value" @retry="one.refetch()" />
      <p v-if="!log && one.error.value">
        <button type="button" class="as-link" @click="wanted = null">All sessions</button>
      </p>
      <SessionView v-if="log" :key="log.key" :log="log" @leave="wanted = null" @go="wanted = $event" />
    </template>
    <el-radio-group v-if="!wanted" v-model="view" class="views" aria-label="View" data-test="field-view">
      <el-radio-button value="log">Log</el-radio-button>
      <el-radio-button value="arm">Your arm</el-radio-button>
      <el-radio-button value="practise">What to practise</el-radio-button>
    </el-radio-group>
    <ArmView v-if="!wanted && view === 'arm'" />
    <PractiseView v-else-if="!wanted && view === 'practise'" :places="places" @begin="begin" />
    <div v-else-if="!wanted" class="two">
      <section class="panel" data-test="sessions">
        <h2>Sessions</h2>
        <p v-if="query.isSuccess.value && sessions.length === 0" class="soft">
          None yet. Begin one where you throw: choose a disc, say how you mean it, then take the rangefinder’s
          reading or type the distance.
        </p>
        <ul>
          <li v-for="s in sessions" :key="s.key" :data-session="s.key">
            <button type="button" class="as-link" @click="wanted = s.key">{{ s.date }}, {{ s.place }}</button>
            <span class="soft"
              >{{ PURPOSES[s.purpose ?? 'practice'] }}; {{ s.throws === 1 ? '1 throw' : `${s.throws} throws`
              }}<template v-if="s.discs"
                >, {{ s.discs === 1 ? '1 disc' : `${s.discs} discs` }}</template
              ></span
            >
          </li>
        </ul>
        <p class="soft">
          First throws of rounds are told under <RouterLink to="/round?view=play">Round, Play</RouterLink> and
          wear their discs too.
        </p>
      </section>
      <div>
        <DiscSeason v-model:shown="shownDisc" :disc="discId" @choose="disc = `${$event}`" />
        <FoundNumbers v-if="shownDisc !== null" :key="shownDisc" :disc="shownDisc" />
      </div>
    </div>
    <p class="soft" data-test="field-cautions">
      Warm up before full throws, and bring forehand and overhand throws up gradually. Wait until nobody is in
      reach.
    </p>
    <SessionForm v-model="beginning" :log="undefined" :others="sessions" @save="begin" />
  </div>
</template>

<style scoped>
ul {
  margin: 0 0 10px;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: center;
  border-bottom: 1px solid var(--rule-soft);
}
li .as-link {
  min-height: 44px;
}
.views {
  margin-bottom: 10px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0 14px;
  align-items: start;
}
@media (min-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  }
}
</style>
