<script setup lang="ts">
import { currentKeys } from './keys'

const open = defineModel<boolean>({ required: true })
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="min(420px, 94vw)">
    <section v-for="group in currentKeys" :key="group.name">
      <h2>{{ group.name }}</h2>
      <div class="rows">
        <div v-for="key in group.keys" :key="key.key">
          <span>{{ key.does }}</span>
          <kbd>{{ key.key }}</kbd>
        </div>
      </div>
    </section>
    <p class="muted">In tables: arrows move, Enter opens or changes, Esc leaves.</p>
  </el-dialog>
</template>

<style scoped>
section {
  margin-bottom: var(--s-4);
}
</style>
