<script setup lang="ts">
// The beam's left half: base weight now (notch), planned (filled), target (a lake line), what is saved between (soft).
import { computed } from 'vue'
import { extent } from 'd3-array'
import { axis, nice } from './scale'
import { sized } from './room'

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
  const [least = 0, most = 1] = extent(values)
  // Room on both sides, so that a mark at an end is not cut.
  const room = Math.max(most - least, most / 6, 0.5) * 0.1
  const ends = nice([Math.max(0, least - room), most === 0 ? 10 : most + room], 5)
  const { at, marks } = axis(ends, [0, props.width], 5)
  return { x: (mg: number) => at(mg / props.unitMg), marks }
})
</script>

<template>
  <svg v-bind="sized(width + 20, 46, -10)" aria-hidden="true">
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
    <g v-for="mark in scale.marks" :key="mark.value">
      <line :x1="mark.at" :x2="mark.at" y1="28" y2="34" stroke="var(--line-strong)" />
      <text :x="mark.at" y="44" text-anchor="middle" font-size="10" fill="var(--ink-2)">
        {{ mark.text }}
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
