<script setup lang="ts">
// A swap read, made or edited: in one line, or field by field: what it replaces, what is new, money, and the swaps it depends on.
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { Problem, type Swap, type SwapDraft } from '@/api/client'
import { listQuery, vocabularyQuery } from '@/api/queries'
import Choices from '@/controls/Choices.vue'
import { useDraft } from '@/controls/draft'
import DraftNotes from '@/controls/DraftNotes.vue'
import { reason } from '@/controls/messages'
import { useQuestion } from '@/domain/question'
import { useUnits } from '@/domain/units'
import { KINDS, PLACES } from '@/domain/words'
import AdditionFields from './AdditionFields.vue'
import { blankAddition, draftOf, sentOf, withLine, type AdditionDraft, type Draft } from '@/domain/swapDraft'
import { neededByOf } from './facts'
import SwapRead from './SwapRead.vue'
import { useSwapLine } from './swapLine'
import { listed } from '@/quantities/count'

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
const { data: vocabulary } = useQuery(vocabularyQuery)
const lines = computed(() => full.value?.lines ?? [])
const lineOf = (id: string) => lines.value.find((line) => line.id === id)
const nameOfLine = (id: string) => lineOf(id)?.gear.name ?? 'gear that is gone'
const others = computed(() => (answer.value?.swaps ?? []).filter((other) => other.id !== props.swap?.id))

const neededBy = computed(() => (props.swap ? neededByOf(props.swap) : ''))
const gear = computed(() =>
  lines.value.map(({ id, gear }) => ({
    id,
    name: gear.name,
    more: gear.weight ? units.tableText(gear.weight.unit_mg) : '?',
  })),
)

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
const { read, trouble, question } = quick

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
/** The line can be typed at once; whoever was quicker with another field stays there. */
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

/** Safety jobs that what comes off does and nothing that goes on does. */
const lost = computed(() => {
  const gained = new Set(draft.value.add.flatMap((addition) => Object.keys(addition.provides)))
  const gone = draft.value.remove.flatMap(({ line }) => Object.keys(lineOf(line)?.gear.provides ?? {}))
  return (vocabulary.value?.jobs ?? [])
    .filter((job) => job.safety && gone.includes(job.key) && !gained.has(job.key))
    .map((job) => job.name)
})

/** What a new item does in place of what comes off, as far as that is counted: how warm or large it is, is its own. */
const takesOver = computed(() => {
  const counted = new Set(
    (vocabulary.value?.jobs ?? []).filter((job) => job.unit === 'count').map((job) => job.key),
  )
  const done = draft.value.remove.flatMap(({ line }) => Object.entries(lineOf(line)?.gear.provides ?? {}))
  return Object.fromEntries(done.filter(([job]) => counted.has(job)))
})

const removed = computed({
  get: () => draft.value.remove.map((removal) => removal.line),
  set: (ids) => {
    draft.value.remove = ids.map(
      (line) =>
        draft.value.remove.find((removal) => removal.line === line) ?? {
          line,
          qty: Math.max(1, lineOf(line)?.carried ?? 1),
          from: 'carried',
        },
    )
  },
})

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
      <div v-if="!swap" class="line">
        <el-form-item label="In one line">
          <el-input
            ref="field"
            v-model="line"
            data-rows
            name="swap-line"
            size="large"
            placeholder="quilt 545g 262eur for mummy bag"
            autocomplete="off"
            maxlength="400"
            aria-describedby="swap-read"
            @input="quick.typed"
          />
        </el-form-item>
        <p id="swap-read" class="read" aria-live="polite">
          <template v-if="read">
            <span class="chip"><small>kind</small> {{ KINDS[read.draft.kind] }}</span>
            <template v-for="(chip, at) in read.chips" :key="at">
              <span v-if="chip.kind === 'refused'" class="caution"
                ><u>{{ chip.text }}</u> not understood.</span
              >
              <span v-else class="chip">{{ units.meaning(chip) }}</span>
            </template>
            <span v-for="name in read.gone" :key="name" class="chip"><small>replaces</small> {{ name }}</span>
            <span v-if="question" class="caution" role="alert">{{ question }}</span>
            <span v-else class="muted"><kbd>Enter</kbd> makes it; the fields below can change it first.</span>
          </template>
          <span v-else-if="trouble" class="caution" role="alert">{{ trouble }}</span>
          <span v-else class="muted"
            >Or <b>leave out mug</b>, <b>trim towel 48g</b>, <b>sew quilt 480g 35eur for mummy bag</b>.</span
          >
        </p>
      </div>
      <div class="two">
        <el-form-item label="Kind">
          <el-select v-model="draft.kind" aria-label="Kind">
            <el-option v-for="(name, key) in KINDS" :key="key" :value="key" :label="name" />
          </el-select>
        </el-form-item>
        <el-form-item label="Name" :error="refusalFor('name')">
          <el-input v-model="draft.name" placeholder="as the new item" name="name" maxlength="120" />
        </el-form-item>
      </div>
      <section v-if="draft.kind !== 'add'" class="off">
        <el-form-item :label="draft.kind === 'leave_out' ? 'Leaves out' : 'Replaces'">
          <Choices v-model="removed" :options="gear" label="Replaces" placeholder="gear on the list" />
        </el-form-item>
        <div v-for="removal in draft.remove" :key="removal.line" class="removal">
          <span>{{ nameOfLine(removal.line) }}</span>
          <el-input-number
            v-model="removal.qty"
            :min="1"
            :max="1000"
            :controls="false"
            :aria-label="`Pieces of ${nameOfLine(removal.line)}`"
            inputmode="numeric"
          />
          <el-select v-model="removal.from" aria-label="Off which count">
            <el-option v-for="(name, key) in PLACES" :key="key" :value="key" :label="name" />
          </el-select>
        </div>
      </section>
      <section v-if="draft.kind !== 'leave_out'">
        <AdditionFields
          v-for="(addition, at) in draft.add"
          :key="at"
          v-model="draft.add[at]!"
          :at="at"
          :refusal-for="refusalFor"
          :takes-over="takesOver"
          @remove="draft.add.splice(draft.add.indexOf(addition), 1)"
        />
        <el-button link type="primary" @click="draft.add.push(blankAddition())">{{
          draft.add.length ? 'Add another item' : 'Add an item'
        }}</el-button>
      </section>
      <div class="three">
        <el-form-item label="Delivery" :error="refusalFor('delivery')">
          <el-input v-model="draft.delivery" name="delivery" inputmode="decimal" />
        </el-form-item>
        <el-form-item label="Resale of the old one" :error="refusalFor('resale')">
          <el-input v-model="draft.resale" name="resale" inputmode="decimal" />
        </el-form-item>
        <el-form-item label="Hours of making" :error="refusalFor('hours')">
          <el-input v-model="draft.hours" name="hours" inputmode="decimal" />
        </el-form-item>
      </div>
      <p v-if="neededBy" class="needed">
        <span class="muted">{{ neededBy }}, so its resale counts for nothing.</span>
        <el-checkbox v-model="draft.sells_needed" label="Sell it though it is needed" />
      </p>
      <div v-if="others.length" class="two">
        <el-form-item label="Only together with">
          <Choices
            v-model="draft.requires"
            :options="others"
            label="Only together with"
            placeholder="no other swap"
          />
        </el-form-item>
        <el-form-item label="Never together with">
          <Choices
            v-model="draft.excludes"
            :options="others"
            label="Never together with"
            placeholder="no other swap"
          />
        </el-form-item>
      </div>
      <p v-if="lost.length" class="note">
        <b>No new item does: {{ listed(lost) }}.</b> Kevyt plans this swap only while something else on the
        list does. If you do it anyway, be sure that something will.
      </p>
      <p v-if="draft.kind === 'make'" class="note">
        Try a shelter, pack or quilt that you made close to home first.
      </p>
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
.swap-form,
section {
  display: grid;
  gap: var(--s-2);
}
section > :deep(.el-button) {
  justify-self: start;
}
.two,
.three {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--s-3);
}
.three {
  grid-template-columns: repeat(3, minmax(0, 1fr));
  align-items: end;
}
.swap-form :deep(.el-form-item) {
  margin-bottom: var(--s-2);
}
.line :deep(.el-form-item) {
  margin-bottom: 2px;
}
.read {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-1) 6px;
  font-size: var(--text-m);
  min-height: 24px;
}
.read small {
  font-size: var(--text-xs);
}
.chip {
  overflow-wrap: anywhere;
  font-size: var(--text-m);
}
.off {
  border-left: 3px solid var(--ink-3);
  padding-left: var(--s-3);
}
.removal {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 64px 110px;
  gap: var(--s-2);
  align-items: center;
}
.removal :deep(.el-input-number) {
  width: 64px;
}
.note {
  border-left: 4px solid var(--lingonberry);
  padding-left: var(--s-3);
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
