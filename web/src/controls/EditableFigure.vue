<script setup lang="ts">
// A figure that is changed by clicking it: what is refused stays typed, with the reason under it.
import { nextTick, ref, useTemplateRef } from 'vue'
import Figure from '@/marks/Figure.vue'
import { reason } from './messages'

const props = defineProps<{
  figure: string
  /** Stands under the figure, before the label. */
  unit: string
  /** Stands beside the figure. */
  beside?: string
  label: string
  tone: 'chosen' | 'money'
  typed: string
  save: (typed: string) => Promise<unknown>
}>()

const editing = ref(false)
const text = ref('')
const refusal = ref('')
const field = useTemplateRef<{ focus: () => void; select: () => void }>('field')
const button = useTemplateRef<{ $el: HTMLElement }>('button')

async function edit() {
  text.value = props.typed
  refusal.value = ''
  editing.value = true
  await nextTick()
  field.value?.focus()
  field.value?.select()
}

async function close(refocus: boolean) {
  editing.value = false
  if (!refocus) return
  await nextTick()
  button.value?.$el.focus()
}

async function finish(refocus: boolean) {
  if (!editing.value) return
  if (text.value.trim() === props.typed) return close(refocus)
  const typed = text.value
  await close(refocus)
  try {
    await props.save(typed)
  } catch (error) {
    // What is being typed by then is never written over.
    if (editing.value) {
      refusal.value = `“${typed}” was not kept. ${reason(error)}`
      return
    }
    text.value = typed
    refusal.value = reason(error)
    editing.value = true
  }
}

defineExpose({ edit })
</script>

<template>
  <span class="editable">
    <span v-if="editing" class="editing">
      <el-input
        ref="field"
        v-model="text"
        :aria-label="label"
        :aria-invalid="refusal !== ''"
        @keydown.enter.prevent.stop="finish(true)"
        @keydown.esc.stop="close(true)"
        @blur="finish(false)"
      />
      <span v-if="refusal" class="refusal" role="alert">{{ refusal }}</span>
    </span>
    <el-button v-else ref="button" link :title="`Change the ${label}`" :data-figure="label" @click="edit">
      <span class="visually-hidden">{{ label }}</span>
      <Figure :figure="figure" :unit="beside ?? ''" size="beam" :tone="tone" />
    </el-button>
    <span class="caption">{{ unit }} {{ label }}</span>
  </span>
</template>

<style scoped>
@media (pointer: coarse) {
  .editable > :deep(.el-button) {
    margin-block: calc(-1 * var(--s-2h));
  }
}
.editable {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  line-height: 1.05;
}
.editing {
  position: relative;
}
.editing :deep(.el-input) {
  width: 104px;
}
.editing :deep(input) {
  font: 650 var(--text-xl) var(--font);
  text-align: right;
}
.refusal {
  position: absolute;
  top: 36px;
  right: 0;
  z-index: 20;
  width: min(300px, 80vw);
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--lingonberry);
  border-radius: var(--radius);
  padding: var(--s-2) var(--s-2h);
  line-height: 1.35;
  font-size: var(--text-m);
  box-shadow: var(--el-box-shadow-light);
}
.editable > :deep(.el-button) {
  height: auto;
  padding: 0;
  border: 0;
}
.editable > :deep(.el-button b) {
  border-bottom: 1px dotted var(--line-strong);
}
.editable > :deep(.el-button:hover b) {
  border-bottom-color: currentColor;
}
.caption {
  font-size: var(--text-xs);
  color: var(--ink-2);
  margin-top: var(--s-0h);
  white-space: nowrap;
}
</style>
