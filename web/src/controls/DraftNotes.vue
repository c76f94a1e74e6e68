<script setup lang="ts" generic="T extends object">
// What there is to say of a draft: that it is not saved yet, and where somebody else changed the same field.
import type { Clash } from './draft'

defineProps<{
  kept: boolean
  clashes: Clash<T>[]
  /** Fields by their names on the screen, and how a value of one is written. */
  names: Record<string, string>
  written?: (key: string, value: unknown) => string
}>()
const emit = defineEmits<{ discard: []; choose: [clash: Clash<T>, whose: 'mine' | 'theirs'] }>()

const plain = (value: unknown) =>
  value === '' || value === null || value === undefined ? 'nothing' : String(value)
</script>

<template>
  <el-alert v-if="kept" type="info" :closable="false" class="note">
    <template #title>What you typed before is still here, not saved yet.</template>
    <el-button size="small" @click="emit('discard')">Discard it</el-button>
  </el-alert>
  <el-alert v-if="clashes.length" type="warning" :closable="false" class="note" role="alert">
    <template #title>This was changed somewhere else meanwhile. Choose, then save.</template>
    <div v-for="clash in clashes" :key="clash.key" class="clash">
      <b>{{ names[clash.key] ?? clash.key }}</b>
      <el-button size="small" @click="emit('choose', clash, 'mine')"
        >Yours: {{ (written ?? ((_, value) => plain(value)))(clash.key, clash.mine) }}</el-button
      >
      <el-button size="small" @click="emit('choose', clash, 'theirs')"
        >Theirs: {{ (written ?? ((_, value) => plain(value)))(clash.key, clash.theirs) }}</el-button
      >
    </div>
  </el-alert>
</template>

<style scoped>
.note {
  margin-bottom: var(--s-3);
}
.clash {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
  margin-top: var(--s-2);
}
.clash :deep(.el-button) {
  margin: 0;
  max-width: 100%;
  white-space: normal;
  height: auto;
  min-height: 24px;
}
</style>
