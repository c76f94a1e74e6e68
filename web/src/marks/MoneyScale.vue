<script setup lang="ts">
// The beam's right half: money planned, with the budget as a fence.
import { computed } from 'vue'
import { decimalsOf, niceStep, ticks } from './scale'

const props = defineProps<{ planned: number; budget: number | null; minorPerMajor: number; width: number }>()

const scale = computed(() => {
  const most = Math.max(props.planned, props.budget ?? 0, props.minorPerMajor * 10) / props.minorPerMajor
  const step = niceStep(most, 4)
  const high = Math.ceil((most * 1.05) / step) * step
  const x = (minor: number) => (minor / props.minorPerMajor / high) * props.width
  return {
    x,
    marks: ticks(0, high, step),
    label: (value: number) => value.toFixed(decimalsOf(step)),
    at: (value: number) => (value / high) * props.width,
  }
})
</script>

<template>
  <svg :width="width + 24" height="46" :viewBox="`-8 0 ${width + 24} 46`" aria-hidden="true">
    <rect x="0" y="20" :width="width" height="8" fill="var(--sunk)" />
    <rect x="0" y="20" :width="Math.max(0, scale.x(planned))" height="8" fill="var(--cloudberry)" />
    <g v-for="mark in scale.marks" :key="mark">
      <line :x1="scale.at(mark)" :x2="scale.at(mark)" y1="28" y2="32" stroke="var(--line-strong)" />
      <text :x="scale.at(mark)" y="44" text-anchor="middle" font-size="10" fill="var(--ink-2)">
        {{ scale.label(mark) }}
      </text>
    </g>
    <template v-if="budget !== null">
      <line
        :x1="scale.x(budget)"
        :x2="scale.x(budget)"
        y1="10"
        y2="34"
        stroke="var(--lake)"
        stroke-width="2"
      />
      <line
        :x1="scale.x(budget) - 4"
        :x2="scale.x(budget) + 4"
        y1="14"
        y2="14"
        stroke="var(--lake)"
        stroke-width="2"
      />
    </template>
  </svg>
</template>
