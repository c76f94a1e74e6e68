<script setup lang="ts">
// The year's descent, in gram nights: its budget line is dragged, and the path is walked down step by step.
import { computed, ref } from 'vue'
import type { Year } from '@/api/client'
import { changeWords, stepTo } from '@/domain/ladder'
import { useUnits } from '@/domain/units'
import Descent from '@/marks/Descent.vue'

const props = defineProps<{
  year: Year
  /** What is left of the year's budget; null if none is set. */
  left: number | null
  /** Keeps what is to be left of the budget. */
  saveLeft: (minor: number) => Promise<unknown>
}>()
const units = useUnits()
const points = computed(() =>
  props.year.frontier.map(({ net_minor, base_mg }) => ({ net: net_minor, base: base_mg })),
)
const flag = computed(() => {
  const { plan } = props.year
  return plan.swaps ? { net: plan.net_minor, base: plan.gram_nights_mg } : null
})
/** Where the budget's line stands while it is dragged. */
const dragged = ref<number | null>(null)
const walked = ref<number | null>(null)
const walkedText = computed(() => {
  const { gram_nights_mg: base_mg, frontier, swaps } = props.year
  const point = walked.value === null ? undefined : frontier[walked.value]
  if (!point) return ''
  const step = stepTo({ base_mg, frontier, swaps: swaps.map(({ swap }) => swap) }, walked.value!)
  const change = changeWords(step)
  return `${units.massNightsText(point.base_mg)} for ${units.moneyText(point.net_minor)}. This step takes off ${units.massNightsText(step.lighter)} for ${units.moneyText(step.more)}${change ? `: ${change}` : ''}.`
})
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
  <template v-if="points.length > 1">
    <h2 class="chart">Down in {{ units.scale.value.name }} nights</h2>
    <div class="sheet">
      <Descent
        v-model:walked="walked"
        :points="points"
        :now="year.gram_nights_mg"
        :plan="flag"
        :alone="null"
        :band="[]"
        :sure="null"
        :target="null"
        :without="null"
        :budget="dragged ?? left"
        :unit-mg="units.scale.value.mg"
        :unit-name="`${units.scale.value.name} nights`"
        :unit-decimals="0"
        :minor-per-major="10 ** units.currency.value.decimals"
        :money="units.withSign"
        target-text=""
        :budget-text="left === null ? '' : units.moneyText(dragged ?? left)"
        :walked-text="walkedText"
        @drag="({ budget }) => budget !== undefined && (dragged = budget)"
        @drop="drop"
        @cancel="dragged = null"
      />
    </div>
    <p class="muted walked">
      {{
        walkedText ||
        'Point at the path, or go down it with the arrow keys: what each step takes stands here.'
      }}
    </p>
  </template>
</template>

<style scoped>
.sheet {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: var(--s-2) 0 0;
}
.chart {
  margin-top: var(--s-5);
}
.walked {
  min-height: 2.6em;
  margin: var(--s-1) 0 var(--s-4);
  font-size: var(--text-m);
}
</style>
