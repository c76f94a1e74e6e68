<script setup lang="ts">
// Swaps over the year: what each takes off which list, what it saves over all nights, and what carrying less for a night costs with it.
import { computed } from 'vue'
import type { Swap, Year } from '@/api/client'
import { vGrid } from '@/controls/grid'
import Figure from '@/marks/Figure.vue'
import Slope from '@/marks/Slope.vue'
import { useUnits } from '@/domain/units'
import { asText } from '@/quantities/mass'
import type { YearSwap } from './year'
import { listed } from '@/quantities/count'

const props = defineProps<{
  year: Year
  /** What stands here, in this order. */
  swaps: YearSwap[]
  /** What the column of names is called. */
  title: string
  /** Whether the first column is the order of buying, or the place in the ranking. */
  isOrder?: boolean
  /** Places on the list that stands at the top, by swap. */
  places?: Map<string, number>
  /** What that list is called. */
  listName?: string
  median: number
}>()
const emit = defineEmits<{ pin: [swap: Swap]; rule: [swap: Swap]; do: [swap: YearSwap] }>()
const units = useUnits()
/** More columns than these don't fit; then it is told on how many lists a swap acts. */
const MOST_COLUMNS = 6
const columns = computed(() => (props.year.lists.length <= MOST_COLUMNS ? props.year.lists : []))
const acting = ({ acts }: YearSwap) =>
  props.year.lists.filter((_, at) => acts[at]).map(({ list }) => list.name)
/** What carrying a kilogram, or a pound, less for one night costs with it. */
const each = ({ saves_mg_nights: saves, net_minor: net }: YearSwap) =>
  (saves ?? 0) > 0 && (net ?? 0) > 0 ? asText(units.perMassNight(saves!, net!)) : ''
const pinned = ({ swap }: YearSwap) => swap.state === 'pinned'
const out = ({ swap }: YearSwap) => swap.state === 'ruled_out'
</script>

<template>
  <div class="wide">
    <h2 class="phone" aria-hidden="true">{{ title }}</h2>
    <table v-grid class="grid">
      <thead>
        <tr>
          <th class="n order">
            <span class="visually-hidden">{{ isOrder ? 'Order' : 'Place over the year' }}</span>
          </th>
          <th class="slope"><span class="visually-hidden">Slope</span></th>
          <th>{{ title }}</th>
          <th v-for="one in columns" :key="one.list.id" class="n list" :title="one.list.name">
            {{ one.list.name }}
          </th>
          <th class="n">Costs</th>
          <th class="n">Saves a year</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(one, at) in swaps" :key="one.swap.id" :class="{ out: out(one) }">
          <td class="n order">{{ isOrder ? at + 1 : (one.place ?? '–') }}</td>
          <td class="slope">
            <Slope
              v-if="one.saves_mg_nights != null"
              :saving="one.saves_mg_nights"
              :net="one.net_minor ?? 0"
              :median="median"
              :height="24"
            />
          </td>
          <td class="name">
            {{ one.swap.name }}
            <small :class="['muted', { phone: columns.length }]">{{ listed(acting(one)) }}</small>
            <small v-if="places?.has(one.swap.id)" class="muted"
              >place {{ places.get(one.swap.id) }} on {{ listName }}</small
            >
            <span class="acts">
              <el-button
                link
                data-cell
                tabindex="-1"
                :class="{ chosen: pinned(one) }"
                :aria-pressed="pinned(one)"
                :aria-label="`${pinned(one) ? 'Unpin' : 'Pin'} ${one.swap.name}`"
                @click="emit('pin', one.swap)"
                >{{ pinned(one) ? 'Unpin' : 'Pin' }}</el-button
              >
              <el-button
                link
                data-cell
                tabindex="-1"
                :aria-label="`${out(one) ? 'Allow again' : 'Rule out'} ${one.swap.name}`"
                @click="emit('rule', one.swap)"
                >{{ out(one) ? 'Allow again' : 'Rule out' }}</el-button
              >
              <el-button
                v-if="isOrder"
                link
                type="primary"
                class="do"
                data-cell
                tabindex="-1"
                :aria-label="`Done: ${one.swap.name}`"
                @click="emit('do', one)"
                >Done</el-button
              >
            </span>
          </td>
          <td v-for="(list, column) in columns" :key="list.list.id" class="n list">
            <template v-if="!one.acts[column]"><span class="muted">·</span></template>
            <template v-else-if="one.savings_mg[column] == null">?</template>
            <span v-else :class="{ spruce: one.savings_mg[column]! > 0 }">{{
              units.table(-one.savings_mg[column]!).figure
            }}</span>
          </td>
          <td class="n costs">
            <Figure
              v-if="one.net_minor != null"
              v-bind="units.money(one.net_minor)"
              :tone="one.net_minor > 0 ? 'ink' : 'quiet'"
            /><span v-else class="muted">not known</span>
          </td>
          <td class="n">
            <Figure
              v-if="one.saves_mg_nights != null"
              v-bind="units.massNights(one.saves_mg_nights)"
              tone="spruce"
            /><span v-else class="muted">not known</span>
            <small v-if="each(one)" class="muted each"
              >{{ each(one) }} a {{ units.scale.value.name }} night</small
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
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
  min-width: 140px;
  overflow-wrap: anywhere;
}
.name small {
  display: block;
  font-weight: 400;
}
.grid thead th {
  white-space: normal;
}
th.n {
  min-width: 44px;
  vertical-align: bottom;
}
th.list {
  width: 50px;
  padding-left: var(--s-0h);
  padding-right: var(--s-1h);
  white-space: normal;
  overflow-wrap: break-word;
  hyphens: auto;
  font-size: var(--text-xs);
  line-height: 1.2;
}
td.n {
  white-space: nowrap;
}
td.list {
  font-size: var(--text-m);
  padding-left: var(--s-0h);
  padding-right: var(--s-1h);
}
.each {
  display: block;
  min-width: 84px;
  white-space: normal;
}
.acts {
  display: block;
  line-height: 1.2;
}
.acts :deep(.el-button) {
  height: auto;
  padding: 0;
  font-size: var(--text-s);
  font-weight: 400;
  color: var(--ink-2);
}
.acts :deep(.do) {
  color: var(--lake);
  font-weight: 600;
}
.acts :deep(.chosen) {
  color: var(--lake);
  font-weight: 600;
}
.out .name {
  color: var(--ink-2);
}
.phone,
.name .phone {
  display: none;
}
@media (max-width: 700px) {
  thead,
  .list {
    display: none;
  }
  .phone,
  .name .phone {
    display: block;
  }
  tbody tr {
    display: grid;
    grid-template-columns: 32px 52px 1fr 1fr;
    align-items: center;
    border-bottom: 1px solid var(--line);
  }
  tbody td {
    border: 0;
  }
  .name {
    grid-column: 3 / -1;
  }
  .costs {
    grid-column: 1 / 4;
  }
}
@media (pointer: coarse) {
  .acts :deep(.el-button) {
    min-height: 44px;
    margin: 0;
    padding: 0 var(--s-4) 0 0;
  }
}
</style>
