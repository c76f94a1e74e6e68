<script setup lang="ts">
// A swap read, made or edited: in one line, or field by field.
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { Problem, type Swap, type SwapDraft } from '@/api/client'
import { listQuery } from '@/api/queries'
import { useDraft } from '@/controls/draft'
import DraftNotes from '@/controls/DraftNotes.vue'
import { reason } from '@/controls/messages'
import { useQuestion } from '@/domain/question'
import { useUnits } from '@/domain/units'
import { KINDS } from '@/domain/words'
import { draftOf, sentOf, withLine, type AdditionDraft, type Draft } from '@/domain/swapDraft'
import { neededByOf } from './facts'
import SwapFields from './SwapFields.vue'
import SwapLineField from './SwapLineField.vue'
import SwapRead from './SwapRead.vue'
import { useSwapLine } from './swapLine'

const props = defineProps<{
  list: string
  /** The swap, null for a new one. */
  swap: Swap | null
  /** The line that a new one begins with. */
  begun?: string
  write: (swap: Swap | null, draft: SwapDraft, version: number) => Promise<unknown>
}>()
const isOpen = defineModel<boolean>({ required: true })
const emit = defineEmits<{ remove: [swap: Swap]; 'set-state': [state: 'pinned' | 'ruled_out'] }>()
/** A swap is read before it is edited; what was typed and not kept is shown at once. */
const isEditing = ref(false)

const { answer } = useQuestion(() => props.list)
const units = useUnits()
const { data: full } = useQuery(
  computed(() => ({ ...listQuery(props.list), enabled: props.list !== '' && isOpen.value })),
)
const lines = computed(() => full.value?.lines ?? [])
const lineOf = (id: string) => lines.value.find((line) => line.id === id)
const nameOfLine = (id: string) => lineOf(id)?.gear.name ?? 'gear that is gone'
const others = computed(() => (answer.value?.swaps ?? []).filter((other) => other.id !== props.swap?.id))

const neededBy = computed(() => (props.swap ? neededByOf(props.swap) : ''))
const NAMES: Record<keyof Draft, string> = {
  line: 'In one line',
  name: 'Name',
  kind: 'Kind',
  state: 'State',
  remove: 'Replaces',
  add: 'New items',
  delivery: 'Delivery',
  resale: 'Resale of the old one',
  sells_needed: 'Sell it though it is needed',
  hours: 'Hours of making',
  requires: 'Only together with',
  excludes: 'Never together with',
  versions: 'Versions',
}
const { draft, version, isChanged, wasKept, clashes, open, merge, discard, choose } = useDraft<Draft>(() => ({
  name: props.swap ? `swap ${props.swap.id}` : `swap of ${props.list}`,
  version: props.swap?.version ?? 0,
  fields: draftOf(props.swap, units.currency.value),
}))
const line = computed({
  get: () => draft.value?.line ?? '',
  set: (typed) => (draft.value.line = typed),
})
const quick = useSwapLine(
  () => props.list,
  line,
  (read) => (draft.value = withLine(draft.value, read.draft)),
)
const { question } = quick

const refusal = ref<{ field: string; text: string } | null>(null)
const busy = ref(false)
const field = useTemplateRef<{ focus: () => void }>('field')
const form = useTemplateRef<{ $el: HTMLElement }>('form')

watch(
  [isOpen, () => props.swap?.id],
  ([now]) => {
    if (!now) return
    quick.forget()
    refusal.value = null
    open()
    isEditing.value = !props.swap || wasKept.value
    // What was typed before is read back; the fields have it already, and what was changed in them since.
    if (!props.swap && props.begun) {
      line.value = props.begun
      void quick.understand()
    } else if (line.value !== '') void quick.readBack()
  },
  { immediate: true },
)
watch(
  () => props.swap?.version,
  () => isOpen.value && (isChanged.value ? merge() : open()),
)
/** The line can be typed at once; a focus that is elsewhere by then stays there. */
async function opened() {
  await nextTick()
  if (isEditing.value && !form.value?.$el.contains(document.activeElement)) field.value?.focus()
}

const refusalFor = (name: string) => (refusal.value?.field === name ? refusal.value.text : '')
const elsewhere = computed(() => {
  const shown = ['name', 'delivery', 'resale', 'hours']
  const at = refusal.value?.field ?? ''
  return refusal.value && !shown.includes(at) && !/^add\[\d+\]\./.test(at) ? refusal.value.text : ''
})

function written(key: string, value: unknown): string {
  if (key === 'remove')
    return (value as Draft['remove']).map((one) => nameOfLine(one.line)).join(', ') || 'nothing'
  if (key === 'add')
    return (
      (value as AdditionDraft[]).map((one) => `${one.name} ${one.weight} ${one.price}`.trim()).join(', ') ||
      'nothing'
    )
  if (key === 'kind') return KINDS[value as Draft['kind']]
  if (key === 'requires' || key === 'excludes')
    return (
      (value as string[])
        .map((id) => others.value.find((one) => one.id === id)?.name ?? 'a swap')
        .join(', ') || 'none'
    )
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return String(value) || 'nothing'
}

async function save() {
  if (busy.value) return
  busy.value = true
  refusal.value = null
  try {
    // Enter can come before the line was read to its end.
    if (line.value.trim() !== '' && (!(await quick.understand()) || question.value)) return
    await props.write(props.swap, sentOf(draft.value), version.value)
    discard()
    isOpen.value = false
  } catch (error) {
    const at = error instanceof Problem ? (error.field ?? '') : ''
    refusal.value = { field: at, text: reason(error) }
  } finally {
    busy.value = false
  }
}

function cancel() {
  discard()
  isOpen.value = false
}
function removeSwap() {
  if (props.swap) emit('remove', props.swap)
  cancel()
}
</script>

<template>
  <el-drawer
    v-model="isOpen"
    :title="swap ? swap.name : 'New swap'"
    size="min(32.5rem, 100vw)"
    @opened="opened"
  >
    <SwapRead
      v-if="swap && answer && !isEditing"
      :swap="swap"
      :lines="lines"
      :answer="answer"
      @edit="isEditing = true"
      @set-state="(state) => emit('set-state', state)"
    />
    <el-form v-else-if="draft" ref="form" label-position="top" class="swap-form" @submit.prevent="save">
      <DraftNotes
        :kept="wasKept && isChanged"
        :clashes="clashes"
        :names="NAMES"
        :written="written"
        @discard="discard"
        @choose="choose"
      />
      <SwapLineField v-if="!swap" ref="field" v-model="line" :quick="quick" />
      <SwapFields
        v-model="draft"
        :lines="lines"
        :others="others"
        :needed-by="neededBy"
        :refusal-for="refusalFor"
      />
      <p v-if="elsewhere" class="caution" role="alert">{{ elsewhere }}</p>
      <div class="actions">
        <el-button type="primary" native-type="submit" :loading="busy" :disabled="clashes.length > 0">{{
          swap ? 'Save' : 'Add swap'
        }}</el-button>
        <el-button v-if="isChanged" @click="cancel">Cancel</el-button>
        <el-button v-if="swap" link class="remove" @click="removeSwap">Remove this swap</el-button>
      </div>
    </el-form>
  </el-drawer>
</template>

<style scoped>
.swap-form {
  display: grid;
  gap: var(--s-2);
}
.swap-form :deep(.el-form-item) {
  margin-bottom: var(--s-2);
}
.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
}
.actions :deep(.remove) {
  color: var(--lingonberry);
}
</style>
