<script setup lang="ts">
// One message of what was done at a time, the newest; cautions stand until they are closed.
import { computed } from 'vue'
import { useMessages } from '@/controls/messages'

const { messages, drop, undo, redoLast, hold, release } = useMessages()
const shown = computed(() => {
  const newest = messages.value.findLast((message) => message.kind === 'done')
  return messages.value.filter((message) => message.kind === 'caution' || message === newest)
})
</script>

<template>
  <div class="messages" role="status" aria-label="Messages">
    <!-- It only waits longer while it is pointed at; what it offers are buttons. -->
    <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
    <div
      v-for="message in shown"
      :key="message.id"
      class="message"
      role="group"
      :class="message.kind"
      @mouseenter="hold(message.id)"
      @mouseleave="release(message)"
      @focusin="hold(message.id)"
      @focusout="release(message)"
    >
      <span>{{ message.text }}</span>
      <el-button v-if="message.undo" link type="primary" @click="undo(message)">Undo <kbd>z</kbd></el-button>
      <el-button v-if="message.redo" link type="primary" @click="redoLast()"
        >Redo <kbd>Shift+z</kbd></el-button
      >
      <el-button link class="close" aria-label="Close this message" @click="drop(message.id)">×</el-button>
    </div>
  </div>
</template>

<style scoped>
.messages {
  position: fixed;
  left: 108px;
  bottom: var(--s-4);
  z-index: 3000;
  display: grid;
  gap: var(--s-2);
  max-width: min(640px, calc(100vw - 32px));
}
.message {
  display: flex;
  align-items: baseline;
  gap: var(--s-4);
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-left: 4px solid var(--spruce);
  border-radius: var(--radius);
  box-shadow: var(--el-box-shadow-light);
  padding: var(--s-2h) var(--s-3h);
}
.message > span {
  min-width: 0;
  overflow-wrap: anywhere;
}
.message.caution {
  border-left-color: var(--lingonberry);
  color: var(--ink);
}
.close {
  margin-left: auto;
  color: var(--ink-2);
}
@media (max-width: 700px) {
  .messages {
    left: var(--s-4);
    bottom: var(--beam-height);
  }
}
</style>
