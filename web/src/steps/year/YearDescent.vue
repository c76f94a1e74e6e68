<script setup lang="ts">
// The year's descent, in gram nights: its budget line is dragged, and the path is walked down step by step.
import { computed, ref } from 'vue'
import type { Year } from '@/api/client'
import { useUnits } from '@/domain/units'
import WalkedDescent from '@/domain/WalkedDescent.vue'

const props = defineProps<{
  year: Year
  /** What is left of the year's budget; null if none is set. */
  left: number | null
  /** Keeps what is to be left of the budget. */
  saveLeft: (minor: number) => Promise<unknown>
}>()
const units = useUnits()
const flag = computed(() => {
  const { plan } = props.year
  return plan.swaps ? { net: plan.net_minor, base: plan.gram_nights_mg } : null
})
/** Where the budget's line stands while it is dragged. */
const dragged = ref<number | null>(null)
async function drop() {
  if (dragged.value === null) return
  try {
    await props.saveLeft(dragged.value)
  } finally {
    dragged.value = null
  }
}
</script>

<template>
  <template v-if="year.frontier.length > 1">
    <h2 class="chart">Down in {{ units.scale.value.name }} nights</h2>
    <WalkedDescent
      :base="year.gram_nights_mg"
      :frontier="year.frontier"
      :swaps="year.swaps.map(({ swap }) => swap)"
      :plan="flag"
      :budget="dragged ?? left"
      :whole-text="units.massNightsText"
      :step-text="units.massNightsText"
      :unit-name="`${units.scale.value.name} nights`"
      :unit-decimals="0"
      @drag="({ budget }) => budget !== undefined && (dragged = budget)"
      @drop="drop"
      @cancel="dragged = null"
    />
  </template>
</template>

<style scoped>
.chart {
  margin-top: var(--s-5);
}
</style>
