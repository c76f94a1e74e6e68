<script setup lang="ts">
import { stepOf } from '@/domain/lists'
import ImportCard from './ImportCard.vue'
import RestoreCard from './RestoreCard.vue'

defineProps<{ list: string }>()
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">Files</h1>
      <p>A list from a spreadsheet, gear as CSV, and the whole account as one file.</p>
      <RouterLink class="link" :to="stepOf(list, 'gear')">Back to gear</RouterLink>
    </div>
    <div class="with-aside">
      <ImportCard :list="list" />
      <aside aria-label="Export and back up">
        <section class="card">
          <h2>Export</h2>
          <p class="muted">For a spreadsheet, or for whoever asks what you carry.</p>
          <p class="links">
            <a class="link" href="/api/files/gear.csv" download>kevyt-gear.csv</a>
            <a class="link" href="/api/files/gear.zip" download>with its description (Data Package)</a>
          </p>
        </section>
        <RestoreCard />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.with-aside {
  --aside: 360px;
}
aside,
aside > section {
  display: grid;
  gap: var(--s-3);
  align-content: start;
  min-width: 0;
}
h2 {
  margin: 0;
}
.links {
  display: grid;
  gap: var(--s-1);
  justify-items: start;
}
</style>
