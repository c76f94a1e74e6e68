<script setup lang="ts">
// A price over time, as steps: seen from when to when.
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import { sized } from './room'

const props = defineProps<{ seen: { since: string; until: string; price_minor: number }[] }>()

const WIDTH = 120
const HEIGHT = 30
const PAD = 4

const steps = computed(() =>
  props.seen.map(({ since, until, price_minor }) => ({
    from: Date.parse(since),
    to: Date.parse(until),
    price: price_minor,
  })),
)
const path = computed(() => {
  const [first, last] = extent(steps.value.flatMap(({ from, to }) => [from, to]))
  const [low, high] = extent(steps.value.map(({ price }) => price))
  if (first === undefined || low === undefined) return ''
  // What was seen once, or never moved, still is a line.
  const x = scaleLinear([first, Math.max(last, first + 1)], [PAD, WIDTH - PAD])
  const y = low === high ? () => HEIGHT / 2 : scaleLinear([low, high], [HEIGHT - PAD, PAD])
  const walked = steps.value.map(
    ({ from, price }, at) => `${at ? 'H' : 'M'}${x(from)}${at ? 'V' : ','}${y(price)}`,
  )
  return `${walked.join('')}H${WIDTH - PAD}`
})
</script>

<template>
  <svg v-bind="sized(WIDTH, HEIGHT)" aria-hidden="true">
    <path :d="path" fill="none" stroke="var(--cloudberry)" stroke-width="1.5" stroke-linejoin="round" />
  </svg>
</template>
