<script setup lang="ts">
// The weighings of a thing over time: a dot each with its doubt as a stroke, the maker's figure as a dashed line.
import { computed } from 'vue'

const props = defineProps<{
  weighings: { at: string; unit_mg: number; half_width_mg: number }[]
  claimed: number | null
}>()

const WIDTH = 360
const HEIGHT = 92
const PAD = { x: 10, y: 12 }

const times = computed(() => props.weighings.map(({ at }) => Date.parse(at)))
const span = computed(() => {
  const [first, last] = [Math.min(...times.value), Math.max(...times.value)]
  return { first, width: Math.max(1, last - first), one: first === last }
})
const figures = computed(() => {
  const ends = props.weighings.flatMap((one) => [
    one.unit_mg - one.half_width_mg,
    one.unit_mg + one.half_width_mg,
  ])
  const all = props.claimed === null ? ends : [...ends, props.claimed]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return { low, height: Math.max(1_000, high - low) }
})
const x = (time: number) =>
  span.value.one ? WIDTH / 2 : PAD.x + ((time - span.value.first) / span.value.width) * (WIDTH - 2 * PAD.x)
const y = (mg: number) =>
  HEIGHT - PAD.y - ((mg - figures.value.low) / figures.value.height) * (HEIGHT - 2 * PAD.y)
const dots = computed(() =>
  props.weighings.map((one, at) => ({
    x: x(times.value[at]!),
    y: y(one.unit_mg),
    low: y(one.unit_mg - one.half_width_mg),
    high: y(one.unit_mg + one.half_width_mg),
    newest: at === 0,
  })),
)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" width="100%" aria-hidden="true">
    <line x1="0" :x2="WIDTH" :y1="HEIGHT - 1" :y2="HEIGHT - 1" stroke="var(--line-strong)" />
    <template v-if="claimed !== null">
      <line
        x1="0"
        :x2="WIDTH"
        :y1="y(claimed)"
        :y2="y(claimed)"
        stroke="var(--ink-3)"
        stroke-dasharray="4 4"
      />
      <text x="2" :y="y(claimed) - 3" font-size="11" fill="var(--ink-2)">claimed</text>
    </template>
    <path
      v-if="dots.length > 1"
      :d="dots.map((dot, at) => `${at ? 'L' : 'M'}${dot.x} ${dot.y}`).join('')"
      fill="none"
      stroke="var(--line-strong)"
    />
    <g v-for="(dot, at) in dots" :key="at">
      <line :x1="dot.x" :x2="dot.x" :y1="dot.low" :y2="dot.high" stroke="var(--spruce)" />
      <circle :cx="dot.x" :cy="dot.y" :r="dot.newest ? 5 : 3.5" fill="var(--spruce)" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
</style>
