<script setup lang="ts">
import { useMessages } from './messages'

const { messages, drop, undo } = useMessages()
</script>

<template>
  <div class="messages" aria-live="polite">
    <div v-for="message in messages" :key="message.id" class="message" :class="message.kind">
      <span>{{ message.text }}</span>
      <button v-if="message.undo" class="plain link" @click="undo(message)">Undo <kbd>z</kbd></button>
      <button class="plain close" aria-label="Close this message" @click="drop(message.id)">×</button>
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
  padding: 10px 14px;
}
.message.caution {
  border-left-color: var(--lingonberry);
  color: var(--ink);
}
.close {
  margin-left: auto;
  color: var(--ink-2);
  padding: 0 4px;
}
@media (max-width: 700px) {
  .messages {
    left: var(--s-4);
    bottom: 72px;
  }
}
</style>
