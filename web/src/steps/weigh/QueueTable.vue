<script setup lang="ts">
// What to weigh, the least certain first; and a find, for what comes to hand.
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Queued } from '@/api/client'
import { focusTitle } from '@/controls/focus'
import { useUnits } from '@/domain/units'
import { SOURCES } from '@/domain/words'

const props = defineProps<{
  queue: Queued[]
  marked: string | undefined
  /** By gear, what not knowing its weight costs. */
  costs: Map<string, string>
}>()
const emit = defineEmits<{ mark: [id: string] }>()

const units = useUnits()
const SHOWN = 10
const whole = ref(false)
const find = ref('')
const finder = useTemplateRef<{ focus: () => void; blur: () => void }>('finder')
const table = useTemplateRef<HTMLElement>('table')

const found = computed(() => {
  const words = find.value.trim().toLowerCase().split(/\s+/)
  return props.queue.filter(({ gear }) => words.every((word) => gear.name.toLowerCase().includes(word)))
})
const rows = computed(() => {
  if (whole.value || find.value.trim()) return found.value
  const at = props.queue.findIndex(({ gear }) => gear.id === props.marked)
  return props.queue.slice(0, Math.max(SHOWN, at + 1))
})

/** Enter marks the first that is found; the next Enter takes its reading. */
function enter() {
  const first = found.value[0]
  if (find.value.trim() === '' || !first) return
  emit('mark', first.gear.id)
  find.value = ''
  focusTitle()
}

watch(
  () => props.marked,
  async () => {
    await nextTick()
    table.value?.querySelector('.marked')?.scrollIntoView({ block: 'nearest' })
  },
)

function known(queued: Queued) {
  const source = queued.gear.weight?.source
  if (!source) return 'none'
  const year = queued.weighed_at ? ` ${new Date(queued.weighed_at).getFullYear()}` : ''
  return `${SOURCES[source]}${source === 'weighed' ? year : ''}`
}

function doubt({ gear, alone, low_mg, high_mg }: Queued) {
  if (alone === 0) return 'in its kit'
  if (!gear.weight) return 'all of it'
  if (low_mg === 0 && high_mg === 0) return 'none'
  const figure = (mg: number) => units.fineText(mg).replace(/ .*$/, '')
  const end = (mg: number) => `${mg > 0 ? '+' : ''}${figure(mg)}`
  return -low_mg === high_mg ? `±${figure(high_mg)}` : `${end(low_mg)} ${end(high_mg)}`
}
defineExpose({ focus: () => finder.value?.focus() })
</script>

<template>
  <div>
    <form @submit.prevent="enter">
      <el-input
        ref="finder"
        v-model="find"
        size="small"
        type="search"
        clearable
        placeholder="Find what to weigh, then Enter"
        aria-label="Find what to weigh"
        @keydown.esc="((find = ''), focusTitle())"
      />
    </form>
    <table ref="table" class="grid">
      <thead>
        <tr>
          <th>To weigh</th>
          <th class="from">Source</th>
          <th class="n">Weight</th>
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
            <el-button link class="name" data-row :aria-pressed="row.gear.id === marked">
              {{ row.gear.name }}<template v-if="row.pieces > 1"> × {{ row.pieces }}</template>
            </el-button>
            <small v-if="costs.has(row.gear.id)" class="cost"
              >not knowing it costs {{ costs.get(row.gear.id) }}</small
            >
          </td>
          <td class="muted from">{{ known(row) }}</td>
          <td class="n">{{ row.gear.weight ? units.tableText(row.gear.weight.unit_mg) : '?' }}</td>
          <td class="n">{{ doubt(row) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="find && rows.length === 0" class="muted none">Nothing to weigh matches “{{ find }}”.</p>
    <el-button
      v-if="!find && (queue.length > rows.length || whole)"
      link
      type="primary"
      class="more"
      @click="whole = !whole"
    >
      {{ whole ? 'Show the first only' : `Show all ${queue.length}` }}
    </el-button>
  </div>
</template>

<style scoped>
tbody tr {
  cursor: pointer;
}
.marked td {
  background: var(--lake-soft);
}
td.from {
  white-space: nowrap;
}
.cost {
  display: block;
  padding-left: var(--s-0h);
  color: var(--cloudberry);
}
td :deep(.name) {
  font-weight: 600;
  height: auto;
  white-space: normal;
  text-align: left;
  color: var(--ink);
}
.more,
.none {
  padding: var(--s-1h) var(--s-2);
}
@media (max-width: 700px) {
  .from {
    display: none;
  }
  td {
    height: 40px;
  }
}
</style>
