<script setup lang="ts">
// What a thing is, chosen from all kinds by typing a part of the name; the one that its name says comes first.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { vocabularyQuery } from '@/api/queries'

const props = defineProps<{
  /** The key of the kind; empty while nobody has said. */
  modelValue: string
  /** The kind that the name says. */
  proposed?: string
  label: string
  size?: 'small' | 'default'
}>()
const emit = defineEmits<{ 'update:modelValue': [key: string] }>()

const { data: vocabulary } = useQuery(vocabularyQuery)
const kinds = computed(() => vocabulary.value?.kinds ?? [])
const systems = computed(() => new Map(vocabulary.value?.systems.map((one) => [one.key, one.name])))
const nameOf = (key: string | undefined) => kinds.value.find((one) => one.key === key)?.name
const typed = ref('')
const found = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = kinds.value.filter((kind) => words.every((word) => kind.name.includes(word)))
  const first = fits.filter((kind) => kind.key === props.proposed)
  return [...first, ...fits.filter((kind) => kind.key !== props.proposed)]
})
const select = ref<{ focus: () => void; $el: HTMLElement } | null>(null)
defineExpose({ focus: () => select.value?.focus() })
</script>

<template>
  <el-select
    ref="select"
    :model-value="modelValue"
    :size="size ?? 'default'"
    filterable
    default-first-option
    :filter-method="(text: string) => (typed = text)"
    :aria-label="label"
    :placeholder="nameOf(proposed) ? `${nameOf(proposed)}?` : 'what is it?'"
    @update:model-value="(key: string) => emit('update:modelValue', key)"
    @visible-change="() => (typed = '')"
  >
    <el-option v-for="kind in found" :key="kind.key" :value="kind.key" :label="kind.name">
      <span class="kind"
        >{{ kind.name }} <span class="muted">{{ systems.get(kind.system) }}</span></span
      >
    </el-option>
  </el-select>
</template>

<style scoped>
.kind {
  display: flex;
  justify-content: space-between;
  gap: var(--s-3);
}
</style>
