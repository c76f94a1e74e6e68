<script setup lang="ts">
// The whole account as one file, and restoring it from one.
import type { UploadFile } from 'element-plus'
import { counted } from '@/quantities/count'
import { useRestore } from './files'

const { backup, refusal, open, restore, drop } = useRestore()
function chosen(file: UploadFile) {
  if (file.raw) void open(file.raw)
}
</script>

<template>
  <section class="card">
    <h2>The whole account</h2>
    <p class="muted">Gear, weighings, kits, lists and swaps, as one JSON file that is yours.</p>
    <p class="links"><a class="link" href="/api/files/account.json" download>kevyt-account.json</a></p>
    <el-upload
      class="file"
      :auto-upload="false"
      :show-file-list="false"
      accept=".json,application/json"
      @change="chosen"
    >
      <span class="el-button">Restore from a backup</span>
    </el-upload>
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <template v-if="backup">
      <p class="warn">
        {{ backup.name }} holds {{ counted(backup.gear, 'thing') }} and {{ counted(backup.lists, 'list') }}.
        They take the place of everything that is here now; it can be undone.
      </p>
      <div class="deeds">
        <el-button type="primary" @click="restore">Restore</el-button>
        <el-button @click="drop">Cancel</el-button>
      </div>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--s-3);
  align-content: start;
  min-width: 0;
}
h2 {
  margin: 0;
}
.links {
  display: grid;
  gap: var(--s-1);
  justify-items: start;
}
.warn {
  border-left: 4px solid var(--lingonberry);
  padding-left: var(--s-3);
}
.deeds {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
}
.deeds :deep(.el-button) {
  margin: 0;
}
</style>
