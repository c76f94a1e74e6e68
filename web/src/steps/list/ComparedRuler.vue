<script setup lang="ts">
// The gram ruler of a list, held against the plan, the list before its last change, or another list.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Sheet } from '@/api/client'
import { afterQuery, planQuery, sheetQuery, vocabularyQuery } from '@/api/queries'
import { useDialog, useRouteQuery } from '@/controls/route'
import { useLists } from '@/domain/lists'
import { baseTarget } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import GramRuler from '@/marks/GramRuler.vue'
import CompareDrawer from './CompareDrawer.vue'
import { carriedAfter, differences, spans, type Span } from './equation'

const props = defineProps<{
  sheet: Sheet
  /** What was on the back before the last change; none since the page was opened. */
  before: Span[] | null
}>()
const chosen = defineModel<string | null>('chosen', { required: true })
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const { lists } = useLists()
const systems = computed(() => new Map(vocabulary.value?.systems.map((system) => [system.key, system.name])))

const id = computed(() => props.sheet.list.id)
const here = computed(() => spans(props.sheet.lines, props.sheet.me))
/** The plan is its owner's. */
const isOwner = computed(() => props.sheet.role === 'owner')
const picked = useRouteQuery('against')
const against = computed({
  get: () => picked.value || (isOwner.value ? 'plan' : 'before'),
  set: (other) => (picked.value = other),
})

const { data: plan } = useQuery(computed(() => ({ ...planQuery(id.value), enabled: isOwner.value })))
const planned = computed(() => {
  const { plan: answer, swaps } = plan.value ?? {}
  return answer?.swaps?.map((at) => swaps![at]!.id) ?? null
})
const { data: after } = useQuery(
  computed(() => ({
    ...afterQuery(id.value, planned.value ?? []),
    enabled: against.value === 'plan' && planned.value !== null,
  })),
)
const other = computed(() => (['plan', 'before'].includes(against.value) ? '' : against.value))
const { data: otherSheet } = useQuery(
  computed(() => ({ ...sheetQuery(other.value), enabled: other.value !== '' })),
)
const there = computed<Span[] | null>(() => {
  if (against.value === 'before') return props.before
  if (against.value === 'plan') return after.value ? carriedAfter(after.value) : null
  return otherSheet.value ? spans(otherSheet.value.lines, otherSheet.value.me) : null
})

const sum = (all: Span[]) => all.reduce((total, span) => total + span.mg, 0)
/** By how much it is lighter than the list: of base weights where they are known, which count kits as they were weighed. */
const lighter = computed(() => {
  const base = props.sheet.totals.base_mg
  if (against.value === 'plan') return base - (after.value?.base_after_mg ?? base)
  if (otherSheet.value && other.value) return base - otherSheet.value.totals.base_mg
  return sum(here.value) - sum(there.value ?? [])
})
const lighterText = computed(() => {
  const less = lighter.value
  return less === 0
    ? 'the same weight'
    : `${units.tableText(Math.abs(less))} ${less > 0 ? 'lighter' : 'heavier'}`
})
const name = computed(() => {
  if (!there.value) return ''
  const fixed = { plan: 'as planned', before: 'before the last change' }[against.value]
  return `${fixed ?? otherSheet.value?.list.name ?? ''}, ${lighterText.value}`
})
const differing = computed(() => (there.value ? differences(here.value, there.value) : []))
const largest = computed(() =>
  differing.value
    .slice(0, 4)
    .map(({ name, here, there }) =>
      here === null
        ? `+ ${name} ${units.tableText(there!)}`
        : there === null
          ? `− ${name} ${units.tableText(here)}`
          : `${name} ${units.signed(there - here)}`,
    )
    .join(', '),
)
const isComparing = useDialog('differences')
</script>

<template>
  <section class="above" aria-label="Gram ruler">
    <GramRuler
      :spans="here"
      :other="there ? { spans: there, name } : null"
      :target="baseTarget(sheet.list)"
      :unit-mg="units.scale.value.mg"
      :unit-name="units.total(0).unit === '' ? 'lb' : units.scale.value.name"
      :systems="systems"
      :text="units.tableText"
      :chosen="chosen"
      @choose="chosen = $event"
    />
    <div class="compare">
      <el-select v-model="against" size="small" aria-label="Compare the list with">
        <template #prefix>compare with</template>
        <el-option v-if="isOwner" value="plan" label="the plan" />
        <el-option value="before" label="before the last change" :disabled="!before" />
        <el-option
          v-for="one in (lists ?? []).filter((one) => one.id !== id)"
          :key="one.id"
          :value="one.id"
          :label="one.name"
        />
      </el-select>
      <span v-if="differing.length" class="muted">{{ lighterText }}: {{ largest }}</span>
      <span v-else-if="there" class="muted">The same things.</span>
      <el-button v-if="differing.length" link size="small" @click="isComparing = true"
        >All differences ({{ differing.length }})</el-button
      >
    </div>
    <CompareDrawer v-model="isComparing" :here="sheet.list.name" :there="name" :differences="differing" />
  </section>
</template>

<style scoped>
.above {
  margin-bottom: var(--s-2);
}
.compare {
  display: flex;
  gap: var(--s-3);
  align-items: center;
  margin: var(--s-0h) 0 0;
  font-size: var(--text-s);
}
.compare :deep(.el-select) {
  flex: none;
  width: 190px;
}
.compare .muted {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 700px) {
  .compare {
    flex-wrap: wrap;
    gap: var(--s-0h) var(--s-3);
  }
}
@media print {
  .compare {
    display: none;
  }
}
</style>
