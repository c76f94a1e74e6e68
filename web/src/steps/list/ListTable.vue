<script setup lang="ts">
// What is on the list, by system, and how many pieces count where.
import type { ListLine } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'
import { SOURCES } from '@/domain/words'
import type { Counts } from './list'

const props = defineProps<{
  systems: { key: string; name: string; lines: ListLine[] }[]
  count: (line: ListLine, counts: Partial<Counts>) => Promise<unknown>
}>()
const emit = defineEmits<{ remove: [line: ListLine] }>()
const units = useUnits()

const PLACES = [
  { key: 'carried', name: 'Carried' },
  { key: 'worn', name: 'Worn' },
  { key: 'used_up', name: 'Used up' },
] as const

const save = (line: ListLine, place: keyof Counts) => async (typed: string) =>
  props.count(line, { [place]: typed.trim() === '' ? 0 : countOf(typed, 'how many pieces, or nothing') })

const adds = (line: ListLine) => (line.gear.weight?.unit_mg ?? 0) * line.carried
const subtotal = (of: ListLine[]) => units.tableText(of.reduce((sum, line) => sum + adds(line), 0))
</script>

<template>
  <table v-grid class="grid">
    <thead>
      <tr>
        <th>On the list</th>
        <th v-for="place in PLACES" :key="place.key" class="n counts">{{ place.name }}</th>
        <th class="n each">Each</th>
        <th class="n adds">In base</th>
        <th class="act"><span class="visually-hidden">Take off</span></th>
      </tr>
    </thead>
    <tbody v-for="system in systems" :key="system.key">
      <tr class="section">
        <th colspan="7" scope="colgroup">
          {{ system.name }}<span>{{ subtotal(system.lines) }}</span>
        </th>
      </tr>
      <tr v-for="line in system.lines" :key="line.id">
        <td class="name">
          {{ line.gear.name }}
          <span
            v-if="line.gear.weight?.source === 'maker' || line.gear.weight?.source === 'estimate'"
            class="chip"
            >{{ SOURCES[line.gear.weight.source] }}</span
          >
        </td>
        <td v-for="place in PLACES" :key="place.key" class="n">
          <EditableCell
            numeric
            :label="`${place.name} of ${line.gear.name}`"
            :typed="line[place.key] === 0 ? '' : String(line[place.key])"
            :save="save(line, place.key)"
          />
        </td>
        <td class="n muted">
          {{ line.gear.weight ? units.tableText(line.gear.weight.unit_mg) : 'unknown' }}
        </td>
        <td class="n">
          <Figure v-bind="units.table(adds(line))" :tone="adds(line) ? 'ink' : 'quiet'" />
        </td>
        <td class="n">
          <el-button
            link
            class="off"
            data-cell
            tabindex="-1"
            :aria-label="`Take ${line.gear.name} off the list`"
            @click="emit('remove', line)"
            >×</el-button
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.counts {
  width: 62px;
}
.each,
.adds {
  width: 92px;
}
.name {
  overflow-wrap: anywhere;
}
.act {
  width: 38px;
}
@media (max-width: 1000px) {
  .each {
    display: none;
  }
  .counts {
    width: 46px;
  }
  .grid th,
  .grid td {
    padding-left: 2px;
    padding-right: 2px;
  }
  td.n.muted {
    display: none;
  }
}
</style>
