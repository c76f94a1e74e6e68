<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { changesQuery } from '@/api/queries'
import ChangeList from './ChangeList.vue'

const { data: changes, error } = useQuery(changesQuery(''))
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>What was done</h1>
      <p>
        Changes of gear, weights, kits, lists, swaps and files, newest first. Each can be undone while nothing
        newer stands on it.
      </p>
      <RouterLink class="link" to="/gear">Back to gear</RouterLink>
    </div>
    <p v-if="error" class="caution" role="alert">{{ error.message }}</p>
    <section v-else-if="changes?.length" class="card"><ChangeList :changes="changes" /></section>
    <p v-else-if="changes" class="muted">Nothing yet. What you add, weigh or change stands here.</p>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
</style>
