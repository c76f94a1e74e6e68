<script setup lang="ts">
// What the trip requires and why; each can be said otherwise, and more required.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { TripSheet } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'
import { jobName, jobText, jobUnit, readJob, typedJob } from '@/quantities/jobs'
import { temperature } from '@/quantities/measures'

const props = defineProps<{
  worked: TripSheet
  disabled: boolean
  require: (job: string, amount: number | null) => Promise<unknown>
}>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const required = computed(() => props.worked.requirements)

const WHY = computed<Record<(typeof required.value)[number]['why'], string>>(() => ({
  always: 'every trip',
  nights: 'a night out',
  rain: 'rain is expected',
  insects: 'insects expected',
  cold: `it gets down to ${temperature(vocabulary.value?.rules.cold_tenth_c ?? 0, units.measures.value)} or lower`,
  freezing: 'it freezes',
  snow: 'snow underfoot',
  compulsory: 'local rules',
  cooking: 'water is boiled',
  charging: 'something is charged',
  alone: 'nobody else could help',
  own: 'set by you',
}))

const unitOf = (job: string) => jobs.value.get(job)?.unit ?? 'count'
async function save(job: string, text: string) {
  if (text.trim() === '') return props.require(job, null)
  const { name, decimals } = jobUnit(unitOf(job))
  const amount = readJob(unitOf(job), text.replace(new RegExp(`^\\s*${name}|${name}\\s*$`, 'gi'), ''))
  if (amount === null) {
    const accepted =
      decimals === 0 ? 'a whole number' : `a number of ${name} such as ${decimals === 1 ? '3.5' : '9'}`
    throw new Error(
      `“${text}” is not read as an amount. Type ${accepted}, or nothing for what the conditions ask.`,
    )
  }
  return props.require(job, amount)
}
// Load and room are what the pack and the things say, not what a trip asks.
const more = computed(() =>
  (vocabulary.value?.jobs ?? []).filter(
    (job) => !required.value.some((one) => one.job === job.key) && !['load', 'room'].includes(job.key),
  ),
)
const adding = ref('')
async function add() {
  if (adding.value) await props.require(adding.value, jobUnit(unitOf(adding.value)).one)
  adding.value = ''
}
</script>

<template>
  <section class="card" aria-label="What it requires">
    <h2>What it requires, and why</h2>
    <table v-grid class="table">
      <tbody>
        <tr v-for="one in required" :key="one.job">
          <td>
            {{ jobText(jobName(one.job, jobs), jobs.get(one.job)?.unit ?? 'count', Math.max(1, one.amount)) }}
          </td>
          <td class="muted">{{ one.amount === 0 ? 'you say it is not needed' : WHY[one.why] }}</td>
          <td :class="{ caution: one.short > 0 }">
            {{ one.amount === 0 ? '' : one.short > 0 ? 'missing' : 'on the list' }}
          </td>
          <td class="number">
            <EditableCell
              v-if="!disabled"
              :label="`Required: ${jobName(one.job, jobs)}`"
              :typed="typedJob(unitOf(one.job), one.amount)"
              :spoken="`${typedJob(unitOf(one.job), one.amount)} ${jobUnit(unitOf(one.job)).name}`.trim()"
              :save="(text) => save(one.job, text)"
              >{{ typedJob(unitOf(one.job), one.amount) }} {{ jobUnit(unitOf(one.job)).name }}</EditableCell
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!disabled" class="adding">
      <el-select
        v-model="adding"
        size="small"
        filterable
        placeholder="Require more …"
        aria-label="Require more"
        @change="add"
      >
        <el-option v-for="job in more" :key="job.key" :value="job.key" :label="job.name" />
      </el-select>
      <span class="muted">A plan never makes any of these fewer than they are today.</span>
    </p>
  </section>
</template>

<style scoped>
.adding {
  display: flex;
  gap: var(--s-2h);
  align-items: center;
  margin: var(--s-2) 0 0;
}
.adding :deep(.el-select) {
  width: 190px;
  flex: none;
}
</style>
