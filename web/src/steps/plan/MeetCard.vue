<script setup lang="ts">
// What is short today, each to be met by the plan too: only sets that leave nothing short of it are planned then.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { useUnits } from '@/domain/units'
import { meetings } from '@/domain/meet'

const props = defineProps<{ answer: PlanAnswer }>()
const emit = defineEmits<{ meet: [meet: string[]] }>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const rows = computed(() =>
  meetings(props.answer, jobs.value, units.measures.value, { money: units.moneyText, mass: units.tableText }),
)

function tick(meet: string, isAsked: boolean) {
  const others = props.answer.list.terms.meet.filter((other) => other !== meet)
  emit('meet', isAsked ? [...others, meet] : others)
}
</script>

<template>
  <section v-if="rows.length" class="card" aria-label="Also meet">
    <h2>Also meet</h2>
    <div class="rows">
      <div v-for="row in rows" :key="row.meet">
        <el-checkbox :model-value="row.isAsked" @change="(isAsked) => tick(row.meet, isAsked === true)">{{
          row.name
        }}</el-checkbox>
        <span class="n">
          <span :class="{ caution: row.short !== '' }">{{ row.short || 'nothing short' }}</span>
          <small v-if="row.cost" class="muted">{{ row.cost }}</small>
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.rows > div {
  align-items: center;
}
.n {
  text-align: right;
}
small {
  display: block;
  white-space: nowrap;
  font-size: var(--text-s);
}
</style>
