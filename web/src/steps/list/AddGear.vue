<script setup lang="ts">
// Gear that is found by its name goes onto the list with Enter.
import { computed, ref, useTemplateRef } from 'vue'
import type { Gear } from '@/api/client'
import { useUnits } from '@/domain/units'

const props = defineProps<{
  /** Gear that is not on the list. */
  shelf: Gear[]
}>()
const emit = defineEmits<{ add: [thing: Gear] }>()
const units = useUnits()
const find = ref('')
const field = useTemplateRef<{ focus: () => void }>('field')
defineExpose({ focus: () => field.value?.focus() })

const found = computed(() => {
  const words = find.value.trim().toLowerCase().split(/\s+/)
  return find.value.trim() === ''
    ? []
    : props.shelf
        .filter((thing) => words.every((word) => thing.name.toLowerCase().includes(word)))
        .slice(0, 8)
})
function add(thing: Gear | undefined) {
  if (!thing) return
  find.value = ''
  emit('add', thing)
}
</script>

<template>
  <form class="adding screen-only" @submit.prevent="add(found[0])">
    <el-input
      ref="field"
      v-model="find"
      size="small"
      clearable
      placeholder="Add gear: type its name, then Enter"
      aria-label="Add gear to the list"
    />
    <el-button v-for="thing in found" :key="thing.id" size="small" @click="add(thing)"
      >{{ thing.name }} {{ thing.weight ? units.tableText(thing.weight.unit_mg) : '?' }}</el-button
    >
    <span v-if="find.trim() && !found.length" class="muted">No gear matches “{{ find }}”.</span>
  </form>
</template>

<style scoped>
.adding {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
  align-items: center;
  margin: var(--s-1h) 0 var(--s-2h);
}
.adding :deep(.el-input) {
  width: 280px;
}
.adding :deep(.el-button) {
  margin: 0;
}
@media (max-width: 700px) {
  .adding :deep(.el-input) {
    width: 100%;
  }
}
@media print {
  .adding {
    display: none;
  }
}
</style>
