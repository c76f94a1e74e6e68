<script setup lang="ts">
// Every thing by system, changed in place. Only the rows in sight are drawn, so that thousands scroll as smoothly as ten.
import { useWindowVirtualizer } from '@tanstack/vue-virtual'
import { useMediaQuery } from '@vueuse/core'
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import type { Gear, GearChange, Vocabulary } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import { jobText } from '@/quantities/jobs'
import { typedAmount } from '@/quantities/money'
import EditableCell from '@/shell/EditableCell.vue'
import { walk } from '@/shell/grid'
import { useUnits } from '@/shell/units'
import { STATUSES } from './gear'

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
const narrow = useMediaQuery('(max-width: 700px)')
const columns = computed(() => (narrow.value ? 5 : 10))
const THING = 33
const SYSTEM = 38
const table = useTemplateRef<HTMLElement>('table')
const top = ref(0)
onMounted(() => {
  top.value = (table.value?.getBoundingClientRect().top ?? 0) + window.scrollY
})
const virtual = useWindowVirtualizer(
  computed(() => ({
    count: rows.value.length,
    estimateSize: (at: number) => (rows.value[at] && 'system' in rows.value[at] ? SYSTEM : THING),
    overscan: 24,
    scrollMargin: top.value,
    getItemKey: (at: number) => {
      const row = rows.value[at]!
      return 'system' in row ? row.system.key : row.thing.id
    },
  })),
)
const drawn = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ index, key }) => {
    const row = rows.value[index]
    return row
      ? [
          {
            key: String(key),
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

const SOURCES = [
  { key: 'weighed', mark: 'weighed' },
  { key: 'maker', mark: 'maker' },
  { key: 'estimate', mark: 'guess' },
] as const

const mark = (thing: Gear) => SOURCES.find((source) => source.key === thing.weight?.source)?.mark ?? 'derived'
function nextSource(thing: Gear) {
  const at = SOURCES.findIndex((source) => source.key === thing.weight?.source)
  return props.change(thing, { source: SOURCES[(at + 1) % SOURCES.length]!.key })
}

/** A cleared field is sent as null: nothing is known any more. */
const orNull = (typed: string) => (typed.trim() === '' ? null : typed)
const price = (minor: number | null | undefined) =>
  minor == null ? '' : typedAmount(minor, units.currency.value)
const isRange = (thing: Gear) => thing.paid_low_minor !== thing.paid_high_minor
const paid = (thing: Gear) =>
  isRange(thing)
    ? `${price(thing.paid_low_minor)}-${price(thing.paid_high_minor)}`
    : price(thing.paid_low_minor)

function subtotal(things: Gear[]) {
  const mg = things.reduce((sum, thing) => sum + (thing.weight?.unit_mg ?? 0) * thing.count, 0)
  const unknown = things.filter((thing) => !thing.weight).length
  return `${unknown ? 'at least ' : ''}${units.tableText(mg)}`
}

function jobs(thing: Gear) {
  const list = (of: Record<string, number>) =>
    Object.entries(of)
      .map(([key, n]) => jobText(known.value.get(key)?.name ?? key, known.value.get(key)?.unit ?? 'count', n))
      .join(', ')
  const needs = list(thing.needs)
  return [list(thing.provides), needs && `needs ${needs}`].filter(Boolean).join('; ')
}
/** What else there is to say of a thing, in a few words. */
function about(thing: Gear) {
  const status = thing.status === 'owned' ? '' : STATUSES[thing.status]
  const how = thing.acquired === 'gift' || thing.acquired === 'made' ? thing.acquired : ''
  const tags = (thing.tags ?? []).map((tag) => `#${tag}`).join(' ')
  const kits = props.kits
    .get(thing.id)
    ?.map((name) => `in ${name}`)
    .join(', ')
  return [status, how, kits, thing.kept_at, tags, jobs(thing)].filter(Boolean).join('; ')
}

function keys(event: KeyboardEvent, thing: Gear) {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) return
  if (event.key === 'e') emit('choose', [thing.id], !props.chosen.has(thing.id))
  else if (event.key === 'o') emit('open', thing)
  else return
  event.preventDefault()
  event.stopPropagation()
}
const allOf = (things: Gear[]) => things.every((thing) => props.chosen.has(thing.id))
</script>

<template>
  <table ref="table" class="grid gear" :aria-rowcount="rows.length + 1" @keydown="walk">
    <thead>
      <tr>
        <th class="pick">
          <input
            type="checkbox"
            :checked="allOf(all)"
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
        <th class="source">Known from</th>
        <th class="n price wide">Paid</th>
        <th class="n price wide">Worth now</th>
        <th class="n night wide">A night</th>
        <th class="about wide">About it</th>
        <th class="last"><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-if="above > 0" aria-hidden="true">
        <td class="gap" :colspan="columns" :style="{ height: `${above}px` }"></td>
      </tr>
      <template v-for="{ key, system, thing } in drawn" :key="key">
        <tr v-if="system" class="section">
          <th class="pick">
            <input
              type="checkbox"
              :checked="allOf(system.things)"
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
        <tr v-else-if="thing" :class="{ chosen: chosen.has(thing.id) }" @keydown="keys($event, thing)">
          <td class="pick">
            <input
              type="checkbox"
              :checked="chosen.has(thing.id)"
              :aria-label="`Choose ${thing.name}`"
              @change="emit('choose', [thing.id], !chosen.has(thing.id))"
            />
          </td>
          <td class="name">
            <EditableCell label="Name" :typed="thing.name" :save="(name) => change(thing, { name })" />
          </td>
          <td class="n count">
            <EditableCell
              numeric
              :label="`Count of ${thing.name}`"
              :typed="String(thing.count)"
              :save="async (count) => change(thing, { count: countOf(count, 'how many you own, such as 2') })"
            />
          </td>
          <td class="n each">
            <EditableCell
              numeric
              :label="`Weight of ${thing.name}`"
              :typed="thing.weight?.typed ?? ''"
              placeholder="unknown"
              :save="(weight) => change(thing, { weight: orNull(weight) })"
            >
              <Figure v-if="thing.weight" v-bind="units.table(thing.weight.unit_mg)" />
            </EditableCell>
          </td>
          <td class="source">
            <button
              v-if="thing.weight"
              class="plain chip"
              data-cell
              :title="`Known from: ${mark(thing)}. Click for the next.`"
              @click="nextSource(thing)"
            >
              <span class="visually-hidden">{{ thing.name }} known from</span> {{ mark(thing) }}
            </button>
          </td>
          <td class="n price wide">
            <EditableCell
              numeric
              :label="`Paid for ${thing.name}`"
              :typed="paid(thing)"
              :save="(paid) => change(thing, { paid: orNull(paid) })"
            >
              <template v-if="isRange(thing)"
                >{{ price(thing.paid_low_minor) }}–<Figure
                  v-bind="units.money(thing.paid_high_minor!)"
                  size="text"
              /></template>
              <Figure
                v-else-if="thing.paid_low_minor != null"
                v-bind="units.money(thing.paid_low_minor)"
                size="text"
              />
            </EditableCell>
          </td>
          <td class="n price wide">
            <EditableCell
              numeric
              :label="`What ${thing.name} is worth now`"
              :typed="price(thing.resale_minor)"
              :save="(resale) => change(thing, { resale: orNull(resale) })"
            >
              <Figure
                v-if="thing.resale_minor != null"
                v-bind="units.money(thing.resale_minor)"
                size="text"
              />
            </EditableCell>
          </td>
          <td class="n night wide">
            <Figure
              v-if="thing.night_minor != null"
              v-bind="units.money(thing.night_minor)"
              size="text"
              tone="quiet"
              :title="`${thing.nights} nights of use`"
            />
          </td>
          <td class="about wide">
            <button class="plain" data-cell @click="emit('open', thing)">
              <span class="visually-hidden">About {{ thing.name }}:</span>
              {{ about(thing) || '–' }}
            </button>
          </td>
          <td class="n last">
            <button class="plain narrow" :aria-label="`Open ${thing.name}`" @click="emit('open', thing)">
              …
            </button>
            <button
              class="plain remove"
              data-cell
              :aria-label="`Remove ${thing.name}`"
              @click="emit('remove', thing)"
            >
              ×
            </button>
          </td>
        </tr>
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
.gear tbody tr:not(.section) {
  height: 33px;
}
.gear tbody tr.section {
  height: 38px;
}
.gear tbody td {
  white-space: nowrap;
}
.gap {
  padding: 0;
  border: 0;
}
.pick {
  width: 26px;
  padding-right: 0;
}
.pick input {
  vertical-align: middle;
  margin: 0;
}
tr.chosen td {
  background: var(--lake-soft);
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
  width: 72px;
}
.last {
  width: 34px;
}
.about {
  width: 27%;
  font-size: 12px;
  color: var(--ink-2);
}
.name {
  font-weight: 600;
}
.name :deep(.shown) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.about button {
  width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.about button:hover {
  color: var(--ink);
}
.remove,
.narrow {
  color: var(--ink-2);
  padding: 2px 6px;
}
.remove:hover {
  color: var(--lingonberry);
}
.narrow {
  display: none;
}
@media (max-width: 700px) {
  .wide,
  .source,
  .remove {
    display: none;
  }
  .narrow {
    display: inline-block;
    font-weight: 700;
  }
  .each {
    width: 84px;
  }
  .count {
    width: 44px;
  }
  .gear thead th:nth-child(n) {
    padding-left: 2px;
    padding-right: 2px;
  }
}
</style>
