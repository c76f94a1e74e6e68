<script setup lang="ts">
// The beam's left half: base weight now (notch), planned (filled), target (a lake line), what is saved between (soft).
import { computed } from 'vue'
import { decimalsOf, niceStep, ticks } from './scale'

const props = defineProps<{
  now: number
  planned: number | null
  target: number | null
  unitMg: number
  width: number
}>()

const scale = computed(() => {
  const values = [props.now, props.planned ?? props.now, props.target ?? props.now].map(
    (mg) => mg / props.unitMg,
  )
  const [least, most] = [Math.min(...values), Math.max(...values)]
  const step = niceStep(Math.max(most - least, most / 6, 0.5), 5)
  const low = Math.max(0, Math.floor((least - step * 0.3) / step) * step)
  const high = Math.ceil((most + step * 0.3) / step) * step
  const x = (mg: number) => ((mg / props.unitMg - low) / (high - low)) * props.width
  const label = (value: number) => value.toFixed(decimalsOf(step))
  return {
    low,
    x,
    label,
    marks: ticks(low, high, step),
    at: (value: number) => ((value - low) / (high - low)) * props.width,
  }
})
</script>

<template>
  <svg :width="width + 20" height="46" :viewBox="`-10 0 ${width + 20} 46`" aria-hidden="true">
    <rect x="0" y="20" :width="width" height="8" fill="var(--sunk)" />
    <template v-if="planned !== null">
      <rect
        :x="scale.x(planned)"
        y="20"
        :width="Math.max(0, scale.x(now) - scale.x(planned))"
        height="8"
        fill="var(--spruce-soft)"
      />
      <rect x="0" y="20" :width="Math.max(0, scale.x(planned))" height="8" fill="var(--spruce)" />
    </template>
    <g v-for="mark in scale.marks" :key="mark">
      <line :x1="scale.at(mark)" :x2="scale.at(mark)" y1="28" y2="34" stroke="var(--line-strong)" />
      <text :x="scale.at(mark)" y="44" text-anchor="middle" font-size="10" fill="var(--ink-2)">
        {{ scale.label(mark) }}
      </text>
    </g>
    <line
      v-if="target !== null"
      :x1="scale.x(target)"
      :x2="scale.x(target)"
      y1="10"
      y2="34"
      stroke="var(--lake)"
      stroke-width="2"
    />
    <path :d="`M${scale.x(now) - 5} 12h10l-5 7z`" fill="var(--ink)" />
  </svg>
</template>
