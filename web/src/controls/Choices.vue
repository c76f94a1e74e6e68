<script setup lang="ts" generic="T extends { id: string; name: string; more?: string }">
// Several of many, found by typing. What is chosen can't be chosen again, so that Enter never takes it away; the menu closes with each
// choice, so that it lies over nothing; the focus stays.
import { nextTick, useTemplateRef } from 'vue'

defineProps<{ options: T[]; label: string; placeholder?: string }>()
const chosen = defineModel<string[]>({ required: true })
const select = useTemplateRef<{ focus: () => void; blur: () => void }>('select')

async function close() {
  await nextTick()
  select.value?.blur()
  await nextTick()
  select.value?.focus()
}
</script>

<template>
  <el-select
    ref="select"
    v-model="chosen"
    multiple
    filterable
    default-first-option
    :reserve-keyword="false"
    :placeholder="placeholder"
    :aria-label="label"
    @change="close"
  >
    <el-option
      v-for="one in options"
      :key="one.id"
      :value="one.id"
      :label="one.name"
      :disabled="chosen.includes(one.id)"
    >
      <span>{{ one.name }}</span>
      <span v-if="one.more" class="more">{{ one.more }}</span>
    </el-option>
  </el-select>
</template>

<style scoped>
.more {
  float: right;
  margin-left: var(--s-4);
  color: var(--ink-2);
}
</style>
