<script setup lang="ts">
// What is on the list, by system, and how many pieces count where.
import type { ListLine } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import EditableCell from '@/shell/EditableCell.vue'
import { walk } from '@/shell/grid'
import { useUnits } from '@/shell/units'
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
  <table class="grid" @keydown="walk">
    <thead>
      <tr>
        <th>On the list</th>
        <th v-for="place in PLACES" :key="place.key" class="n counts">{{ place.name }}</th>
        <th class="n each">Each</th>
        <th class="n adds">Adds to base</th>
        <th><span class="visually-hidden">Take off</span></th>
      </tr>
    </thead>
    <tbody v-for="system in systems" :key="system.key">
      <tr class="section">
        <th colspan="7" scope="colgroup">
          {{ system.name }}<span>{{ subtotal(system.lines) }}</span>
        </th>
      </tr>
      <tr v-for="line in system.lines" :key="line.id">
        <td>
          {{ line.gear.name }}
          <span v-if="line.gear.weight?.source === 'maker'" class="chip">maker</span>
          <span v-else-if="line.gear.weight?.source === 'estimate'" class="chip">guess</span>
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
          <button
            class="plain muted off"
            data-cell
            :aria-label="`Take ${line.gear.name} off the list`"
            @click="emit('remove', line)"
          >
            ×
          </button>
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
.off {
  padding: 2px 6px;
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
