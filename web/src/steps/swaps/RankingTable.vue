<script setup lang="ts">
// The ranking: slope, place, grams, money, grams for the money.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { ListLine } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import Figure from '@/marks/Figure.vue'
import { medianRatio } from '@/domain/median'
import Slope from '@/marks/Slope.vue'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'
import { KINDS } from '@/domain/words'
import { gainsOf } from './gains'
import type { Row } from './swaps'
import { listed } from '@/quantities/count'

const props = defineProps<{
  sections: { key: Row['class']; rows: Row[] }[]
  lines: ListLine[]
  selected: string | null
}>()
const emit = defineEmits<{
  select: [id: string]
  open: [row: Row]
}>()

const units = useUnits()
const unfolded = ref(new Set<string>())

const HEADS: Record<Row['class'], [string, string]> = {
  free: ['Free', 'do these first'],
  paid: ['Paid', 'most weight saved for the money first'],
  no_saving: ['No saving', 'kept here to compare'],
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
    ...(unfolded.value.has(row.swap.id) ? row.folded : []).map((row) => ({ row, inner: true })),
  ])

function under(row: Row): string {
  const gone = row.swap.remove
    .map(({ line, qty }) => {
      const name = props.lines.find((other) => other.id === line)?.gear.name ?? ''
      return qty > 1 ? `${name} × ${qty}` : name
    })
    .filter(Boolean)
  const parts = [
    gone.length && row.swap.kind !== 'leave_out' ? `for ${listed(gone)}` : '',
    row.swap.kind === 'replace' ? '' : KINDS[row.swap.kind],
  ]
  if (row.swap.tenth_hours) parts.push(`${row.swap.tenth_hours / 10} h`)
  if (row.swap.requires.length)
    parts.push(`only with ${row.swap.requires.length === 1 ? 'another swap' : 'other swaps'}`)
  return parts.filter(Boolean).join(', ')
}

const { data: vocabulary } = useQuery(vocabularyQuery)
const nameOf = (job: string) =>
  vocabulary.value?.jobs.find((one) => one.key === job)?.name ?? job.replaceAll('_', ' ')

/** `3–6`; nothing where there is no doubt. */
function placeBand({ place, best_place: best, worst_place: worst }: Row): string {
  if (place == null || best == null || worst == null) return ''
  return best === worst ? `${best}` : `${best}–${worst}`
}

function toggleFold(id: string) {
  const next = new Set(unfolded.value)
  if (!next.delete(id)) next.add(id)
  unfolded.value = next
}
</script>

<template>
  <table v-grid class="grid ranking">
    <thead>
      <tr>
        <th class="n place"><span class="visually-hidden">Place</span></th>
        <th class="slope"><span class="visually-hidden">Slope</span></th>
        <th>Swap</th>
        <th class="n">Saves</th>
        <th class="n">Costs</th>
        <th class="n">{{ units.perMoneyName.value }}</th>
        <th
          class="n band"
          title="From where to where it may stand, once weights and prices are known for sure"
        >
          Possible rank
        </th>
        <th class="n state"><span class="visually-hidden">State</span></th>
      </tr>
    </thead>
    <tbody v-for="section in sections" :key="section.key">
      <tr class="section">
        <th colspan="8" scope="colgroup">
          {{ HEADS[section.key][0] }}<span>{{ HEADS[section.key][1] }}</span>
        </th>
      </tr>
      <tr
        v-for="{ row, inner } in shownRows(section.rows)"
        :key="row.swap.id"
        :class="{
          in: row.inPlan,
          out: row.swap.state === 'ruled_out',
          chosen: row.swap.id === selected,
          inner,
        }"
        @click="emit('select', row.swap.id)"
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
          <el-button
            link
            class="what"
            data-cell
            tabindex="-1"
            :data-swap="row.swap.id"
            @focus="emit('select', row.swap.id)"
            @click="emit('open', row)"
          >
            <span class="both">
              <b>{{ row.swap.name }}</b>
              <span
                >{{ row.missing.length ? `missing: ${listed(row.missing)}` : under(row)
                }}<template v-for="gain in gainsOf(row, units.measures.value, nameOf)" :key="gain.text"
                  >, <i :class="gain.isLost ? 'lost' : 'gained'">{{ gain.text }}</i></template
                ></span
              >
            </span>
          </el-button>
          <el-button
            v-if="row.folded.length"
            link
            type="primary"
            class="fold"
            data-cell
            tabindex="-1"
            :aria-expanded="unfolded.has(row.swap.id)"
            @click.stop="toggleFold(row.swap.id)"
          >
            {{
              unfolded.has(row.swap.id)
                ? 'Fold'
                : row.folded.length === 1
                  ? '1 more choice'
                  : `${row.folded.length} more choices`
            }}
          </el-button>
        </td>
        <td class="n figure-cell">
          <Figure
            v-if="row.saving_mg != null"
            v-bind="units.table(row.saving_mg)"
            :bar="row.saving_mg / most.saving"
            :bar-width="72"
          />
        </td>
        <td class="n figure-cell">
          <Figure
            v-if="row.net_minor != null"
            v-bind="units.money(row.net_minor)"
            :tone="row.net_minor === 0 ? 'quiet' : 'ink'"
            bar-tone="money"
            :bar="row.net_minor / most.net"
            :bar-width="52"
          />
        </td>
        <td class="n figure-cell">
          <Figure
            v-if="row.class === 'paid'"
            v-bind="units.perMoney(row.saving_mg!, row.net_minor!)"
            size="text"
            :title="units.perMass(row.saving_mg!, row.net_minor!)"
          />
        </td>
        <td class="n band">{{ placeBand(row) }}</td>
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
.lost,
.gained {
  font-style: normal;
  font-weight: 600;
  white-space: nowrap;
}
.lost {
  color: var(--lingonberry);
}
.gained {
  color: var(--spruce);
}
.ranking tbody tr:not(.section) {
  height: 40px;
}
.place {
  width: 34px;
  font-size: var(--text-l);
  font-weight: 650;
}
.slope {
  width: 58px;
}
.band {
  width: 66px;
  color: var(--ink-2);
}
th.band {
  white-space: normal;
  line-height: 1.2;
}
.state {
  width: 80px;
  font-size: var(--text-m);
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
.name {
  min-width: 0;
}
.name :deep(.what) {
  height: auto;
  max-width: 100%;
  white-space: normal;
  text-align: left;
}
.both {
  display: block;
  font-weight: 400;
}
.both b {
  display: block;
  font-weight: 600;
  line-height: 1.2;
  color: var(--ink);
  overflow-wrap: anywhere;
}
.both span {
  color: var(--ink-2);
  font-size: var(--text-s);
  line-height: 1.3;
}
.name :deep(.what:hover b) {
  text-decoration: underline;
  text-underline-offset: 2px;
}
.name :deep(.fold) {
  font-size: var(--text-s);
  margin-left: var(--s-1h);
}
@media (max-width: 700px) {
  /* Name and figures on lines of their own: side by side they would run off the page. */
  /* The heads of the figures go along on top. */
  .ranking thead {
    display: block;
    position: sticky;
    top: 64px;
    z-index: 5;
    background: var(--paper);
  }
  .ranking thead tr {
    display: grid;
    grid-template-columns: 30px 58px repeat(3, minmax(0, 1fr));
    border-bottom: 1px solid var(--line-strong);
  }
  .ranking thead th {
    border: 0;
    display: none;
  }
  .ranking thead th:nth-child(n + 4):nth-child(-n + 6) {
    display: block;
    padding: var(--s-1h) var(--s-1);
    white-space: normal;
  }
  .ranking thead th:nth-child(4) {
    grid-column: 3;
  }
  .ranking tbody tr:not(.section) {
    display: grid;
    grid-template-columns: 30px 58px repeat(3, minmax(0, 1fr));
    align-items: center;
    height: auto;
    border-bottom: 1px solid var(--line);
    padding: var(--s-1) 0;
  }
  .ranking tbody tr:not(.section) td {
    border: 0;
    padding: var(--s-0h) var(--s-1);
  }
  .ranking td.name {
    grid-column: 3 / -1;
  }
  .ranking td.figure-cell {
    grid-row: 2;
  }
  .ranking td.figure-cell :deep(.bar) {
    display: none;
  }
  .ranking td.band {
    display: none;
  }
  .ranking td.state {
    grid-row: 2;
    grid-column: 1 / 3;
    width: auto;
    text-align: left;
  }
}
</style>
