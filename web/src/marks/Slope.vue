<script setup lang="ts">
// The mark of the product: run is money, rise is grams. The angle is grams for money, 45° at the median of those shown.
import { computed } from 'vue'
import { sized } from './room'

const props = withDefaults(
  defineProps<{
    saving: number
    net: number
    /** Grams for money of the median paid swap. */
    median: number
    height?: number
  }>(),
  { height: 32 },
)

const LENGTH = 27
const slope = computed(() => {
  const base = props.height - 4
  const free = props.net <= 0
  const angle = free ? Math.PI / 2 : Math.atan(props.saving / props.net / props.median)
  const x = 4 + LENGTH * Math.cos(angle) * 1.25
  const y = base - Math.min(LENGTH, props.height - 8) * Math.sin(angle)
  return { base, free, flat: props.saving <= 0, x, y }
})
</script>

<template>
  <svg v-bind="sized(46, height)" aria-hidden="true">
    <line x1="4" :y1="slope.base" x2="42" :y2="slope.base" stroke="var(--line-strong)" />
    <line
      v-if="slope.flat"
      x1="4"
      :y1="slope.base"
      x2="31"
      :y2="slope.base"
      stroke="var(--ink-3)"
      stroke-width="3"
    />
    <template v-else>
      <template v-if="!slope.free">
        <path :d="`M4 ${slope.base}H${slope.x}V${slope.y}Z`" fill="var(--spruce-soft)" />
        <line
          x1="4"
          :y1="slope.base"
          :x2="slope.x"
          :y2="slope.base"
          stroke="var(--cloudberry)"
          stroke-width="2.5"
        />
      </template>
      <line
        x1="4"
        :y1="slope.base"
        :x2="slope.x"
        :y2="slope.y"
        stroke="var(--spruce)"
        :stroke-width="slope.free ? 4 : 2.5"
        stroke-linecap="round"
      />
    </template>
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
</style>
