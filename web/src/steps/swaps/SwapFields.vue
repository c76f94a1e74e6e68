<script setup lang="ts">
// The fields of a swap: what it replaces, what is new, money, and the swaps it depends on.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { ListLine, Swap } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import Choices from '@/controls/Choices.vue'
import { blankAddition, lostJobs, type Draft } from '@/domain/swapDraft'
import { useUnits } from '@/domain/units'
import { KINDS, PLACES } from '@/domain/words'
import { listed } from '@/quantities/count'
import AdditionFields from './AdditionFields.vue'

const props = defineProps<{
  /** What stands on the list. */
  lines: ListLine[]
  /** The other swaps of the list. */
  others: Swap[]
  /** Which other lists need what comes off, in words. */
  neededBy: string
  refusalFor: (field: string) => string
}>()
const draft = defineModel<Draft>({ required: true })
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const lineOf = (id: string) => props.lines.find((line) => line.id === id)
const nameOfLine = (id: string) => lineOf(id)?.gear.name ?? 'gear that is gone'
const gear = computed(() =>
  props.lines.map(({ id, gear }) => ({
    id,
    name: gear.name,
    more: gear.weight ? units.tableText(gear.weight.unit_mg) : '?',
  })),
)

const lost = computed(() => lostJobs(draft.value, props.lines, vocabulary.value?.jobs ?? []))

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
</script>

<template>
  <div class="fields">
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
      <b>No new item does: {{ listed(lost) }}.</b> A plan minds that only where the trip or the list requires
      it. Be sure that something else on the list does it.
    </p>
    <p v-if="draft.kind === 'make'" class="note">
      Try a shelter, pack or quilt that you made close to home first.
    </p>
  </div>
</template>

<style scoped>
.fields,
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
</style>
