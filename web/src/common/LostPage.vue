<script setup lang="ts">
import { RouterLink } from 'vue-router'
</script>

<template>
  <div class="page">
    <h1>There is no such screen</h1>
    <p>The address may be mistyped. <RouterLink to="/">Go to the bag.</RouterLink></p>
  </div>
</template>
