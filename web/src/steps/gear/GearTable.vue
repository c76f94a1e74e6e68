<script setup lang="ts">
// Every thing by system, changed in place.
import { computed } from 'vue'
import type { Gear, GearChange, Vocabulary } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import { jobText } from '@/quantities/jobs'
import { typedAmount } from '@/quantities/money'
import EditableCell from '@/shell/EditableCell.vue'
import { walk } from '@/shell/grid'
import { useUnits } from '@/shell/units'

const props = defineProps<{
  systems: { key: string; name: string; things: Gear[] }[]
  vocabulary: Vocabulary | undefined
  change: (thing: Gear, change: GearChange) => Promise<unknown>
}>()
const emit = defineEmits<{ open: [thing: Gear]; remove: [thing: Gear] }>()

const units = useUnits()
const known = computed(() => new Map(props.vocabulary?.jobs.map((job) => [job.key, job])))

const SOURCES = [
  { key: 'weighed', mark: 'weighed' },
  { key: 'maker', mark: 'maker' },
  { key: 'estimate', mark: 'guess' },
] as const

const mark = (thing: Gear) => SOURCES.find((source) => source.key === thing.weight?.source)?.mark ?? ''
function nextSource(thing: Gear) {
  const at = SOURCES.findIndex((source) => source.key === thing.weight?.source)
  return props.change(thing, { source: SOURCES[(at + 1) % SOURCES.length]!.key })
}

/** A cleared field is sent as null: nothing is known any more. */
const orNull = (typed: string) => (typed.trim() === '' ? null : typed)
const price = (minor: number | null | undefined) =>
  minor == null ? '' : typedAmount(minor, units.currency.value)

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
</script>

<template>
  <table class="grid gear" @keydown="walk">
    <thead>
      <tr>
        <th>Gear</th>
        <th class="n">Count</th>
        <th class="n">Each</th>
        <th class="source">Known from</th>
        <th class="n wide">Paid</th>
        <th class="n wide">Would bring</th>
        <th class="wide">Jobs</th>
        <th><span class="visually-hidden">Remove</span></th>
      </tr>
    </thead>
    <tbody v-for="system in systems" :key="system.key">
      <tr class="section">
        <th colspan="8" scope="colgroup">
          {{ system.name }}<span>{{ subtotal(system.things) }}</span>
        </th>
      </tr>
      <tr v-for="thing in system.things" :key="thing.id">
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
            :typed="price(thing.paid_minor)"
            :save="(paid) => change(thing, { paid: orNull(paid) })"
          >
            <Figure v-if="thing.paid_minor != null" v-bind="units.money(thing.paid_minor)" size="text" />
          </EditableCell>
        </td>
        <td class="n price wide">
          <EditableCell
            numeric
            :label="`What ${thing.name} would bring`"
            :typed="price(thing.resale_minor)"
            :save="(resale) => change(thing, { resale: orNull(resale) })"
          >
            <Figure v-if="thing.resale_minor != null" v-bind="units.money(thing.resale_minor)" size="text" />
          </EditableCell>
        </td>
        <td class="jobs wide">
          <button class="plain" data-cell @click="emit('open', thing)">
            <span class="visually-hidden">Jobs of {{ thing.name }}:</span>
            {{ jobs(thing) || '–' }}
          </button>
        </td>
        <td class="n">
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
    </tbody>
  </table>
</template>

<style scoped>
.gear {
  table-layout: fixed;
}
.count {
  width: 60px;
}
thead th:nth-child(2) {
  width: 64px;
}
thead th:nth-child(3) {
  width: 110px;
}
thead th:nth-child(4) {
  width: 96px;
}
thead th:nth-child(5),
thead th:nth-child(6) {
  width: 96px;
}
thead th:nth-child(7) {
  width: 26%;
}
thead th:nth-child(8) {
  width: 36px;
}
.name {
  font-weight: 600;
}
.jobs {
  font-size: 12px;
  color: var(--ink-2);
}
.jobs button {
  width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.jobs button:hover {
  color: var(--ink);
}
.remove {
  color: var(--ink-2);
  padding: 2px 6px;
}
.remove:hover {
  color: var(--lingonberry);
}
@media (max-width: 700px) {
  .wide,
  .source {
    display: none;
  }
  .gear {
    table-layout: auto;
  }
  thead th:first-child {
    width: 100%;
  }
  thead th:nth-child(n) {
    padding-left: 2px;
    padding-right: 2px;
  }
}
</style>
