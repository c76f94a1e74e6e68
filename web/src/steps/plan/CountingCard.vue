<script setup lang="ts">
// What the plan counts on: by how much it clears the target as weights are stated, as they are expected, and at worst.
import { computed } from 'vue'
import type { Counting, PlanAnswer } from '@/api/client'
import PickRows from '@/controls/PickRows.vue'
import { TARGETS } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer }>()
const emit = defineEmits<{ count: [counting: Counting] }>()
const units = useUnits()
const NAMES: Record<Counting, [string, string]> = {
  stated: ['Weights as stated', ''],
  expected: ['As your scale finds them', 'makers’ figures moved by your own median'],
  worst: ['Worst case', 'every weight at its heaviest'],
}
const rows = computed(() =>
  props.answer.plan.clears.map(({ counting }) => ({
    value: counting,
    name: NAMES[counting][0],
    note: NAMES[counting][1],
  })),
)
const clearsBy = (counting: Counting) =>
  props.answer.plan.clears.find((one) => one.counting === counting)?.mg ?? 0
/** "7 in 10", and nothing surer than 99 in 100. */
const chance = computed(() => {
  const percent = props.answer.chance_percent
  if (percent == null) return ''
  if (percent >= 99 || percent <= 1) return percent >= 99 ? 'At least 99 in 100' : 'At most 1 in 100'
  return `${Math.round(percent / 10)} in 10`
    .replace(/^10 in 10$/, 'Over 9 in 10')
    .replace(/^0 in 10$/, 'Under 1 in 10')
})
</script>

<template>
  <section v-if="rows.length" class="card" aria-label="Weights used">
    <h2>Weights used</h2>
    <PickRows
      v-slot="{ value }"
      :model-value="answer.list.terms.counting"
      label="The plan counts on"
      :rows="rows"
      @update:model-value="(counting) => emit('count', counting)"
    >
      <span :class="['n', { caution: clearsBy(value) < 0 }]"
        >{{ clearsBy(value) < 0 ? 'over the target by' : 'under the target by' }}
        <b>{{ units.tableText(Math.abs(clearsBy(value))) }}</b></span
      >
    </PickRows>
    <p v-if="chance" class="muted">
      <b>{{ chance }}</b> that the scale agrees: {{ TARGETS[answer.list.terms.target_of].name }} at or under
      the target.
    </p>
  </section>
</template>

<style scoped>
.n {
  white-space: nowrap;
}
</style>
