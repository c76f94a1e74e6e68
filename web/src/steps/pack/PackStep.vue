<script setup lang="ts">
// The pack as its zones on a litre scale, what is in, what is left to do, and what the scale says.
import { computed, nextTick } from 'vue'
import { api, take, type PackedThing, type Zone } from '@/api/client'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { volume } from '@/quantities/measures'
import { beside, byZone, INSIDE, ORDER, progress, usePacking, type Placed } from './packing'
import ScaleCard from './ScaleCard.vue'
import { tasks } from './words'
import ZoneBox from './ZoneBox.vue'

const props = defineProps<{ list: string }>()
const { packing, error, refetch, reading, ofMe, tick, move, unpack } = usePacking(() => props.list)
const units = useUnits()
const litres = (ml: number) => volume(ml, units.measures.value)
const placed = computed(() => (packing.value ? byZone(packing.value) : new Map<Zone, Placed[]>()))
const done = computed(() => (packing.value ? progress(packing.value) : null))
const todo = computed(() => (packing.value ? tasks(packing.value, units, litres) : []))
const missing = computed(() => packing.value?.missing.map((at) => packing.value!.things[at]!.name) ?? [])
const zoneOf = (zone: Zone) => packing.value?.zones.find((one) => one.zone === zone)

/** The inside of the pack; its pockets and the walker. */
const COLUMNS = [ORDER.slice(0, INSIDE), ORDER.slice(INSIDE)]
/** A zone of so many millilitres is so many pixels high, or as high as what is in it. */
const PX_PER_L = 11
const height = (zone: Zone) => `${((zoneOf(zone)?.holds_ml ?? 0) / 1000) * PX_PER_L}px`

/** Asks first, so that what can't be read is refused where it was typed. */
async function read(shows: string, alone: string) {
  await take(
    api.GET('/api/lists/{id}/packing', {
      params: { path: { id: props.list }, query: { reading: shows, of_me: alone } },
    }),
  )
  reading.value = shows
  ofMe.value = alone
}

/** The focus goes along. */
async function moveBeside(thing: PackedThing, step: number) {
  await move(thing, beside(thing.zone!, step))
  await nextTick()
  document.querySelector<HTMLElement>(`[data-line="${thing.line}"] input`)?.focus()
}
useKeys('Pack', [{ key: 'p', does: 'print the packed list', run: () => window.print() }])
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">Is it all in, and does the scale agree?</h1>
      <p v-if="done">
        {{ done.all - done.out }} of {{ done.all }} in.
        <template v-if="todo.length">{{ counted(todo.length, 'task') }} before leaving.</template>
      </p>
    </div>
    <p v-if="props.list === ''" class="muted">Make a list first, at the top left.</p>
    <Loaded v-else what="The pack" :known="packing !== undefined" :error="error" :rows="10" @retry="refetch">
      <div v-if="packing && done?.all === 0" class="empty card">
        <h2>Nothing to pack yet</h2>
        <p>What is on the list stands here in its place in the pack, to be ticked off on the floor.</p>
        <RouterLink class="link" :to="`/lists/${props.list}/list`">List</RouterLink>
      </div>
      <div v-else-if="packing && done" class="columns">
        <section class="card missing" aria-label="Not in yet">
          <h2>Not in yet</h2>
          <p v-if="missing.length"><b class="caution">Needed for safety:</b> {{ missing.join(', ') }}.</p>
          <p v-if="done.out" class="muted">
            {{ counted(done.out, 'thing') }}, {{ units.totalText(done.outMg) }}.
          </p>
          <p v-else class="muted">All of it is in.</p>
          <el-button v-if="done.out < done.all" link type="primary" @click="unpack"
            >Begin again: untick all</el-button
          >
        </section>
        <div class="pack">
          <div v-for="column in COLUMNS" :key="column[0]" class="column">
            <ZoneBox
              v-for="zone in column"
              :key="zone"
              :style="{ minHeight: height(zone) }"
              :zone="zone"
              :placed="placed.get(zone) ?? []"
              :ml="zoneOf(zone)?.ml ?? 0"
              :unknown="zoneOf(zone)?.unknown ?? 0"
              :holds="zoneOf(zone)?.holds_ml ?? null"
              @tick="tick"
              @move="moveBeside"
            />
          </div>
        </div>
        <aside aria-label="The scale, and what is left to do">
          <ScaleCard :packing="packing" :reading="reading" :of-me="ofMe" :read="read" />
          <section v-if="todo.length" class="card" aria-label="Before leaving">
            <h2>Before leaving</h2>
            <dl>
              <div v-for="task in todo" :key="task.name">
                <dt>{{ task.name }}</dt>
                <dd>{{ task.what }}</dd>
              </div>
            </dl>
          </section>
          <p class="muted keys">
            <kbd>Space</kbd> in or out <kbd>←</kbd><kbd>→</kbd> zone <kbd>p</kbd> print
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
  gap: 4px;
}
aside {
  display: grid;
  gap: var(--s-3);
}
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 100px minmax(0, 1fr);
  gap: var(--s-2);
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.keys {
  font-size: 12px;
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
  aside,
  .missing {
    display: none;
  }
}
</style>
