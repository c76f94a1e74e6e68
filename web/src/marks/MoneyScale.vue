<script setup lang="ts">
// The beam's right half: money spent and planned, with the budget as a fence.
import { computed } from 'vue'
import { axis, nice } from './scale'
import { sized } from './room'

const props = defineProps<{
  planned: number
  spent?: number
  budget: number | null
  minorPerMajor: number
  width: number
}>()
const all = computed(() => props.planned + (props.spent ?? 0))

const scale = computed(() => {
  const most = Math.max(all.value, props.budget ?? 0, props.minorPerMajor * 10) / props.minorPerMajor
  const { at, marks } = axis(nice([0, most * 1.05], 4), [0, props.width], 4)
  return { x: (minor: number) => at(minor / props.minorPerMajor), marks }
})
</script>

<template>
  <svg v-bind="sized(width + 24, 46, -8)" aria-hidden="true">
    <rect x="0" y="20" :width="width" height="8" fill="var(--sunk)" />
    <rect x="0" y="20" :width="Math.max(0, scale.x(all))" height="8" fill="var(--cloudberry)" />
    <line
      v-if="spent && spent > 0"
      :x1="scale.x(spent)"
      :x2="scale.x(spent)"
      y1="17"
      y2="28"
      stroke="var(--ink)"
      stroke-width="2"
    />
    <g v-for="mark in scale.marks" :key="mark.value">
      <line :x1="mark.at" :x2="mark.at" y1="28" y2="32" stroke="var(--line-strong)" />
      <text :x="mark.at" y="44" text-anchor="middle" font-size="10" fill="var(--ink-2)">
        {{ mark.text }}
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
