<script setup lang="ts">
// Every thing by system, changed in place. Only the rows in sight are drawn, so that thousands scroll as smoothly as ten.
import { useWindowVirtualizer } from '@tanstack/vue-virtual'
import { useMediaQuery } from '@vueuse/core'
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import type { Gear, GearChange, Vocabulary } from '@/api/client'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'
import GearRow from './GearRow.vue'

const props = defineProps<{
  systems: { key: string; name: string; things: Gear[] }[]
  vocabulary: Vocabulary | undefined
  change: (thing: Gear, change: GearChange) => Promise<unknown>
  chosen: Set<string>
  /** Names of the kits that a thing is part of. */
  kits: Map<string, string[]>
}>()
const emit = defineEmits<{
  open: [thing: Gear]
  remove: [thing: Gear]
  choose: [ids: string[], on: boolean]
}>()

const units = useUnits()
const known = computed(() => new Map(props.vocabulary?.jobs.map((job) => [job.key, job])))

type Row = { system: (typeof props.systems)[number] } | { thing: Gear }
const rows = computed<Row[]>(() =>
  props.systems.flatMap((system) => [{ system }, ...system.things.map((thing) => ({ thing }))]),
)
const all = computed(() => props.systems.flatMap((system) => system.things))
// Columns that are hidden on a phone must not be spanned: they would take their width.
const narrow = useMediaQuery('(max-width: 43.75rem)')
const columns = computed(() => (narrow.value ? 5 : 10))
// About as tall as rows are drawn; each is measured once it stands there. Taller for a thumb, and with larger text.
const isTouched = useMediaQuery('(pointer: coarse)')
const text = parseFloat(getComputedStyle(document.documentElement).fontSize) / 16 || 1
const height = computed(() => text * (isTouched.value ? 45 : 33))
const SYSTEM = text * 38
const table = useTemplateRef<HTMLElement>('table')
const top = ref(0)
onMounted(() => {
  top.value = (table.value?.getBoundingClientRect().top ?? 0) + window.scrollY
})
const virtual = useWindowVirtualizer(
  computed(() => ({
    count: rows.value.length,
    estimateSize: (at: number) => (rows.value[at] && 'system' in rows.value[at] ? SYSTEM : height.value),
    overscan: 10,
    scrollMargin: top.value,
    getItemKey: (at: number) => {
      const row = rows.value[at]!
      return 'system' in row ? row.system.key : row.thing.id
    },
  })),
)
/** Measures a row that is drawn, by itself or as a component. */
const measure = (row: unknown) => {
  const element = row && typeof row === 'object' && '$el' in row ? row.$el : row
  if (element instanceof HTMLElement) virtual.value.measureElement(element)
}
const drawn = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ index, key }) => {
    const row = rows.value[index]
    return row
      ? [
          {
            key: String(key),
            index,
            system: 'system' in row ? row.system : null,
            thing: 'thing' in row ? row.thing : null,
          },
        ]
      : []
  }),
)
const above = computed(() => (virtual.value.getVirtualItems()[0]?.start ?? top.value) - top.value)
const below = computed(() => {
  const last = virtual.value.getVirtualItems().at(-1)
  return last ? virtual.value.getTotalSize() + top.value - last.end : 0
})

function subtotal(things: Gear[]) {
  const mg = things.reduce((sum, thing) => sum + (thing.weight?.unit_mg ?? 0) * thing.count, 0)
  const unknown = things.filter((thing) => !thing.weight).length
  return `${unknown ? 'at least ' : ''}${units.tableText(mg)}`
}

const chooseOne = (id: string, on: boolean) => emit('choose', [id], on)
const open = (thing: Gear) => emit('open', thing)
const remove = (thing: Gear) => emit('remove', thing)
const allOf = (things: Gear[]) => things.every((thing) => props.chosen.has(thing.id))
</script>

<template>
  <table ref="table" v-grid class="grid gear" :aria-rowcount="rows.length + 1">
    <thead>
      <tr aria-rowindex="1">
        <th class="pick">
          <span class="visually-hidden">Choose</span>
          <el-checkbox
            :model-value="allOf(all)"
            data-cell
            tabindex="-1"
            aria-label="Choose all that is shown"
            @change="
              emit(
                'choose',
                all.map((one) => one.id),
                !allOf(all),
              )
            "
          />
        </th>
        <th>Gear</th>
        <th class="n count">Count</th>
        <th class="n each">Each</th>
        <th class="source">Source</th>
        <th class="n price wide">Paid</th>
        <th class="n price wide">Worth now</th>
        <th class="n night wide">Cost per night</th>
        <th class="about wide">Notes and jobs</th>
        <th class="last"><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-if="above > 0" aria-hidden="true">
        <td class="gap" :colspan="columns" :style="{ height: `${above}px` }"></td>
      </tr>
      <template v-for="{ key, index, system, thing } in drawn" :key="key">
        <tr v-if="system" :ref="measure" class="section" :data-index="index" :aria-rowindex="index + 2">
          <th class="pick">
            <el-checkbox
              :model-value="allOf(system.things)"
              data-cell
              tabindex="-1"
              :aria-label="`Choose all of ${system.name}`"
              @change="
                emit(
                  'choose',
                  system.things.map((one) => one.id),
                  !allOf(system.things),
                )
              "
            />
          </th>
          <th :colspan="columns - 1" scope="colgroup">
            {{ system.name }}<span>{{ subtotal(system.things) }}</span>
          </th>
        </tr>
        <GearRow
          v-else-if="thing"
          :ref="measure"
          :data-index="index"
          :aria-rowindex="index + 2"
          :thing="thing"
          :chosen="chosen.has(thing.id)"
          :change="change"
          :kits="kits.get(thing.id)"
          :known="known"
          :units="units"
          @choose="chooseOne"
          @open="open"
          @remove="remove"
        />
      </template>
      <tr v-if="below > 0" aria-hidden="true">
        <td class="gap" :colspan="columns" :style="{ height: `${below}px` }"></td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.gear {
  table-layout: fixed;
}
.gear tbody tr.section {
  height: 38px;
}
.gap {
  padding: 0;
  border: 0;
}
.pick {
  width: 26px;
  padding-right: 0;
}
.pick :deep(.el-checkbox) {
  height: 24px;
}
.count {
  width: 60px;
}
.each {
  width: 104px;
}
.source {
  width: 88px;
}
.price {
  width: 92px;
}
.night {
  width: 100px;
}
.last {
  width: 34px;
}
.about {
  width: 24%;
}
@media (max-width: 700px) {
  .wide,
  .source {
    display: none;
  }
  .each {
    width: 84px;
  }
  .count {
    width: 52px;
  }
  .last {
    width: 52px;
  }
  .gear thead th:nth-child(n) {
    padding-left: var(--s-0h);
    padding-right: var(--s-0h);
  }
}
</style>
