<script setup lang="ts">
// What to weigh, the worst doubt first.
import { computed, ref } from 'vue'
import type { Queued } from '@/api/client'
import { useUnits } from '@/shell/units'
import { KNOWN_FROM } from './weigh'

const props = defineProps<{ queue: Queued[]; marked: string | undefined }>()
const emit = defineEmits<{ mark: [id: string] }>()

const units = useUnits()
const SHOWN = 10
const whole = ref(false)
const rows = computed(() => {
  if (whole.value) return props.queue
  const at = props.queue.findIndex(({ gear }) => gear.id === props.marked)
  return props.queue.slice(0, Math.max(SHOWN, at + 1))
})

function known(queued: Queued) {
  const source = queued.gear.weight?.source
  if (!source) return 'nothing'
  const year = queued.weighed_at ? ` ${new Date(queued.weighed_at).getFullYear()}` : ''
  return `${KNOWN_FROM[source]}${source === 'weighed' ? year : ''}`
}

function doubt({ gear, alone, low_mg, high_mg }: Queued) {
  if (alone === 0) return 'in its kit'
  if (!gear.weight) return 'all of it'
  const figure = (mg: number) => units.fineText(mg).replace(/ .*$/, '')
  const end = (mg: number) => `${mg > 0 ? '+' : ''}${figure(mg)}`
  return -low_mg === high_mg ? `±${figure(high_mg)}` : `${end(low_mg)} ${end(high_mg)}`
}
</script>

<template>
  <div>
    <table class="grid">
      <thead>
        <tr>
          <th>To weigh</th>
          <th>Known from</th>
          <th class="n">Figure</th>
          <th class="n">Doubt</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.gear.id"
          :class="{ marked: row.gear.id === marked }"
          @click="emit('mark', row.gear.id)"
        >
          <td>
            <button class="plain name" data-row :aria-pressed="row.gear.id === marked">
              {{ row.gear.name }}<template v-if="row.pieces > 1"> × {{ row.pieces }}</template>
            </button>
          </td>
          <td class="muted">{{ known(row) }}</td>
          <td class="n">{{ row.gear.weight ? units.tableText(row.gear.weight.unit_mg) : '?' }}</td>
          <td class="n">{{ doubt(row) }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="queue.length > rows.length || whole" class="plain link more" @click="whole = !whole">
      {{ whole ? 'only the first' : `all ${queue.length}` }}
    </button>
  </div>
</template>

<style scoped>
tbody tr {
  cursor: pointer;
}
.marked td {
  background: var(--lake-soft);
}
.name {
  font-weight: 600;
}
.more {
  display: inline-block;
  padding: 6px var(--s-2);
}
</style>
