<script setup lang="ts">
import { group } from 'd3-array'
import { computed } from 'vue'
import { currentKeys, printed, singleKeys } from '@/controls/keys'

const open = defineModel<boolean>({ required: true })
/** By screen, however many parts of it have keys. */
const screens = computed(() => group(currentKeys.value, ({ name }) => name))
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="min(420px, 94vw)" :z-index="3100">
    <section v-for="[name, groups] in screens" :key="name">
      <h3>{{ name }}</h3>
      <div class="rows">
        <div v-for="key in groups.flatMap(({ keys }) => keys)" :key="key.key">
          <span>{{ key.does }}</span>
          <kbd>{{ printed(key.key) }}</kbd>
        </div>
      </div>
    </section>
    <p class="muted">In tables: arrows move, Enter opens or changes, Tab goes on, Esc leaves.</p>
    <el-checkbox v-model="singleKeys">Single letters and digits are shortcuts</el-checkbox>
  </el-dialog>
</template>

<style scoped>
section {
  margin-bottom: var(--s-4);
}
h3 {
  margin: 0 0 var(--s-1);
  font-size: var(--text);
}
</style>
