<script setup lang="ts">
// A swap made or edited: what comes off, what goes on, money, and the swaps it depends on.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { Problem, type Swap, type SwapDraft } from '@/api/client'
import { listQuery, vocabularyQuery } from '@/api/queries'
import { useQuestion } from '@/shell/question'
import { useUnits } from '@/shell/units'
import AdditionFields from './AdditionFields.vue'
import { blankAddition, draftOf } from './draft'
import { KINDS } from './swaps'

const props = defineProps<{
  /** The swap, null for a new one. */
  swap: Swap | null
  write: (swap: Swap | null, draft: SwapDraft) => Promise<unknown>
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ remove: [swap: Swap] }>()

const { id, answer } = useQuestion()
const units = useUnits()
const { data: full } = useQuery(
  computed(() => ({ ...listQuery(id.value), enabled: id.value !== '' && open.value })),
)
const { data: vocabulary } = useQuery(vocabularyQuery)
const lines = computed(() => full.value?.lines ?? [])
const lineOf = (id: string) => lines.value.find((line) => line.id === id)
const others = computed(() => (answer.value?.swaps ?? []).filter((other) => other.id !== props.swap?.id))

const draft = ref(draftOf(null, units.currency.value))
const refusal = ref<{ field: string; text: string } | null>(null)
const busy = ref(false)

watch(open, (isOpen) => {
  if (!isOpen) return
  draft.value = draftOf(props.swap, units.currency.value)
  typed.value = JSON.stringify(draft.value)
  refusal.value = null
})

const refusalFor = (field: string) => (refusal.value?.field === field ? refusal.value.text : '')
const elsewhere = computed(() => {
  const shown = ['name', 'delivery', 'resale', 'hours']
  const field = refusal.value?.field ?? ''
  return refusal.value && !shown.includes(field) && !/^add\[\d+\]\./.test(field) ? refusal.value.text : ''
})

/** Safety jobs that what comes off does and nothing that goes on does. */
const lost = computed(() => {
  const gained = new Set(draft.value.add.flatMap((addition) => Object.keys(addition.provides)))
  const gone = draft.value.remove.flatMap(({ line }) => Object.keys(lineOf(line)?.gear.provides ?? {}))
  return (vocabulary.value?.jobs ?? [])
    .filter((job) => job.safety && gone.includes(job.key) && !gained.has(job.key))
    .map((job) => job.name)
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

const typed = ref('')
const form = useTemplateRef<HTMLFormElement>('form')
/** Esc leaves an open box first, and the drawer only while nothing in it has been changed: nothing typed is lost. */
function leave() {
  if (form.value?.querySelector('[aria-expanded="true"]') || JSON.stringify(draft.value) !== typed.value)
    return
  open.value = false
}

async function save() {
  busy.value = true
  refusal.value = null
  const add =
    draft.value.kind === 'leave_out'
      ? draft.value.add.filter((addition) => addition.name.trim() !== '')
      : draft.value.add
  try {
    await props.write(props.swap, { ...draft.value, name: draft.value.name.trim() || null, add })
    open.value = false
  } catch (error) {
    const field = error instanceof Problem ? (error.field ?? '') : ''
    refusal.value = { field, text: error instanceof Error ? error.message : String(error) }
  } finally {
    busy.value = false
  }
}

function discard() {
  if (props.swap) emit('remove', props.swap)
  open.value = false
}
</script>

<template>
  <el-drawer
    v-model="open"
    :close-on-press-escape="false"
    :close-on-click-modal="false"
    :title="swap ? swap.name : 'New swap'"
    size="520px"
  >
    <form ref="form" class="drawer" @submit.prevent="save" @keydown.esc.capture="leave">
      <div class="two">
        <label>
          Kind
          <el-select v-model="draft.kind" aria-label="Kind">
            <el-option v-for="(name, key) in KINDS" :key="key" :value="key" :label="name" />
          </el-select>
        </label>
        <label>
          Called
          <el-input v-model="draft.name" placeholder="after what goes on" name="name" />
        </label>
      </div>
      <p v-if="refusalFor('name')" class="caution" role="alert">{{ refusalFor('name') }}</p>
      <section v-if="draft.kind !== 'add'" class="off">
        <label>
          What comes off
          <el-select
            v-model="removed"
            multiple
            filterable
            placeholder="gear on the list"
            aria-label="What comes off"
          >
            <el-option v-for="line in lines" :key="line.id" :value="line.id" :label="line.gear.name">
              <span>{{ line.gear.name }}</span>
              <span class="option-weight">{{
                line.gear.weight ? units.tableText(line.gear.weight.unit_mg) : '?'
              }}</span>
            </el-option>
          </el-select>
        </label>
        <div v-for="removal in draft.remove" :key="removal.line" class="removal">
          <span>{{ lineOf(removal.line)?.gear.name }}</span>
          <el-input-number
            v-model="removal.qty"
            :min="1"
            :max="1000"
            :controls="false"
            :aria-label="`Pieces of ${lineOf(removal.line)?.gear.name}`"
          />
          <el-select v-model="removal.from" aria-label="Off which count">
            <el-option value="carried" label="carried" />
            <el-option value="worn" label="worn" />
            <el-option value="used_up" label="used up" />
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
          @remove="draft.add.splice(draft.add.indexOf(addition), 1)"
        />
        <button class="plain link" type="button" @click="draft.add.push(blankAddition())">
          {{ draft.add.length ? 'Something more goes on' : 'Something goes on' }}
        </button>
      </section>
      <div class="three">
        <label>Delivery <el-input v-model="draft.delivery" name="delivery" /></label>
        <label>The old brings <el-input v-model="draft.resale" name="resale" /></label>
        <label>Hours of making <el-input v-model="draft.hours" name="hours" /></label>
      </div>
      <p
        v-for="field in ['delivery', 'resale', 'hours']"
        v-show="refusalFor(field)"
        :key="field"
        class="caution"
        role="alert"
      >
        {{ refusalFor(field) }}
      </p>
      <div v-if="others.length" class="two">
        <label>
          Only together with
          <el-select
            v-model="draft.requires"
            multiple
            filterable
            placeholder="–"
            aria-label="Only together with"
          >
            <el-option v-for="other in others" :key="other.id" :value="other.id" :label="other.name" />
          </el-select>
        </label>
        <label>
          Never together with
          <el-select
            v-model="draft.excludes"
            multiple
            filterable
            placeholder="–"
            aria-label="Never together with"
          >
            <el-option v-for="other in others" :key="other.id" :value="other.id" :label="other.name" />
          </el-select>
        </label>
      </div>
      <p v-if="lost.length" class="note">
        <b>Nothing that goes on does: {{ lost.join(', ') }}.</b> Kevyt plans this swap only while something
        else on the list does. If you make it by hand, be sure that something will.
      </p>
      <p v-if="draft.kind === 'make'" class="note">
        A made shelter, pack or quilt is tried close to home first.
      </p>
      <p v-if="elsewhere" class="caution" role="alert">{{ elsewhere }}</p>
      <div class="actions">
        <el-button type="primary" native-type="submit" :loading="busy">{{
          swap ? 'Save' : 'Add the swap'
        }}</el-button>
        <button v-if="swap" class="plain caution" type="button" @click="discard">Remove this swap</button>
      </div>
    </form>
  </el-drawer>
</template>

<style scoped>
.drawer,
section {
  display: grid;
  gap: var(--s-3);
}
.drawer {
  gap: var(--s-4);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--s-3);
}
.three {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: var(--s-3);
}
label {
  font-size: 12px;
  color: var(--ink-2);
}
.off {
  border-left: 3px solid var(--ink-3);
  padding-left: var(--s-3);
}
.removal {
  display: grid;
  grid-template-columns: 1fr 64px 110px;
  gap: var(--s-2);
  align-items: center;
}
.removal :deep(.el-input-number) {
  width: 64px;
}
.option-weight {
  float: right;
  margin-left: var(--s-4);
  color: var(--ink-2);
}
.note {
  border-left: 4px solid var(--lingonberry);
  padding-left: var(--s-3);
}
.actions {
  display: flex;
  align-items: center;
  gap: var(--s-5);
}
</style>
