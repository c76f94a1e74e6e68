<script setup lang="ts">
// A figure that is changed by clicking it: what is refused stays typed, with the reason under it.
import { nextTick, ref, useTemplateRef } from 'vue'
import Figure from '@/marks/Figure.vue'

const props = defineProps<{
  figure: string
  unit: string
  label: string
  tone: 'chosen' | 'money'
  typed: string
  save: (typed: string) => Promise<void>
}>()

const editing = ref(false)
const text = ref('')
const refusal = ref('')
const field = useTemplateRef<HTMLInputElement>('field')

async function edit() {
  text.value = props.typed
  refusal.value = ''
  editing.value = true
  await nextTick()
  field.value?.select()
}

async function finish() {
  if (!editing.value) return
  if (text.value.trim() === props.typed) {
    editing.value = false
    return
  }
  try {
    await props.save(text.value)
    editing.value = false
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

defineExpose({ edit })
</script>

<template>
  <span class="editable">
    <span v-if="editing" class="editing">
      <input
        ref="field"
        v-model="text"
        :aria-label="label"
        :aria-invalid="refusal !== ''"
        @keydown.enter="finish"
        @keydown.esc.stop="editing = false"
        @blur="finish"
      />
      <span v-if="refusal" class="refusal" role="alert">{{ refusal }}</span>
    </span>
    <button v-else class="plain" :title="`Change the ${label}`" :data-figure="label" @click="edit">
      <span class="visually-hidden">{{ label }}</span>
      <Figure :figure="figure" unit="" size="beam" :tone="tone" />
    </button>
    <span class="caption">{{ unit }} {{ label }}</span>
  </span>
</template>

<style scoped>
.editable {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  line-height: 1.05;
}
.editing {
  position: relative;
}
input {
  font: 650 20px var(--font);
  width: 96px;
  height: 30px;
  text-align: right;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--lake);
  border-radius: var(--radius);
  padding: 0 6px;
}
.refusal {
  position: absolute;
  top: 34px;
  right: 0;
  z-index: 20;
  width: 300px;
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--lingonberry);
  border-radius: var(--radius);
  padding: 8px 10px;
  line-height: 1.35;
  font-size: 13px;
  box-shadow: var(--el-box-shadow-light);
}
button :deep(b) {
  border-bottom: 1px dotted var(--line-strong);
}
button:hover :deep(b) {
  border-bottom-color: currentColor;
}
.caption {
  font-size: 11px;
  color: var(--ink-2);
  margin-top: 3px;
  white-space: nowrap;
}
</style>
