<script setup lang="ts">
// What the target is of: base weight, the pack at its heaviest start, or the heavy few.
import type { PlanAnswer, TargetOf } from '@/api/client'
import PickRows from '@/controls/PickRows.vue'
import { TARGETS } from '@/domain/targetOf'

defineProps<{ answer: PlanAnswer }>()
const emit = defineEmits<{ pick: [of: TargetOf] }>()
const NOTES: Record<TargetOf, string> = {
  base: 'carried, without food, water and gas',
  loaded: 'the pack at its heaviest start',
  heavy_few: 'pack, shelter and sleep insulation',
}
const rows = (Object.keys(TARGETS) as TargetOf[]).map((of) => ({
  value: of,
  name: TARGETS[of].choice,
  note: NOTES[of],
}))
</script>

<template>
  <section class="card" aria-label="What the target is of">
    <h2>A target of</h2>
    <PickRows
      :model-value="answer.list.terms.target_of"
      label="The target is of"
      :rows="rows"
      @update:model-value="(of) => emit('pick', of)"
    />
    <p v-if="answer.list.terms.target_of === 'loaded' && !answer.list.trip" class="muted">
      This list has no trip yet, so only what it has as used up is loaded.
    </p>
  </section>
</template>
