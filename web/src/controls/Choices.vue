<script setup lang="ts" generic="T extends { id: string; name: string; more?: string }">
// Several of many, found by typing. What is chosen is not offered again, so that Enter never takes it away; the menu closes with each
// choice, so that it lies over nothing; the focus stays.
import { computed, nextTick, useTemplateRef } from 'vue'

const props = defineProps<{ options: T[]; label: string; placeholder?: string }>()
const chosen = defineModel<string[]>({ required: true })
const select = useTemplateRef<{ focus: () => void; blur: () => void }>('select')

const offered = computed(() => props.options.filter((one) => !chosen.value.includes(one.id)))
const nameOf = (id: string) => props.options.find((one) => one.id === id)?.name ?? '…'
const remove = (id: string) => (chosen.value = chosen.value.filter((other) => other !== id))

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
    <template #tag>
      <el-tag v-for="id in chosen" :key="id" closable type="info" disable-transitions @close="remove(id)">{{
        nameOf(id)
      }}</el-tag>
    </template>
    <el-option v-for="one in offered" :key="one.id" :value="one.id" :label="one.name">
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
