<script setup lang="ts">
// What some swaps would do to the list's cautions and jobs: raised and quieted, with the figures behind them. Nothing is called safe.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { After, PackList } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { jobIn, jobName } from '@/quantities/jobs'
import { said, type Saying } from './cautions'
import { stepOf } from './lists'
import { useUnits } from './units'

const props = defineProps<{ after: After; list: PackList }>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const saying = (names: string[]): Saying => ({
  measures: units.measures.value,
  total: units.totalText,
  jobs: jobs.value,
  sheet: { list: props.list, walkers: [], trip: null, lines: names.map((name) => ({ name })) },
})
const rows = computed(() => {
  const { raised, quieted, names_before: before, names_after: after } = props.after
  const words = (moved: typeof quieted, names: string[], isRaised: boolean) =>
    moved.map(({ caution, other }) => ({
      ...said(caution, saying(names)),
      beside: other ? said(other, saying(names === before ? after : before)) : null,
      key: `${isRaised} ${caution.id} ${caution.job ?? ''}`,
      isRaised,
      what: isRaised ? (other ? 'Gets worse' : 'New caution') : other ? 'Gets better' : 'Resolved',
    }))
  return [...words(raised ?? [], after, true), ...words(quieted, before, false)]
})
const moved = computed(() => {
  const words = (job: string, amount: number) =>
    jobIn(job, jobName(job, jobs.value), jobs.value.get(job)?.unit ?? 'count', amount, units.measures.value)
  return props.after.jobs.map(({ job, before, after, asked }) => ({
    job,
    more: after > before,
    text: words(job, Math.abs(after - before)),
    short: asked > after ? words(job, asked - after) : '',
  }))
})
</script>

<template>
  <div class="after">
    <p v-for="row in rows" :key="row.key" :class="row.isRaised ? 'raised' : 'quieted'">
      <b>{{ row.what }}: {{ row.title }}</b
      ><span v-if="row.beside">{{ row.isRaised ? ', was' : ', then' }} {{ row.beside.title }}.</span>
      <span class="muted"
        >{{ row.beside ? ' ' : '. ' }}{{ row.isRaised ? row.text : (row.beside?.text ?? row.text) }}</span
      >
    </p>
    <p v-for="one in moved" :key="one.job" class="job">
      <b>{{ one.more ? 'More' : 'Less' }} {{ one.text }}</b>
      <span v-if="one.short" class="caution">{{ one.short }} short after it</span>
    </p>
    <p v-if="after.raised == null" class="muted">
      <RouterLink class="link" :to="stepOf(list.id, 'list/trip')">Say what the trip is</RouterLink>, and this
      shows the cautions that would be new, and those that would be resolved.
    </p>
    <p v-else-if="rows.length === 0" class="muted">It changes none of this list’s cautions.</p>
  </div>
</template>

<style scoped>
.after {
  display: grid;
  gap: var(--s-1h);
  font-size: var(--text-m);
}
.raised {
  border-left: 4px solid var(--lingonberry);
  padding-left: var(--s-2);
}
.raised b {
  color: var(--lingonberry);
}
.quieted {
  border-left: 4px solid var(--spruce);
  padding-left: var(--s-2);
}
.job {
  display: flex;
  gap: var(--s-2);
}
</style>
