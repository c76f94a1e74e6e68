<script setup lang="ts">
// What is shown of something that is asked for: its outline while it comes, what is known of it, and a way to try again beside that.
// Nothing is shown of what is not known: an empty state would say that there is nothing.
import { offlineSince } from '@/api/network'

defineProps<{ known: boolean; error: Error | null; what: string; rows?: number }>()
const emit = defineEmits<{ retry: [] }>()
</script>

<template>
  <!-- Without network what is known stands; that it is old is said once, on top. -->
  <el-alert
    v-if="error && !(known && offlineSince)"
    class="failed"
    type="error"
    :closable="false"
    show-icon
    role="alert"
  >
    <template #title>{{ what }} could not be loaded. {{ error.message }}</template>
    <el-button size="small" @click="emit('retry')">Try again</el-button>
  </el-alert>
  <slot v-if="known" />
  <el-skeleton v-else-if="!error" :rows="rows ?? 6" animated :aria-label="`${what} is loading`" />
</template>

<style scoped>
.failed {
  --el-alert-title-with-description-font-size: var(--text);
  --el-alert-icon-large-size: 20px;
  margin-bottom: var(--s-4);
}
.failed :deep(.el-alert__title) {
  line-height: 1.4;
}
</style>
