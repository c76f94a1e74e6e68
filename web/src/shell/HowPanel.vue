<script setup lang="ts">
// How a step works: three sentences and an example, in the walker's units.
import { computed } from 'vue'
import { useUnits } from '@/domain/units'
import type { HowItWorks } from './howItWorks'

const props = defineProps<{ how: HowItWorks }>()
const units = useUnits()
const example = computed(() =>
  units.system.value === 'metric' ? props.how.example : (props.how.inPounds ?? props.how.example),
)
</script>

<template>
  <div>
    <p v-for="sentence in how.sentences" :key="sentence">{{ sentence }}</p>
    <p class="example">{{ example }}</p>
  </div>
</template>

<style scoped>
p {
  margin: 0 0 var(--s-2);
}
.example {
  margin: 0;
  padding: var(--s-2) var(--s-3);
  border-left: 3px solid var(--spruce);
  background: color-mix(in srgb, var(--spruce-soft) 40%, var(--sheet));
}
</style>
