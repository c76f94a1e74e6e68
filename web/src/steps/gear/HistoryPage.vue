<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { About } from '@/api/client'
import { CHANGES_A_PAGE, changesPageQuery } from '@/api/queries'
import Loaded from '@/controls/Loaded.vue'
import { useRouteQuery } from '@/controls/route'
import { stepOf, useLists } from '@/domain/lists'
import ChangeList from './ChangeList.vue'

const props = defineProps<{ list: string }>()
const { lists } = useLists(() => props.list)
const router = useRouter()
const of = useRouteQuery('of')
const about = useRouteQuery('about')
const before = useRouteQuery('before')
const {
  data: changes,
  error,
  refetch,
} = useQuery(computed(() => changesPageQuery({ list: of.value, about: about.value, before: before.value })))

const ABOUT: Record<About, string> = {
  gear: 'gear, weights and kits',
  lists: 'lists and who walks',
  swaps: 'swaps and plans',
  trips: 'trips',
  settings: 'settings',
}
/** Another filter begins at its newest. */
const filter = (query: { of?: string; about?: string }) =>
  void router.replace({
    query: Object.fromEntries(
      Object.entries({ of: of.value, about: about.value, ...query }).filter(([, value]) => value),
    ),
  })
/** What follows the last that is shown, if there may be more. */
const older = computed(() =>
  changes.value?.length === CHANGES_A_PAGE
    ? { query: { ...router.currentRoute.value.query, before: changes.value.at(-1)!.id } }
    : null,
)
const newest = computed(() => ({ query: { ...router.currentRoute.value.query, before: undefined } }))
</script>

<template>
  <div class="page">
    <div class="head">
      <h1 tabindex="-1">History</h1>
      <p>
        What was added, weighed or changed, newest first. Each can be undone as long as no newer change builds
        on it; what is older than two years is forgotten here.
      </p>
      <RouterLink class="link" :to="stepOf(list, 'gear')">Back to gear</RouterLink>
    </div>
    <div class="filters">
      <el-select
        :model-value="about"
        :empty-values="[null]"
        :value-on-clear="null"
        aria-label="About what"
        @change="(about: string) => filter({ about })"
      >
        <el-option value="" label="about everything" />
        <el-option v-for="(name, key) in ABOUT" :key="key" :value="key" :label="`about ${name}`" />
      </el-select>
      <el-select
        :model-value="of"
        :empty-values="[null]"
        :value-on-clear="null"
        aria-label="Of which list"
        @change="(of: string) => filter({ of })"
      >
        <el-option value="" label="of all lists" />
        <el-option v-for="one in lists" :key="one.id" :value="one.id" :label="one.name" />
      </el-select>
      <RouterLink v-if="before" class="link" :to="newest">Newest</RouterLink>
    </div>
    <Loaded what="The history" :known="changes !== undefined" :error="error" @retry="refetch">
      <section v-if="changes?.length" class="card"><ChangeList :changes="changes" /></section>
      <p v-else-if="before || of || about" class="muted">Nothing like that was done.</p>
      <p v-else class="muted">Nothing yet. What you add, weigh or change stands here.</p>
      <p v-if="older" class="older"><RouterLink class="link" :to="older">Older changes</RouterLink></p>
    </Loaded>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
.filters {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) var(--s-3);
  margin-bottom: var(--s-3);
}
.filters :deep(.el-select) {
  width: 230px;
}
.older {
  margin-top: var(--s-3);
}
</style>
