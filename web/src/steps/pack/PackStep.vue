<script setup lang="ts">
// The pack as its zones on a scale of litres, what is in, what is left to do, and what the scale says.
import { computed, nextTick } from 'vue'
import type { PackedThing, Zone } from '@/api/client'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import TypedField from '@/controls/TypedField.vue'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { packVolume, volume } from '@/quantities/measures'
import KeepCard from './KeepCard.vue'
import { byZone, INSIDE, ORDER, progress, usePacking, ZONES, type Placed } from './packing'
import ScaleCard from './ScaleCard.vue'
import ToDoCard from './ToDoCard.vue'
import { tasks, written } from './words'
import ZoneBox from './ZoneBox.vue'

const props = defineProps<{ list: string }>()
const { packing, error, refetch, waiting, tick, move, shift, setDone, note, unpack } = usePacking(
  () => props.list,
)
const units = useUnits()
const litres = (ml: number) => volume(ml, units.measures.value)
const placed = computed(() => (packing.value ? byZone(packing.value) : new Map<Zone, Placed[]>()))
const done = computed(() => (packing.value ? progress(packing.value) : null))
const todo = computed(() => (packing.value ? tasks(packing.value, units, litres) : []))
const toDo = computed(
  () =>
    todo.value.filter((one) => !one.done).length +
    (packing.value ? written(packing.value).filter((one) => !one.done).length : 0),
)
const names = (at: number[]) => at.map((one) => packing.value!.things[one]!.name).join(', ')
const forgotten = computed(
  () => packing.value?.forgotten.filter((at) => !packing.value!.things[at]!.is_in) ?? [],
)
const zoneOf = (zone: Zone) => packing.value!.zones.find((one) => one.zone === zone)!
const mostMl = computed(() => Math.max(1, ...(packing.value?.zones.map((zone) => zone.holds_ml ?? 0) ?? [])))
/** As it could have been typed. */
const sizeOf = (zone: Zone) => {
  const ml = zoneOf(zone).holds_ml
  return ml == null || !zoneOf(zone).is_own
    ? ''
    : packVolume(ml, units.measures.value).replaceAll('\u202f', '')
}
const size = (zone: Zone) => (typed: string) => note({ zones: { [zone]: typed || null } })

/** The inside of the pack; its pockets and the walker. */
const COLUMNS = [ORDER.slice(0, INSIDE), ORDER.slice(INSIDE)]

/** The focus goes along. */
async function along(thing: PackedThing, go: () => void) {
  go()
  await nextTick()
  document.querySelector<HTMLElement>(`[data-line="${thing.line}"] input`)?.focus()
}
function dropped(line: string, zone: Zone) {
  const thing = packing.value?.things.find((one) => one.line === line)
  if (thing && thing.zone !== zone) move(thing, zone)
}
/** To what is not in yet, from anywhere but the boxes. */
const first = () =>
  (
    document.querySelector<HTMLElement>('.zone input:not(:checked)') ??
    document.querySelector<HTMLElement>('.zone input')
  )?.focus()
useKeys('Pack', [
  // Of the box that has the focus: its own.
  { key: 'Space', does: 'tick what has the focus in or out', run: () => undefined },
  { key: 'ArrowDown', does: 'the next thing; ↑ the one before', run: first },
  { key: '← →', does: 'move it to the zone beside', run: () => undefined },
  { key: 'Shift ↑ ↓', does: 'move it within its zone', run: () => undefined },
  { key: 'p', does: 'print the packed list', run: () => window.print() },
])
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">Is it all in, and does the scale agree?</h1>
      <p v-if="done">
        {{ done.all - done.out }} of {{ done.all }} in.
        <template v-if="toDo">{{ counted(toDo, 'task') }} before leaving.</template>
      </p>
      <p v-if="waiting" role="status" class="waiting">
        {{ counted(waiting, 'change') }} kept on this device until the server can be reached.
      </p>
    </div>
    <p v-if="props.list === ''" class="muted">Make a list first, at the top left.</p>
    <Loaded
      v-else
      what="The pack"
      :known="packing !== undefined"
      :error="packing ? null : error"
      :rows="10"
      @retry="refetch"
    >
      <div v-if="packing && done?.all === 0" class="empty card">
        <h2>Nothing to pack yet</h2>
        <p>What is on the list stands here in its place in the pack, to be ticked off on the floor.</p>
        <RouterLink class="link" :to="`/lists/${props.list}/list`">List</RouterLink>
      </div>
      <div v-else-if="packing && done" class="columns">
        <section class="card missing" aria-label="Not in yet">
          <h2>Not in yet</h2>
          <p v-if="packing.missing.length">
            <b class="caution">Needed for safety:</b> {{ names(packing.missing) }}.
          </p>
          <p v-if="forgotten.length"><b>Forgotten last time:</b> {{ names(forgotten) }}.</p>
          <p v-if="done.out" class="muted">
            {{ counted(done.out, 'thing') }}, {{ units.totalText(done.outMg) }}.
          </p>
          <p v-else class="muted">All of it is in.</p>
          <el-button v-if="done.out < done.all" link type="primary" @click="unpack">Untick all</el-button>
        </section>
        <div class="pack">
          <div v-for="column in COLUMNS" :key="column[0]" class="column">
            <ZoneBox
              v-for="zone in column"
              :key="zone"
              :zone="zoneOf(zone)"
              :placed="placed.get(zone) ?? []"
              :most-ml="mostMl"
              @tick="tick"
              @move="(thing, to) => along(thing, () => move(thing, to))"
              @shift="(thing, by) => along(thing, () => shift(thing, by))"
              @dropped="(line) => dropped(line, zone)"
            >
              <template #size>
                <el-form label-position="top" @submit.prevent>
                  <TypedField
                    :label="`${ZONES[zone][0]} holds`"
                    :text="sizeOf(zone)"
                    placeholder="as calculated, or 5 l"
                    :save="size(zone)"
                  />
                </el-form>
              </template>
            </ZoneBox>
          </div>
        </div>
        <aside aria-label="The scale, and what is left to do">
          <ScaleCard :packing="packing" :note="note" />
          <ToDoCard :packing="packing" :tasks="todo" :note="note" :set-done="setDone" />
          <KeepCard :list="props.list" :out="done.out" />
          <p class="muted keys">
            <kbd>Space</kbd> in or out <kbd>←</kbd><kbd>→</kbd> zone <kbd>Shift ↑</kbd><kbd>↓</kbd> order
            <kbd>p</kbd> print
          </p>
        </aside>
      </div>
    </Loaded>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template: 'pack missing' auto 'pack aside' 1fr / minmax(0, 1fr) minmax(280px, 380px);
  gap: var(--s-3) var(--s-5);
  align-items: start;
}
.missing {
  grid-area: missing;
}
aside {
  grid-area: aside;
}
.pack {
  grid-area: pack;
  display: grid;
  grid-template-columns: minmax(0, 2.4fr) minmax(190px, 1fr);
  gap: var(--s-2);
  align-items: start;
}
.column {
  display: grid;
  gap: var(--s-1);
}
aside {
  display: grid;
  gap: var(--s-3);
}
.waiting {
  color: var(--cloudberry);
  font-weight: 600;
}
.missing p {
  margin-bottom: var(--s-0h);
}
.keys {
  font-size: var(--text-s);
}
@media (max-width: 1100px) {
  .columns {
    grid-template: 'missing' 'pack' 'aside' / minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .pack {
    grid-template-columns: minmax(0, 1fr);
  }
  .keys {
    display: none;
  }
}
@media print {
  .columns {
    grid-template: 'pack' / minmax(0, 1fr);
  }
  aside,
  .missing {
    display: none;
  }
}
</style>
