<script setup lang="ts">
// A weight of the loaded pack that opens to its sum, line by line: the same sum wherever one stands.
import { computed } from 'vue'
import type { LoadedPack } from '@/api/client'
import { useUnits } from './units'

const props = defineProps<{
  loaded: LoadedPack
  /** Names of the things, by position. */
  names: string[]
}>()
const units = useUnits()
const PARTS = { food: 'Food, as the trip takes it', water: 'Water at the start' } as const
const rows = computed(() =>
  props.loaded.parts
    .map(({ part, of, kit, mass_mg }) => ({
      name:
        part === 'thing'
          ? (props.names[of!] ?? '')
          : part === 'kit'
            ? `${kit}: weighed together, beyond its parts`
            : PARTS[part],
      mg: mass_mg,
    }))
    .sort((a, b) => b.mg - a.mg),
)
/** The sum on paper, where nothing opens. */
const inShort = computed(() => {
  const sum = (kinds: string[]) =>
    props.loaded.parts.filter(({ part }) => kinds.includes(part)).reduce((mg, { mass_mg }) => mg + mass_mg, 0)
  return [
    ['things', sum(['thing', 'kit'])],
    ['food', sum(['food'])],
    ['water', sum(['water'])],
  ]
    .filter(([, mg]) => mg !== 0)
    .map(([what, mg]) => `${what} ${units.totalText(mg as number)}`)
    .join(', ')
})
const total = computed(
  () => (props.loaded.unknown > 0 ? 'at least ' : '') + units.totalText(props.loaded.total_mg),
)
</script>

<template>
  <el-popover trigger="click" placement="bottom-end" width="340" :persistent="false">
    <template #reference>
      <el-button link type="primary" class="opens" data-print :aria-label="`${total}: show what is in it`">{{
        total
      }}</el-button>
    </template>
    <table class="sum">
      <caption class="visually-hidden">
        The loaded pack at the start, line by line
      </caption>
      <tbody>
        <tr v-for="(row, at) in rows" :key="at">
          <td>{{ row.name }}</td>
          <td>{{ units.tableText(row.mg) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th scope="row">In all{{ loaded.unknown > 0 ? `, ${loaded.unknown} not weighed` : '' }}</th>
          <th>{{ total }}</th>
        </tr>
      </tfoot>
    </table>
  </el-popover>
  <small class="print-only"> ({{ inShort }})</small>
</template>

<style scoped>
.opens {
  height: auto;
  padding: 0;
  vertical-align: baseline;
  font-size: inherit;
}
.print-only {
  display: none;
}
@media print {
  .print-only {
    display: inline;
  }
}
.sum {
  display: block;
  max-height: 50vh;
  overflow-y: auto;
  width: 100%;
}
tr {
  display: flex;
  justify-content: space-between;
  gap: var(--s-3);
  border-bottom: 1px solid var(--line);
  padding: var(--s-0h) 0;
}
td:last-child,
th:last-child {
  text-align: right;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
td:first-child {
  overflow-wrap: anywhere;
}
</style>
