<script setup lang="ts">
// Changes by day, newest first, each undone from here.
import { computed } from 'vue'
import type { Change } from '@/api/client'
import { useUndo } from '@/api/changes'
import { timeOf } from '@/quantities/dates'
import { useMessages } from '@/controls/messages'
import { entryWords } from '@/domain/events'
import { useUnits } from '@/domain/units'
import { byDay } from './gear'

const props = defineProps<{ changes: Change[] }>()
const undo = useUndo()
const { done, failed } = useMessages()
const units = useUnits()
const words = ({ entry }: Change) => entryWords(entry, units)
const days = computed(() => byDay(props.changes, new Date()))

async function takeBack(change: Change) {
  try {
    const again = await undo({ change: change.id })?.()
    done(`Undone: ${words(change)}`, again)
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <section v-for="day in days" :key="day.name">
    <h3>{{ day.name }}</h3>
    <ul class="rows">
      <li v-for="change in day.changes" :key="change.id">
        <time class="muted" :datetime="change.at">{{ timeOf(change.at) }}</time>
        <span class="what" :class="{ undone: change.undone_at }">{{ words(change) }}</span>
        <span v-if="change.undone_at" class="muted">undone</span>
        <el-button v-else link type="primary" :aria-label="`Undo: ${words(change)}`" @click="takeBack(change)"
          >Undo</el-button
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
section + section {
  margin-top: var(--s-4);
}
h3 {
  margin: 0 0 var(--s-1);
  font-size: var(--text);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  align-items: baseline;
}
time {
  min-width: 44px;
  font-variant-numeric: tabular-nums;
}
.what {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.undone {
  color: var(--ink-2);
  text-decoration: line-through;
}
</style>
