<script setup lang="ts">
// What the trips teach, each with the trips behind it: taken up with a key, or silenced for good.
import type { Lesson } from '@/domain/lessons'

defineProps<{
  lessons: Lesson[]
  /** Trips by their ids, as they are called. */
  names: Map<string, string>
  /** Whether what a lesson would do can be done on the list at hand. */
  canAct: (lesson: Lesson) => boolean
  /** Why not. */
  hindrance: (lesson: Lesson) => string
}>()
const emit = defineEmits<{ act: [lesson: Lesson]; silence: [lesson: Lesson] }>()
const ACTS = {
  leave_out: 'Make it a swap',
  wish: 'Make it a swap',
  bring: 'Bring it',
  offset: 'Set',
} as const
</script>

<template>
  <section class="card" aria-label="What it taught">
    <h2>What it taught <kbd v-if="lessons.some((one) => one.act && canAct(one))">a</kbd></h2>
    <p v-if="lessons.length === 0" class="muted">
      Nothing yet. Say of two trips or more what you used, and what they have in common stands here.
    </p>
    <ul v-else class="rows">
      <li v-for="lesson in lessons" :key="lesson.key">
        <span>
          <b>{{ lesson.title }}</b>
          <small v-if="lesson.why">{{ lesson.why }}</small>
          <small v-if="lesson.act && hindrance(lesson)">{{ hindrance(lesson) }}</small>
          <small class="muted">{{
            [...new Set(lesson.on)]
              .map((trip) => names.get(trip))
              .filter(Boolean)
              .join(', ')
          }}</small>
        </span>
        <span class="acts">
          <el-button v-if="lesson.act && canAct(lesson)" size="small" @click="emit('act', lesson)">{{
            ACTS[lesson.act.kind]
          }}</el-button>
          <el-button
            link
            size="small"
            :aria-label="`Dismiss: ${lesson.title}`"
            @click="emit('silence', lesson)"
            >Dismiss</el-button
          >
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
small {
  display: block;
  font-size: var(--text-s);
}
.acts {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: var(--s-0h);
}
.acts :deep(.el-button) {
  margin: 0;
}
</style>
