<script setup lang="ts">
// The chosen set in buying order, with the base weight after each.
import { computed } from 'vue'
import type { PlanAnswer, Swap } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import Slope from '@/marks/Slope.vue'
import ExportMenu from '@/controls/ExportMenu.vue'
import { vGrid } from '@/controls/grid'
import { costsInOrder } from '@/domain/parcels'
import { TARGETS } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import { monthName } from '@/quantities/dates'
import { chosenRows } from './planRows'

const props = defineProps<{
  answer: PlanAnswer
  swaps: number[]
  /** The base weight after each, where it is known: two that break one kit save less together than each alone. */
  bases?: number[]
  /** In which month each is bought, where it is known. */
  months?: number[] | null
  /** Whether what is shown can be done: not while a line is dragged. */
  canDo?: boolean
  median: number
}>()
const emit = defineEmits<{ pin: [swap: Swap]; rule: [swap: Swap]; do: [swap: Swap] }>()
const units = useUnits()

const rows = computed(() => {
  let base: number | null = props.answer.aim_mg
  // The ranking's savings are of base weight.
  const isOfBase = props.answer.list.terms.target_of === 'base'
  const costs = costsInOrder(props.answer, props.swaps, props.months)
  return props.swaps.map((at, place) => {
    const ranked = props.answer.ranking.find((row) => row.swap === at)
    const before = base
    const saving = isOfBase && before !== null ? before - (ranked?.saving_mg ?? 0) : null
    base = props.bases?.[place] ?? saving
    return {
      at,
      swap: props.answer.swaps[at]!,
      saving: before !== null && base !== null ? before - base : null,
      net: costs[place]!,
      shares: costs[place]! < (ranked?.net_minor ?? 0),
      base,
      when: props.months ? monthName(props.months[place]!) : null,
    }
  })
})
</script>

<template>
  <table v-grid class="grid chosen-set">
    <thead>
      <tr>
        <th class="n order"><span class="visually-hidden">Order</span></th>
        <th class="slope"><span class="visually-hidden">Slope</span></th>
        <th>In this order</th>
        <th class="n">Saves</th>
        <th class="n">Costs</th>
        <th class="n">{{ TARGETS[answer.list.terms.target_of].choice }} after</th>
        <th v-if="months" class="n">When</th>
        <th class="n acts">
          <span class="visually-hidden">Pin, rule out, done</span>
          <ExportMenu :what="`Plan of ${answer.list.name}`" :rows="() => chosenRows(answer, rows, units)" />
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, place) in rows" :key="row.swap.id">
        <td class="n order">{{ place + 1 }}</td>
        <td class="slope">
          <Slope
            v-if="row.saving !== null"
            :saving="row.saving"
            :net="row.net"
            :median="median"
            :height="24"
          />
        </td>
        <td class="name">
          {{ row.swap.name }}<small v-if="row.shares" class="muted">comes in the same parcel</small>
        </td>
        <td class="n figure-cell">
          <Figure v-if="row.saving !== null" v-bind="units.table(row.saving)" /><span v-else>–</span>
        </td>
        <td class="n figure-cell">
          <Figure v-bind="units.money(row.net)" :tone="row.net === 0 ? 'quiet' : 'ink'" />
        </td>
        <td class="n figure-cell">
          <Figure v-if="row.base !== null" v-bind="units.total(row.base)" tone="spruce" /><span v-else
            >–</span
          >
        </td>
        <td v-if="months" class="n when">{{ row.when }}</td>
        <td class="n acts">
          <el-button
            link
            data-cell
            tabindex="-1"
            :class="{ chosen: row.swap.state === 'pinned' }"
            :aria-pressed="row.swap.state === 'pinned'"
            :aria-label="`${row.swap.state === 'pinned' ? 'Unpin' : 'Pin'} ${row.swap.name}`"
            @click="emit('pin', row.swap)"
          >
            {{ row.swap.state === 'pinned' ? 'Unpin' : 'Pin' }}
          </el-button>
          <el-button
            link
            data-cell
            tabindex="-1"
            :aria-label="`Rule out ${row.swap.name}`"
            @click="emit('rule', row.swap)"
            >Rule out</el-button
          >
          <el-button
            v-if="canDo"
            link
            type="primary"
            class="do"
            data-cell
            tabindex="-1"
            :aria-label="`Done: ${row.swap.name}`"
            @click="emit('do', row.swap)"
            >Done</el-button
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.order {
  width: 34px;
  font-size: var(--text-l);
  font-weight: 650;
}
.slope {
  width: 58px;
}
.name {
  font-weight: 600;
}
.name small {
  display: block;
  font-weight: 400;
}
.acts {
  width: 164px;
}
.when {
  white-space: nowrap;
  color: var(--ink-2);
}
.acts :deep(.el-button) {
  font-size: var(--text-s);
  font-weight: 400;
  color: var(--ink-2);
  margin-left: var(--s-2);
}
.acts :deep(.do) {
  color: var(--lake);
  font-weight: 600;
}
.acts :deep(.chosen) {
  color: var(--lake);
  font-weight: 600;
}
.name {
  overflow-wrap: anywhere;
}
@media (max-width: 700px) {
  /* Name and figures on lines of their own: side by side they would run off the page. */
  /* The heads of the figures go along on top. */
  .chosen-set thead {
    display: block;
    position: sticky;
    top: 64px;
    z-index: 5;
    background: var(--paper);
  }
  .chosen-set thead tr {
    display: grid;
    grid-template-columns: 30px 54px repeat(3, minmax(0, 1fr));
    border-bottom: 1px solid var(--line-strong);
  }
  .chosen-set thead th {
    border: 0;
    display: none;
  }
  .chosen-set thead th:nth-child(n + 4):nth-child(-n + 6) {
    display: block;
    white-space: normal;
  }
  .chosen-set thead th:nth-child(4) {
    grid-column: 1 / 4;
  }
  .chosen-set tbody tr {
    display: grid;
    grid-template-columns: 30px 54px repeat(3, minmax(0, 1fr));
    align-items: center;
    border-bottom: 1px solid var(--line);
  }
  .chosen-set tbody td {
    border: 0;
  }
  .chosen-set .name {
    grid-column: 3 / -1;
  }
  .chosen-set .figure-cell {
    grid-row: 2;
  }
  .chosen-set .figure-cell:nth-child(4) {
    grid-column: 1 / 4;
  }
  .chosen-set .when {
    grid-row: 3;
    grid-column: 1 / 3;
    text-align: left;
  }
  .chosen-set .acts {
    grid-row: 3;
    grid-column: 3 / -1;
    width: auto;
  }
}
</style>
