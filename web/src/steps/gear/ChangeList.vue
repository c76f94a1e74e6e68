<script setup lang="ts">
// Changes, newest first, each undone from here.
import type { Change } from '@/api/client'
import { useUndo } from '@/api/queries'
import { useMessages } from '@/shell/messages'

defineProps<{ changes: Change[] }>()
const undo = useUndo()
const { done, failed } = useMessages()

async function takeBack(change: Change) {
  try {
    await undo({ change: change.id })?.()
    done(`Undone: ${change.said}`)
  } catch (error) {
    if (error instanceof Error) failed(error)
  }
}
const when = (at: string) =>
  new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <ul class="rows">
    <li v-for="change in changes" :key="change.id">
      <span :class="{ undone: change.undone_at }">
        {{ change.said }} <span class="muted">{{ when(change.at) }}</span>
      </span>
      <span v-if="change.undone_at" class="muted">undone</span>
      <button
        v-else
        type="button"
        class="plain link"
        :aria-label="`Undo: ${change.said}`"
        @click="takeBack(change)"
      >
        undo
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.undone {
  color: var(--ink-2);
  text-decoration: line-through;
}
.rows .muted {
  font-size: 13px;
}
</style>
