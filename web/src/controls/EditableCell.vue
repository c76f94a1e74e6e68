<script setup lang="ts">
// A table cell that is changed in place: click, Enter or just type. The next cell can be typed into while a change is on its way; what
// is refused opens again as it was typed, with the reason under it; where its row is gone by then, a message has both.
import { computed, nextTick, onUnmounted, ref, useTemplateRef, watch } from 'vue'
import { step } from './grid'
import { reason, useMessages } from './messages'

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
/** What was typed and is on its way. */
const sent = ref<string | null>(null)
const refusal = ref('')
const field = useTemplateRef<{ focus: () => void; select: () => void; input?: HTMLInputElement }>('field')
const shown = useTemplateRef<HTMLElement>('shown')
const { failed } = useMessages()
let isGone = false
onUnmounted(() => (isGone = true))
const standing = computed(() => sent.value ?? props.typed)

async function edit(first?: string) {
  text.value = first ?? standing.value
  refusal.value = ''
  editing.value = true
  await nextTick()
  field.value?.focus()
  if (first === undefined) field.value?.select()
}

/** Ends typing and moves on; what was changed is saved behind it. */
async function finish(down = 0, right = 0) {
  if (!editing.value) return
  const typed = text.value
  const moves = down !== 0 || right !== 0
  editing.value = false
  if (moves) {
    await nextTick()
    shown.value?.focus()
    if (shown.value) step(shown.value, down, right)
  }
  if (typed === standing.value && refusal.value === '') return
  refusal.value = ''
  if (typed === props.typed) return
  sent.value = typed
  const { label, save } = props
  try {
    await save(typed)
  } catch (error) {
    // A table drops the rows that are scrolled out of sight, and gives a row to another thing.
    if (isGone || props.label !== label)
      return failed(new Error(`${label}: “${typed}” was not kept. ${reason(error)}`))
    if (editing.value) return
    text.value = typed
    refusal.value = reason(error)
    editing.value = true
  } finally {
    if (sent.value === typed) sent.value = null
  }
}

async function leave() {
  editing.value = false
  refusal.value = ''
  await nextTick()
  shown.value?.focus()
}

// A row that is drawn anew for another thing must not keep what was typed for this one.
watch(
  () => props.label,
  () => (refusal.value === '' ? (editing.value = false) : undefined),
)

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
  <div v-if="editing" class="editing" data-cell :class="{ numeric }">
    <el-input
      ref="field"
      v-model="text"
      size="small"
      :aria-label="label"
      :aria-invalid="refusal !== ''"
      :inputmode="numeric ? 'decimal' : undefined"
      @keydown.enter.prevent.stop="finish(1)"
      @keydown.tab.exact.prevent="finish(0, 1)"
      @keydown.shift.tab.prevent="finish(0, -1)"
      @keydown.esc.stop.prevent="leave()"
      @blur="finish()"
    />
    <span v-if="refusal" class="refusal" role="alert">{{ refusal }}</span>
  </div>
  <div
    v-else
    ref="shown"
    class="shown"
    :class="{ numeric, sent: sent !== null }"
    data-cell
    tabindex="-1"
    role="button"
    :aria-label="`${label}: ${(sent ?? (spoken || typed)) || (placeholder ?? '')}`"
    @click="edit()"
    @keydown.enter.prevent.stop="edit()"
    @keydown.space.prevent.stop="edit()"
    @keydown.f2.prevent="edit()"
    @keydown="startTyping"
  >
    <template v-if="sent !== null">{{ sent }}</template>
    <slot v-else>{{ typed }}</slot>
    <span v-if="standing === '' && placeholder" class="placeholder">{{ placeholder }}</span>
  </div>
</template>

<style scoped>
.shown {
  min-height: 25px;
  padding: var(--s-0h) var(--s-1);
  border-radius: 2px;
  cursor: text;
}
.shown:hover {
  background: var(--sunk);
}
.numeric {
  text-align: right;
}
.sent {
  color: var(--ink-2);
}
.placeholder {
  color: var(--ink-2);
}
.editing {
  position: relative;
}
.editing :deep(.el-input__wrapper) {
  padding: 0 var(--s-1);
}
.numeric :deep(input) {
  text-align: right;
}
.refusal {
  position: absolute;
  top: 27px;
  left: 0;
  z-index: 5;
  width: min(300px, 80vw);
  white-space: normal;
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--lingonberry);
  border-radius: var(--radius);
  padding: var(--s-2) var(--s-2h);
  font-size: var(--text-m);
  box-shadow: var(--el-box-shadow-light);
}
.numeric .refusal {
  left: auto;
  right: 0;
}
@media (pointer: coarse) {
  .shown {
    min-width: 44px;
    min-height: 44px;
    padding-top: var(--s-3);
  }
}
</style>
