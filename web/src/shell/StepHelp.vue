<script setup lang="ts">
// How the step works, in three sentences with an example, and its keys.
import { group } from 'd3-array'
import { computed } from 'vue'
import { ANYWHERE, currentKeys, printed, singleKeys } from '@/controls/keys'
import HowPanel from './HowPanel.vue'
import type { HowItWorks } from './howItWorks'

defineProps<{ how: HowItWorks | undefined }>()
const open = defineModel<boolean>({ required: true })
/** By screen, however many parts of it have keys; what works anywhere comes last. */
const screens = computed(() =>
  [...group(currentKeys.value, ({ name }) => name)].sort(
    ([a], [b]) => Number(a === ANYWHERE) - Number(b === ANYWHERE),
  ),
)
</script>

<template>
  <el-dialog
    v-model="open"
    :title="how ? `How ${how.name} works` : 'Keys'"
    width="min(32.5rem, 94vw)"
    :z-index="3100"
  >
    <section v-if="how" class="how">
      <HowPanel :how="how" />
    </section>
    <section v-for="[name, groups] in screens" :key="name" class="keys">
      <h3>{{ name }}</h3>
      <div class="rows">
        <div v-for="key in groups.flatMap(({ keys }) => keys)" :key="key.key">
          <span>{{ key.does }}</span>
          <kbd>{{ printed(key.key) }}</kbd>
        </div>
      </div>
    </section>
    <p class="muted keys">In tables: arrows move, Enter opens or changes, Tab goes on, Esc leaves.</p>
    <el-checkbox v-model="singleKeys" class="keys">Single letters and digits are shortcuts</el-checkbox>
  </el-dialog>
</template>

<style scoped>
section {
  margin-bottom: var(--s-4);
}
@media (pointer: coarse) {
  .keys {
    display: none;
  }
}
h3 {
  margin: 0 0 var(--s-1);
  font-size: var(--text);
}
</style>
