<script setup lang="ts">
// Rows that were pasted, each as a line of a swap: looked at, changed where something is missing, and made.
import { computed, ref, watch } from 'vue'
import { api, unwrap, type SwapDraft, type SwapLine } from '@/api/client'
import { reason } from '@/controls/messages'
import { useUnits } from '@/domain/units'
import { counted, listed } from '@/quantities/count'

const props = defineProps<{
  list: string
  /** What was pasted; empty while nothing is looked at. */
  text: string
  write: (swap: null, draft: SwapDraft, version: number) => Promise<unknown>
}>()
const emit = defineEmits<{ close: [] }>()
const units = useUnits()

interface Line {
  text: string
  read: SwapLine | null
  why: string
  made: boolean
}
const lines = ref<Line[]>([])
const busy = ref(false)
const refusal = ref('')
const path = () => ({ params: { path: { id: props.list } } })

async function read(line: Line) {
  line.read = null
  line.why = ''
  try {
    line.read = await unwrap(api.POST('/api/lists/{id}/swaps/read', { ...path(), body: { line: line.text } }))
  } catch (error) {
    line.why = reason(error)
  }
}
watch(
  () => props.text,
  async (text) => {
    lines.value = []
    refusal.value = ''
    if (!text) return
    try {
      const rows = await unwrap(api.POST('/api/lists/{id}/swaps/rows', { ...path(), body: { text } }))
      if (props.text !== text) return
      lines.value = rows.lines.map((text) => ({ text, read: null, why: '', made: false }))
    } catch (error) {
      refusal.value = reason(error)
    }
    for (const line of lines.value) {
      // Closed, or other rows: nobody waits for these any more.
      if (props.text !== text) return
      await read(line)
    }
  },
  { immediate: true },
)
const ready = computed(() => lines.value.filter((line) => !line.made && line.read && !line.read.question))
const open = computed(() => lines.value.filter((line) => !line.made))

async function make() {
  if (busy.value) return
  busy.value = true
  for (const line of ready.value) {
    try {
      await props.write(null, line.read!.draft as SwapDraft, 0)
      line.made = true
    } catch (error) {
      line.why = reason(error)
      line.read = null
    }
  }
  busy.value = false
  if (open.value.length === 0) emit('close')
}
const understood = (line: Line) => {
  const { gone = [], chips = [] } = line.read ?? {}
  const comes = chips.filter((chip) => chip.kind !== 'kind').map((chip) => units.meaning(chip))
  return `${comes.join(', ') || 'nothing'} for ${listed(gone) || 'nothing'}`
}
</script>

<template>
  <el-dialog
    :model-value="text !== ''"
    title="Pasted rows"
    width="min(45rem, 94vw)"
    @update:model-value="emit('close')"
  >
    <p class="muted">
      A swap each: what is new, its weight and price, and what it is for. Nothing is made yet.
    </p>
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <ul class="rows">
      <li v-for="(line, at) in lines" :key="at">
        <span class="line">
          <el-input
            v-model="line.text"
            :disabled="line.made"
            :aria-label="`Row ${at + 1}`"
            @change="read(line)"
          />
          <small v-if="line.made" class="spruce">made</small>
          <small v-else-if="line.why || line.read?.question" class="caution" role="alert">{{
            line.why || line.read?.question
          }}</small>
          <small v-else-if="line.read" class="muted">{{ understood(line) }}</small>
        </span>
        <el-button
          v-if="!line.made"
          link
          :aria-label="`Leave out row ${at + 1}`"
          @click="lines = lines.filter((other) => other !== line)"
          >×</el-button
        >
      </li>
    </ul>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="ready.length === 0 || busy" @click="make"
        >Make {{ counted(ready.length, 'swap') }}</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.line {
  flex: 1;
  display: grid;
  gap: var(--s-0h);
}
</style>
