<script setup lang="ts">
// The year's lists, each with its nights and a small ruler, all on one scale: now, planned, target.
import { computed } from 'vue'
import { extent } from 'd3-array'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import Figure from '@/marks/Figure.vue'
import { axis, nice } from '@/marks/scale'
import { stepOf } from '@/domain/lists'
import { TARGETS } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import { dayOfTrip } from '@/quantities/dates'
import type { YearList } from './year'

const props = defineProps<{
  lists: YearList[]
  save: (list: YearList['list'], typed: string) => Promise<unknown>
}>()
const units = useUnits()
const WIDTH = 300
const ruler = computed(() => {
  const unit = units.scale.value.mg
  const masses = props.lists.flatMap((one) => [
    one.base_mg / unit,
    one.planned_mg / unit,
    (one.base_target_mg ?? one.base_mg) / unit,
  ])
  const [least = 0, most = 1] = extent(masses)
  const room = Math.max((most - least) * 0.08, 0.2)
  const { at, marks } = axis(nice([Math.max(0, least - room), most + room], 5), [0, WIDTH], 5)
  return { x: (mg: number) => Math.max(0, at(mg / unit)), marks }
})
const from = ({ first_on: first, trip_nights: trips, list }: YearList) => {
  if (list.year_nights != null) return trips ? `set by you; trips say ${trips}` : 'set by you'
  return first ? `from ${dayOfTrip(first)}` : ''
}
</script>

<template>
  <table v-grid class="grid year-lists">
    <thead>
      <tr>
        <th>List</th>
        <th class="n">Nights</th>
        <th class="n">Now</th>
        <th class="n">Planned</th>
        <th class="n">Target</th>
        <th class="ruler" aria-hidden="true">{{ units.scale.value.name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in lists" :key="one.list.id">
        <td class="name">
          <RouterLink :to="stepOf(one.list.id, 'plan')" data-cell tabindex="-1">{{
            one.list.name
          }}</RouterLink>
          <small class="muted">{{ from(one) }}</small>
        </td>
        <td class="n nights" data-label="nights">
          <EditableCell
            :label="`Nights of ${one.list.name}`"
            :typed="String(one.nights)"
            :save="(typed) => save(one.list, typed)"
            numeric
          />
        </td>
        <td class="n" data-label="now">
          <Figure v-bind="units.total(one.base_mg)" size="text" /><small v-if="one.unknown" class="muted">
            at least</small
          >
        </td>
        <td class="n" data-label="planned"><Figure v-bind="units.total(one.planned_mg)" tone="spruce" /></td>
        <td class="n" data-label="target">
          <Figure
            v-if="one.base_target_mg != null"
            v-bind="units.total(one.base_target_mg)"
            size="text"
            tone="chosen"
          /><span v-else class="muted">{{
            one.list.target_mg == null ? 'none' : `of its ${TARGETS[one.list.terms.target_of].name}`
          }}</span>
          <span v-if="one.short_by_mg" class="visually-hidden"
            >{{ units.tableText(one.short_by_mg) }} short</span
          >
        </td>
        <td class="ruler" aria-hidden="true">
          <svg :width="WIDTH + 12" height="36" :viewBox="`-6 0 ${WIDTH + 12} 36`" aria-hidden="true">
            <line
              v-for="mark in ruler.marks"
              :key="mark.value"
              :x1="mark.at"
              :x2="mark.at"
              y1="23"
              y2="27"
              stroke="var(--line-strong)"
            />
            <rect
              x="0"
              y="12"
              height="9"
              :width="ruler.x(Math.max(one.base_mg, one.planned_mg))"
              fill="var(--spruce-soft)"
            />
            <rect x="0" y="12" height="9" :width="ruler.x(one.planned_mg)" fill="var(--spruce)" />
            <line
              v-if="one.base_target_mg != null"
              :x1="ruler.x(one.base_target_mg)"
              :x2="ruler.x(one.base_target_mg)"
              y1="7"
              y2="26"
              stroke="var(--lake)"
              stroke-width="2"
            />
            <path :d="`M${ruler.x(one.base_mg) - 5} 3h10l-5 7z`" fill="var(--ink)" />
            <text
              v-if="one.short_by_mg"
              :x="WIDTH"
              y="34"
              text-anchor="end"
              font-size="12"
              fill="var(--lingonberry)"
            >
              {{ units.tableText(one.short_by_mg) }} short
            </text>
          </svg>
        </td>
      </tr>
    </tbody>
    <tfoot aria-hidden="true">
      <tr>
        <td colspan="5"></td>
        <td class="ruler">
          <svg :width="WIDTH + 12" height="14" :viewBox="`-6 0 ${WIDTH + 12} 14`">
            <text
              v-for="mark in ruler.marks"
              :key="mark.value"
              :x="mark.at"
              y="11"
              text-anchor="middle"
              font-size="11"
              fill="var(--ink-2)"
            >
              {{ mark.text }}
            </text>
          </svg>
        </td>
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
.name a {
  font-weight: 600;
  color: var(--ink);
}
.name small {
  display: block;
}
.nights {
  width: 70px;
  font-weight: 650;
}
.n {
  white-space: nowrap;
}
.ruler {
  width: 320px;
}
svg {
  display: block;
}
tfoot td {
  border: 0;
}
@media (max-width: 1080px) and (min-width: 701px) {
  .ruler {
    display: none;
  }
}
@media (max-width: 700px) {
  .year-lists thead,
  tfoot {
    display: none;
  }
  .year-lists tbody tr {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr)) 62px;
    align-items: start;
    border-bottom: 1px solid var(--line);
    padding: var(--s-2) 0 0;
  }
  .year-lists tbody td {
    border: 0;
    text-align: left;
  }
  .year-lists .name {
    grid-column: 1 / 4;
  }
  .year-lists .nights {
    width: auto;
  }
  td[data-label]::before {
    content: attr(data-label);
    display: block;
    font-size: var(--text-s);
    font-weight: 400;
    color: var(--ink-2);
  }
  .year-lists .ruler {
    grid-column: 1 / -1;
    width: auto;
  }
}
</style>
