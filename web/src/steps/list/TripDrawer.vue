<script setup lang="ts">
// What the trip requires of the list, and what an hour of making is worth.
import { ref, watch } from 'vue'
import type { JobAmounts, PackList } from '@/api/client'
import { typedAmount } from '@/quantities/money'
import JobsEditor from '@/shell/JobsEditor.vue'
import { useUnits } from '@/shell/units'

const props = defineProps<{
  list: PackList | undefined
  save: (change: { note: string; requires: JobAmounts; hour_rate: string }) => Promise<unknown>
}>()
const open = defineModel<boolean>({ required: true })

const units = useUnits()
const note = ref('')
const requires = ref<JobAmounts>({})
const hourRate = ref('')
const refusal = ref('')

watch(open, (isOpen) => {
  if (!isOpen || !props.list) return
  note.value = props.list.note
  requires.value = { ...props.list.requires }
  hourRate.value = typedAmount(props.list.hour_minor, units.currency.value)
  refusal.value = ''
})

async function submit() {
  try {
    await props.save({ note: note.value, requires: requires.value, hour_rate: hourRate.value.trim() || '0' })
    open.value = false
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <el-drawer v-model="open" :title="`The trip: ${list?.name}`" size="420px">
    <form class="drawer-form" @submit.prevent="submit">
      <label>In a line <el-input v-model="note" placeholder="7 days, low −2 °C" name="note" /></label>
      <section>
        <h2>What it requires</h2>
        <p class="muted">A plan never makes any of these shorter than it is today.</p>
        <JobsEditor v-model:needs="requires" :provides="{}" only="needs" />
      </section>
      <label>
        What an hour of making is worth to you
        <el-input v-model="hourRate" name="hour-rate" />
      </label>
      <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
      <el-button type="primary" native-type="submit">Save</el-button>
    </form>
  </el-drawer>
</template>
