<script setup lang="ts">
// The weighings of a thing over time: a dot each with its doubt as a stroke, the maker's figure as a dashed line.
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'

const props = defineProps<{
  weighings: { at: string; unit_mg: number; half_width_mg: number }[]
  claimed: number | null
}>()

const WIDTH = 360
const HEIGHT = 92
const PAD = { x: 10, y: 12 }

const times = computed(() => props.weighings.map(({ at }) => Date.parse(at)))
const figures = computed(() =>
  props.weighings
    .flatMap((one) => [one.unit_mg - one.half_width_mg, one.unit_mg + one.half_width_mg])
    .concat(props.claimed ?? []),
)
const x = computed(() => {
  const [first = 0, last = 0] = extent(times.value)
  return first === last ? () => WIDTH / 2 : scaleLinear([first, last], [PAD.x, WIDTH - PAD.x])
})
const y = computed(() => {
  const [low = 0, high = 0] = extent(figures.value)
  return scaleLinear([low, Math.max(low + 1_000, high)], [HEIGHT - PAD.y, PAD.y])
})
const dots = computed(() =>
  props.weighings.map((one, at) => ({
    x: x.value(times.value[at]!),
    y: y.value(one.unit_mg),
    low: y.value(one.unit_mg - one.half_width_mg),
    high: y.value(one.unit_mg + one.half_width_mg),
    newest: at === 0,
  })),
)
const path = computed(
  () =>
    line<{ x: number; y: number }>(
      (dot) => dot.x,
      (dot) => dot.y,
    )(dots.value) ?? '',
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
      <text x="2" :y="y(claimed) - 3" font-size="11" fill="var(--ink-2)">maker’s figure</text>
    </template>
    <path v-if="dots.length > 1" :d="path" fill="none" stroke="var(--line-strong)" />
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
