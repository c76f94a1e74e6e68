<script setup lang="ts">
// The ranking: slope, place, grams, money, grams for the money.
import { computed, ref } from 'vue'
import type { ListLine } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { medianRatio } from '@/marks/median'
import Slope from '@/marks/Slope.vue'
import { walk } from '@/shell/grid'
import { useUnits } from '@/shell/units'
import { KINDS, type Row } from './swaps'

const props = defineProps<{
  sections: { key: Row['class']; rows: Row[] }[]
  lines: ListLine[]
  selected: number | null
}>()
const emit = defineEmits<{
  select: [at: number]
  open: [row: Row]
  pin: [row: Row]
  rule: [row: Row]
}>()

const units = useUnits()
const unfolded = ref(new Set<number>())

const HEADS: Record<Row['class'], [string, string]> = {
  free: ['For nothing', 'taken first'],
  paid: ['For money', 'most grams for the money first'],
  no_saving: ['Saves nothing', 'kept here to compare'],
  incomplete: ['Not ranked', 'a weight or a price is missing'],
}

const all = computed(() => props.sections.flatMap((section) => section.rows))
const median = computed(() => medianRatio(all.value))
const most = computed(() => ({
  saving: Math.max(1, ...all.value.map((row) => row.saving_mg ?? 0)),
  net: Math.max(1, ...all.value.map((row) => row.net_minor ?? 0)),
}))
const shownRows = (rows: Row[]) =>
  rows.flatMap((row) => [
    { row, inner: false },
    ...(unfolded.value.has(row.at) ? row.folded : []).map((row) => ({ row, inner: true })),
  ])

function under(row: Row): string {
  const gone = row.swap.remove
    .map(({ line, qty }) => {
      const name = props.lines.find((other) => other.id === line)?.gear.name ?? ''
      return qty > 1 ? `${name} × ${qty}` : name
    })
    .filter(Boolean)
  const parts = [
    gone.length && row.swap.kind !== 'leave_out' ? `for ${gone.join(' and ')}` : '',
    row.swap.kind === 'replace' ? '' : KINDS[row.swap.kind],
  ]
  if (row.swap.tenth_hours) parts.push(`${row.swap.tenth_hours / 10} h`)
  if (row.swap.requires.length)
    parts.push(`only with ${row.swap.requires.length === 1 ? 'another swap' : 'other swaps'}`)
  return parts.filter(Boolean).join(', ')
}

function toggleFold(at: number) {
  const next = new Set(unfolded.value)
  if (!next.delete(at)) next.add(at)
  unfolded.value = next
}

function keys(event: KeyboardEvent, row: Row) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'p') emit('pin', row)
  else if (event.key === 'x') emit('rule', row)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <table class="grid ranking" @keydown="walk">
    <thead>
      <tr>
        <th class="n place"><span class="visually-hidden">Place</span></th>
        <th class="slope"><span class="visually-hidden">Slope</span></th>
        <th>Swap</th>
        <th class="n">Saves</th>
        <th class="n">Costs</th>
        <th class="n">{{ units.perMoneyName.value }}</th>
        <th class="n state"><span class="visually-hidden">State</span></th>
      </tr>
    </thead>
    <tbody v-for="section in sections" :key="section.key">
      <tr class="section">
        <th colspan="7" scope="colgroup">
          {{ HEADS[section.key][0] }}<span>{{ HEADS[section.key][1] }}</span>
        </th>
      </tr>
      <tr
        v-for="{ row, inner } in shownRows(section.rows)"
        :key="row.swap.id"
        :class="{ in: row.inPlan, out: row.swap.state === 'ruled_out', chosen: row.at === selected, inner }"
        @click="emit('select', row.at)"
        @keydown="keys($event, row)"
      >
        <td class="n place">{{ row.place ?? '' }}</td>
        <td class="slope">
          <Slope
            v-if="row.saving_mg != null && row.net_minor != null"
            :saving="row.saving_mg"
            :net="row.net_minor"
            :median="median"
          />
        </td>
        <td class="name">
          <button class="plain" data-cell @focus="emit('select', row.at)" @click="emit('open', row)">
            <b>{{ row.swap.name }}</b>
            <span>{{ row.missing.length ? `missing: ${row.missing.join(', ')}` : under(row) }}</span>
          </button>
          <button
            v-if="row.folded.length"
            class="plain link fold"
            :aria-expanded="unfolded.has(row.at)"
            @click.stop="toggleFold(row.at)"
          >
            {{
              unfolded.has(row.at)
                ? 'fold'
                : row.folded.length === 1
                  ? 'one more choice'
                  : `${row.folded.length} more choices`
            }}
          </button>
        </td>
        <td class="n">
          <Figure
            v-if="row.saving_mg != null"
            v-bind="units.table(row.saving_mg)"
            :bar="row.saving_mg / most.saving"
            :bar-width="84"
          />
        </td>
        <td class="n">
          <Figure
            v-if="row.net_minor != null"
            v-bind="units.money(row.net_minor)"
            :tone="row.net_minor === 0 ? 'quiet' : 'ink'"
            bar-tone="money"
            :bar="row.net_minor / most.net"
            :bar-width="60"
          />
        </td>
        <td class="n">
          <Figure
            v-if="row.class === 'paid'"
            v-bind="units.perMoney(row.saving_mg!, row.net_minor!)"
            size="text"
            :title="units.perMass(row.saving_mg!, row.net_minor!)"
          />
        </td>
        <td class="n state">
          <span v-if="row.swap.state === 'pinned'" class="chosen">pinned</span>
          <span v-else-if="row.swap.state === 'ruled_out'" class="muted">ruled out</span>
          <span v-else-if="row.inPlan" class="chosen">in the plan</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.ranking tbody tr:not(.section) {
  height: 40px;
}
.place {
  width: 34px;
  font-size: 17px;
  font-weight: 650;
}
.slope {
  width: 58px;
}
.state {
  width: 88px;
  font-size: 13px;
}
.in td:first-child {
  box-shadow: inset 3px 0 var(--lake);
}
tr.chosen td {
  background: var(--lake-soft);
}
.out .name b,
.out .n {
  color: var(--ink-2);
  text-decoration: line-through;
}
.out .state {
  text-decoration: none;
}
.inner .name {
  padding-left: var(--s-5);
}
.name button:first-child b {
  display: block;
  font-weight: 600;
  line-height: 1.2;
}
.name button:first-child span {
  color: var(--ink-2);
  font-size: 12px;
}
.name button:first-child:hover b {
  text-decoration: underline;
  text-underline-offset: 2px;
}
.fold {
  font-size: 12px;
  margin-left: 6px;
}
</style>
