<script setup lang="ts">
// How sure the plan may be: the first step of the descent that the scale agrees with so many times in ten, and what not knowing a weight costs.
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import PickRows from '@/controls/PickRows.vue'
import { stepOf } from '@/domain/lists'
import { differences, levelOf, LEVELS } from '@/domain/sure'
import { useUnits } from '@/domain/units'
import { listed } from '@/quantities/count'

const props = defineProps<{ answer: PlanAnswer }>()
/** How sure the second flag is; `null` for even at worst. */
const level = defineModel<number | null>({ required: true })
const units = useUnits()
/** How many doubts stand here; the weigh queue has them all. */
const FEW = 3

const rows = LEVELS.map(({ percent, name }) => ({ value: percent, name }))
function takes(percent: number | null) {
  const found = levelOf(props.answer.sure, percent)
  if (!found) return 'no step is'
  const { swaps, net_minor: planned } = props.answer.plan
  const more = found.net_minor - planned
  const dearer = more === 0 ? 'the same money' : `${more > 0 ? '+' : '−'}${units.moneyText(Math.abs(more))}`
  return `${units.totalText(found.base_mg)}, ${swaps ? dearer : units.moneyText(found.net_minor)}`
}
const names = (swaps: number[]) => listed(swaps.map((at) => props.answer.swaps[at]?.name ?? ''))
const change = computed(() => {
  const found = levelOf(props.answer.sure, level.value)
  const planned = props.answer.plan.swaps
  if (!found || !planned) return ''
  const { more, less } = differences(found.swaps, planned)
  const parts = [more.length ? `with ${names(more)}` : '', less.length ? `without ${names(less)}` : '']
  return parts.filter(Boolean).join('; ')
})
const doubts = computed(() => props.answer.sure?.doubts.slice(0, FEW) ?? [])
</script>

<template>
  <section v-if="answer.sure" class="card" aria-label="How sure">
    <h2>How sure</h2>
    <p class="muted">
      The first step of the descent that the scale agrees with so often: its flag is the outlined one.
    </p>
    <PickRows v-slot="{ value }" v-model="level" label="How often the scale should agree" :rows="rows">{{
      takes(value)
    }}</PickRows>
    <p v-if="change" class="muted">Against the plan: {{ change }}. Pin what comes in to plan for it.</p>
    <template v-if="doubts.length">
      <h3>Not knowing costs</h3>
      <div class="rows">
        <div v-for="doubt in doubts" :key="doubt.line">
          <span>{{ doubt.name }}</span>
          <b>{{ units.moneyText(doubt.costs_minor) }}</b>
        </div>
      </div>
      <p class="muted">
        So much cheaper would the step of 9 in 10 be, if it weighed just what is expected.
        <RouterLink class="link" :to="stepOf(answer.list.id, 'weigh')">Weigh it first.</RouterLink>
      </p>
    </template>
  </section>
</template>

<style scoped>
h3 {
  margin: var(--s-3) 0 var(--s-1);
  font-size: var(--text);
}
</style>
