<script setup lang="ts">
// How a step works, said once: the first time that an account opens it on this device.
import { useQuery } from '@tanstack/vue-query'
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { accountQuery } from '@/api/queries'
import HowPanel from './HowPanel.vue'
import type { HowItWorks } from './howItWorks'

const props = defineProps<{ how: HowItWorks | undefined }>()
const { data: account } = useQuery(accountQuery)
/** By account, the steps that it has opened. */
const opened = useStorage<Record<string, string[]>>('kevyt-opened', {})
const shown = ref<HowItWorks>()
const name = computed(() => account.value?.name)

watch(
  [() => props.how, name],
  ([how, name]) => {
    if (name === undefined) return
    const before = opened.value[name] ?? []
    shown.value = how && !before.includes(how.name) ? how : undefined
    if (shown.value) opened.value = { ...opened.value, [name]: [...before, shown.value.name] }
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="shown" class="card" :aria-label="`How ${shown.name} works`">
    <header>
      <h2>How {{ shown.name }} works</h2>
      <el-button link type="primary" @click="shown = undefined">Close</el-button>
    </header>
    <HowPanel :how="shown" />
    <p class="muted">
      Said once. It stays at hand under <b>How {{ shown.name }} works</b> at the foot of the page.
    </p>
  </section>
</template>

<style scoped>
section {
  max-width: 760px;
  margin-bottom: var(--s-4);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
h2 {
  margin: 0 0 var(--s-2);
}
.muted {
  margin: var(--s-2) 0 0;
}
</style>
