<script setup lang="ts">
// Makers' figures against the walker's own scale: a dot a pair, the median as a line. To the right: heavier than claimed.
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'

const props = defineProps<{ errors: number[]; median: number | null }>()

const WIDTH = 386
const BASE = 62
const PAD = 20
const extent = computed(() => {
  const far = Math.max(50_000, ...props.errors.map(Math.abs))
  return Math.ceil(far / 50_000) * 50_000
})
const x = computed(() => scaleLinear([-extent.value, extent.value], [PAD, WIDTH - PAD]))
const ticks = computed(() => [-1, -0.5, 0, 0.5, 1].map((part) => part * extent.value))
const label = (error: number) => `${error > 0 ? '+' : ''}${String(error / 10_000).replace('-', '−')} %`
/** Dots that would lie on one another are stacked. */
const dots = computed(() => {
  const last: number[] = []
  return [...props.errors]
    .sort((a, b) => a - b)
    .map((error) => {
      const at = x.value(error)
      let level = last.findIndex((other) => at - other > 9)
      if (level < 0) level = last.length
      last[level] = at
      return { at, y: BASE - 9 - (level % 5) * 9 }
    })
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} 84`" width="100%" aria-hidden="true">
    <line x1="8" :x2="WIDTH - 8" :y1="BASE" :y2="BASE" stroke="var(--line-strong)" />
    <g v-for="tick in ticks" :key="tick">
      <line
        :x1="x(tick)"
        :x2="x(tick)"
        :y1="tick === 0 ? 8 : BASE - 4"
        :y2="BASE"
        stroke="var(--line-strong)"
      />
      <text :x="x(tick)" :y="BASE + 16" text-anchor="middle" font-size="11" fill="var(--ink-2)">
        {{ label(tick) }}
      </text>
    </g>
    <circle
      v-for="(dot, at) in dots"
      :key="at"
      :cx="dot.at"
      :cy="dot.y"
      r="4"
      fill="var(--spruce)"
      opacity="0.85"
    />
    <line
      v-if="median !== null"
      :x1="x(median)"
      :x2="x(median)"
      y1="8"
      :y2="BASE"
      stroke="var(--ink)"
      stroke-width="2"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
</style>
