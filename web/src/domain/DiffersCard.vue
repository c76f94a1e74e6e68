<script setup lang="ts">
// Where a list by itself would be planned otherwise than the year, and why.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { PlanAnswer, Year } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { stepOf } from '@/domain/lists'
import { meetName } from './meet'
import { differences } from './differs'
import { listed } from '@/quantities/count'

const WORDS = new Intl.ListFormat('en')
const props = defineProps<{ year: Year; alone: PlanAnswer; onPlan?: boolean }>()
const { data: vocabulary } = useQuery(vocabularyQuery)
const found = computed(() => differences(props.year, props.alone))
const isOther = computed(
  () => !!found.value && found.value.onlyAlone.length + found.value.onlyYear.length > 0,
)
const reasons = computed(() => {
  const jobs = new Map(vocabulary.value?.jobs.map((job) => [job.key, job]))
  return (found.value?.reasons ?? []).map(
    ({ swap, meet, lists }) =>
      `${swap} by itself leaves ${WORDS.format(lists)} shorter than now of: ${meetName(meet, jobs).toLowerCase()}.`,
  )
})
const name = computed(() => props.alone.list.name)
</script>

<template>
  <section v-if="isOther && found" class="card" aria-label="Over the year">
    <h2>{{ onPlan ? 'Over the year' : `Where ${name} alone would differ` }}</h2>
    <p v-if="found.onlyAlone.length">
      Only for {{ name }} by itself: <b>{{ listed(found.onlyAlone) }}</b>.
    </p>
    <p v-if="found.onlyYear.length">
      Only over the year: <b>{{ listed(found.onlyYear) }}</b>.
    </p>
    <p v-for="reason in reasons" :key="reason" class="muted">{{ reason }}</p>
    <p class="muted">
      The year counts every list that a purchase lightens, and its nights; a list by itself counts its own
      target and budget.
      <RouterLink v-if="onPlan" class="link" :to="stepOf(alone.list.id, 'year')">See the year</RouterLink>
    </p>
  </section>
</template>

<style scoped>
p + p {
  margin-top: var(--s-2);
}
</style>
