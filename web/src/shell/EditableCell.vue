<script setup lang="ts">
// A table cell that is changed in place: click, Enter or just type. What is refused stays typed, with the reason under it.
import { nextTick, ref, useTemplateRef } from 'vue'
import { step } from './grid'

const props = defineProps<{
  label: string
  typed: string
  /** What stands in it, where the slot shows another form than what was typed. */
  spoken?: string
  save: (typed: string) => Promise<unknown>
  numeric?: boolean
  placeholder?: string
}>()

const editing = ref(false)
const text = ref('')
const refusal = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
const shown = useTemplateRef<HTMLElement>('shown')

async function edit(first?: string) {
  text.value = first ?? props.typed
  refusal.value = ''
  editing.value = true
  await nextTick()
  field.value?.focus()
  if (first === undefined) field.value?.select()
}

async function finish(goOn: boolean) {
  if (!editing.value) return
  try {
    if (text.value !== props.typed) await props.save(text.value)
    await leave(goOn)
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

async function leave(goOn = false) {
  editing.value = false
  await nextTick()
  shown.value?.focus()
  if (goOn && shown.value) step(shown.value, 1, 0)
}

function startTyping(event: KeyboardEvent) {
  const plain = !event.ctrlKey && !event.metaKey && !event.altKey
  // Figures are typed over at once; letters stay the shortcuts of the screen.
  if (plain && props.numeric && /^[0-9]$/.test(event.key)) {
    event.preventDefault()
    event.stopPropagation()
    void edit(event.key)
  }
}
</script>

<template>
  <div v-if="editing" class="editing" :class="{ numeric }">
    <input
      ref="field"
      v-model="text"
      :aria-label="label"
      :aria-invalid="refusal !== ''"
      @keydown.enter.prevent="finish(true)"
      @keydown.esc.stop.prevent="leave()"
      @blur="finish(false)"
    />
    <span v-if="refusal" class="refusal" role="alert">{{ refusal }}</span>
  </div>
  <div
    v-else
    ref="shown"
    class="shown"
    :class="{ numeric }"
    data-cell
    tabindex="0"
    role="button"
    :aria-label="`${label}: ${(spoken ?? typed) || (placeholder ?? '')}`"
    @click="edit()"
    @keydown.enter.prevent="edit()"
    @keydown="startTyping"
  >
    <slot>{{ typed }}</slot>
    <span v-if="typed === '' && placeholder" class="placeholder">{{ placeholder }}</span>
  </div>
</template>

<style scoped>
.shown {
  min-height: 25px;
  padding: 2px 4px;
  border-radius: 2px;
  cursor: text;
}
.shown:hover {
  background: var(--sunk);
}
.numeric {
  text-align: right;
}
.placeholder {
  color: var(--ink-2);
}
.editing {
  position: relative;
}
input {
  font: inherit;
  width: 100%;
  min-width: 0;
  height: 25px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--lake);
  border-radius: 2px;
  padding: 0 3px;
}
.numeric input {
  text-align: right;
}
.refusal {
  position: absolute;
  top: 27px;
  left: 0;
  z-index: 5;
  width: 300px;
  white-space: normal;
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--lingonberry);
  border-radius: var(--radius);
  padding: 8px 10px;
  font-size: 13px;
  box-shadow: var(--el-box-shadow-light);
}
.numeric .refusal {
  left: auto;
  right: 0;
}
</style>
