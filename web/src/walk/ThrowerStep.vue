<script setup lang="ts">
// Where the walk begins: who throws, and how.
import ArmFields from '@/player/ArmFields.vue'
import ClashNote from '@/common/ClashNote.vue'
import FormProblem from '@/common/FormProblem.vue'
import SchoolFields from '@/player/SchoolFields.vue'
import { usePlayerForm } from '@/player/form'

const { stored, form, habits, changed, save, settle, problem, clashes } = usePlayerForm()
/** Saves what is not saved yet: with starting values left as they are, these. */
const leave = async () => (!changed() && stored.data.value?.saved ? true : save())
defineExpose({ leave })
</script>

<template>
  <p class="question">
    How far do you throw under control? Every disc is flown at your arm: what is stable for one player turns
    over for another.
  </p>
  <form v-if="form" novalidate @submit.prevent="save()">
    <section class="panel fields"><ArmFields v-model="form" /></section>
    <section class="panel fields school"><SchoolFields v-model="form" v-model:habits="habits" /></section>
    <FormProblem :problem="problem" />
    <ClashNote :clashes="clashes" @settle="settle" />
    <p class="soft">
      Warm up before full throws, build forehand and overhand up slowly, and stop when something hurts. More
      about arm, scatter and weather is on the
      <RouterLink to="/player">Player</RouterLink> screen.
    </p>
  </form>
</template>

<style scoped>
.question {
  max-width: 80ch;
  margin-bottom: 10px;
  font-size: 17px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 14px 22px;
}
.school {
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 400px), 1fr));
}
</style>
