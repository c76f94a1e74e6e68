<script setup lang="ts">
// What comes after the plan: its next step in words, and what each further half kilogram (or pound) takes.
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { useUnits } from '@/domain/units'
import { changeWords, ladder, nextStep } from '@/domain/ladder'

const props = defineProps<{ answer: PlanAnswer; target: number | null }>()
const units = useUnits()
const POUND = 453_592
const step = computed(() => (units.system.value === 'metric' ? 500_000 : POUND))
const rungs = computed(() =>
  ladder(props.answer.frontier, props.target ?? props.answer.plan.base_mg, step.value),
)
const next = computed(() => nextStep(props.answer))
const words = computed(() => {
  if (!next.value) return 'This is as light as these swaps go.'
  const { lighter, more } = next.value
  return `The next step takes off ${units.tableText(lighter)} more for ${units.moneyText(more)}: ${changeWords(next.value)}.`
})
</script>

<template>
  <section v-if="answer.plan.swaps" class="card" aria-label="Going further">
    <h2>Going further</h2>
    <p class="muted">{{ words }}</p>
    <div v-if="rungs.length" class="rows">
      <div v-for="rung in rungs" :key="rung.target">
        <span>Down to {{ units.totalText(rung.target) }}</span>
        <span class="n"
          ><b>{{ units.moneyText(rung.net) }}</b
          ><small class="muted">{{ units.moneyText(rung.more) }} more</small></span
        >
      </div>
    </div>
    <p v-if="!answer.proved" class="muted">Not all sets of swaps were searched; there may be cheaper ones.</p>
  </section>
</template>

<style scoped>
p {
  font-size: var(--text-m);
}
.n {
  display: flex;
  align-items: baseline;
  gap: var(--s-3);
  white-space: nowrap;
}
.n small {
  min-width: 84px;
  text-align: right;
}
</style>
