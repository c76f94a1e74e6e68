<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { changesQuery } from '@/api/queries'
import Loaded from '@/controls/Loaded.vue'
import { stepOf } from '@/domain/lists'
import ChangeList from './ChangeList.vue'

defineProps<{ list: string }>()
const { data: changes, error, refetch } = useQuery(changesQuery(''))
</script>

<template>
  <div class="page">
    <div class="head">
      <h1 tabindex="-1">History</h1>
      <p>
        Changes of gear, weights, kits, lists, swaps and files, newest first. Each can be undone as long as no
        newer change builds on it; what is older than two years is forgotten here.
      </p>
      <RouterLink class="link" :to="stepOf(list, 'gear')">Back to gear</RouterLink>
    </div>
    <Loaded what="The history" :known="changes !== undefined" :error="error" @retry="refetch">
      <section v-if="changes?.length" class="card"><ChangeList :changes="changes" /></section>
      <p v-else class="muted">Nothing yet. What you add, weigh or change stands here.</p>
    </Loaded>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
</style>
