<script setup lang="ts">
// A thing's system and jobs: what does not fit a cell.
import { ref, watch } from 'vue'
import type { Gear, GearChange, JobAmounts, Vocabulary } from '@/api/client'
import JobsEditor from '@/shell/JobsEditor.vue'

const props = defineProps<{
  thing: Gear | null
  vocabulary: Vocabulary | undefined
  change: (thing: Gear, change: GearChange) => Promise<unknown>
}>()
const emit = defineEmits<{ close: [] }>()

const system = ref('other')
const provides = ref<JobAmounts>({})
const needs = ref<JobAmounts>({})
const refusal = ref('')

watch(
  () => props.thing,
  (thing) => {
    if (!thing) return
    system.value = thing.system
    provides.value = { ...thing.provides }
    needs.value = { ...thing.needs }
    refusal.value = ''
  },
)

async function save() {
  if (!props.thing) return
  try {
    await props.change(props.thing, { system: system.value, provides: provides.value, needs: needs.value })
    emit('close')
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <el-drawer :model-value="thing !== null" :title="thing?.name" size="420px" @close="emit('close')">
    <form class="drawer-form" @submit.prevent="save">
      <label>
        System
        <el-select v-model="system" aria-label="System">
          <el-option
            v-for="known in vocabulary?.systems"
            :key="known.key"
            :value="known.key"
            :label="known.name"
          />
        </el-select>
      </label>
      <section>
        <h2>What one piece does and needs</h2>
        <p class="muted">A plan never drops a job that the trip or other gear relies on.</p>
        <JobsEditor v-model:provides="provides" v-model:needs="needs" />
      </section>
      <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
      <el-button type="primary" native-type="submit">Save</el-button>
    </form>
  </el-drawer>
</template>
