<script setup lang="ts">
// A descent that is walked down: under it stands what the step to the point takes.
import { computed, ref, useTemplateRef } from 'vue'
import type { FrontierPoint, PlanAnswer } from '@/api/client'
import Descent from '@/marks/Descent.vue'
import { changeWords, stepTo } from './ladder'
import { useUnits } from './units'

interface Point {
  net: number
  base: number
}
const props = withDefaults(
  defineProps<{
    base: number
    frontier: FrontierPoint[]
    swaps: PlanAnswer['swaps']
    plan: Point | null
    budget: number | null
    /** A weight of the axis in words: a whole one, and the little that a step takes off. */
    wholeText: (mg: number) => string
    stepText: (mg: number) => string
    unitName: string
    unitDecimals?: number
    target?: number | null
    alone?: Point | null
    band?: { low: number; high: number }[]
    sure?: (Point & { name: string }) | null
    without?: { target: number; text: string } | null
  }>(),
  { unitDecimals: undefined, target: null, alone: null, band: () => [], sure: null, without: null },
)
defineEmits<{ drag: [to: { target?: number; budget?: number }]; drop: []; cancel: [] }>()
const units = useUnits()
const sheet = useTemplateRef<HTMLElement>('sheet')
const points = computed(() =>
  props.frontier.map(({ net_minor, base_mg }) => ({ net: net_minor, base: base_mg })),
)
const walked = ref<number | null>(null)
const walkedText = computed(() => {
  const point = walked.value === null ? undefined : props.frontier[walked.value]
  if (!point) return ''
  const step = stepTo({ base_mg: props.base, frontier: props.frontier, swaps: props.swaps }, walked.value!)
  const change = changeWords(step)
  return (
    `${props.wholeText(point.base_mg)} for ${units.moneyText(point.net_minor)}. ` +
    `This step takes off ${props.stepText(step.lighter)} for ${units.moneyText(step.more)}${change ? `: ${change}` : ''}.`
  )
})
</script>

<template>
  <div>
    <div ref="sheet" class="sheet">
      <Descent
        v-model:walked="walked"
        :points="points"
        :now="base"
        :plan="plan"
        :alone="alone"
        :band="band"
        :sure="sure"
        :target="target"
        :without="without"
        :budget="budget"
        :unit-mg="units.scale.value.mg"
        :unit-name="unitName"
        :unit-decimals="unitDecimals"
        :minor-per-major="10 ** units.currency.value.decimals"
        :money="units.withSign"
        :target-text="target === null ? '' : wholeText(target)"
        :budget-text="budget === null ? '' : units.moneyText(budget)"
        :walked-text="walkedText"
        @drag="$emit('drag', $event)"
        @drop="$emit('drop')"
        @cancel="$emit('cancel')"
      />
    </div>
    <slot :drawing="() => sheet" />
    <p class="muted walked">
      {{
        walkedText ||
        'Point at the path, or go down it with the arrow keys: what each step takes stands here.'
      }}
    </p>
  </div>
</template>

<style scoped>
.sheet {
  margin-bottom: var(--s-2h);
  padding: var(--s-2) 0 0;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}
.walked {
  min-height: 2.6em;
  margin: var(--s-1) 0 var(--s-2);
  font-size: var(--text-m);
}
</style>
