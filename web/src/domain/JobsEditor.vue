<script setup lang="ts">
// What one piece does and what it needs: a line a job.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { JobAmounts } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { jobName, jobUnit } from '@/quantities/jobs'

const provides = defineModel<JobAmounts>('provides', { required: true })
const needs = defineModel<JobAmounts>('needs', { required: true })
/** With one side only, the other can't be chosen and the sides are not named. */
const props = defineProps<{ only?: 'needs' }>()

const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => vocabulary.value?.jobs ?? [])

const rows = computed(() => [
  ...Object.entries(provides.value).map(([job, amount]) => ({ side: 'provides' as const, job, amount })),
  ...Object.entries(needs.value).map(([job, amount]) => ({ side: 'needs' as const, job, amount })),
])
const known = computed(() => new Map(jobs.value.map((job) => [job.key, job])))
const nameOf = (key: string) => jobName(key, known.value)
const unitOf = (key: string) => jobUnit(known.value.get(key)?.unit ?? 'count')

function set(side: 'provides' | 'needs', job: string, amount: number | null | undefined) {
  const model = side === 'provides' ? provides : needs
  const rest = Object.fromEntries(Object.entries(model.value).filter(([key]) => key !== job))
  model.value = amount === null || amount === undefined ? rest : { ...rest, [job]: amount }
}

/** In whole stored units: R 3.1 is 31 tenths. */
const stored = (key: string, amount: number | null | undefined) =>
  amount == null ? amount : Math.round(amount * unitOf(key).one)

const side = ref<'provides' | 'needs'>(props.only ?? 'provides')
const job = ref('')
function add() {
  if (job.value) set(side.value, job.value, unitOf(job.value).one)
  job.value = ''
}
</script>

<template>
  <div class="jobs">
    <div v-for="row in rows" :key="row.side + row.job" class="row">
      <span
        ><span v-if="!only" class="muted">{{ row.side === 'provides' ? 'does' : 'needs' }}</span>
        {{ nameOf(row.job) }}</span
      >
      <el-input-number
        :model-value="row.amount / unitOf(row.job).one"
        :min="0"
        :max="1000000000 / unitOf(row.job).one"
        :controls="false"
        :aria-label="`${row.side === 'provides' ? 'Does' : 'Needs'} ${nameOf(row.job)}`"
        inputmode="decimal"
        @update:model-value="(amount) => set(row.side, row.job, stored(row.job, amount))"
      />
      <span class="unit">{{ unitOf(row.job).name }}</span>
      <el-button link :aria-label="`Remove ${nameOf(row.job)}`" @click="set(row.side, row.job, null)"
        >×</el-button
      >
    </div>
    <div class="row add" :class="{ only }">
      <el-select v-if="!only" v-model="side" aria-label="Does or needs">
        <el-option value="provides" label="does" />
        <el-option value="needs" label="needs" />
      </el-select>
      <el-select
        v-model="job"
        filterable
        default-first-option
        placeholder="a job …"
        aria-label="Job"
        @change="add"
      >
        <el-option v-for="one in jobs" :key="one.key" :value="one.key" :label="one.name" />
      </el-select>
    </div>
  </div>
</template>

<style scoped>
.jobs {
  display: grid;
  gap: var(--s-2);
  width: 100%;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 90px 76px 24px;
  gap: var(--s-2);
  align-items: center;
}
.row.add {
  grid-template-columns: 90px minmax(0, 1fr);
}
.row.add.only {
  grid-template-columns: minmax(0, 1fr);
}
.row :deep(.el-input-number) {
  width: 90px;
}
.unit {
  color: var(--ink-2);
  font-size: var(--text-s);
}
</style>
