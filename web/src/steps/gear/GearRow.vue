<script setup lang="ts">
// A thing in the table of gear, changed in place. A component of its own, so that scrolling draws new rows and leaves the others alone.
import { computed } from 'vue'
import type { Gear, GearChange } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import { typedAmount } from '@/quantities/money'
import EditableCell from '@/shell/EditableCell.vue'
import type { Units } from '@/shell/units'
import { about, nextSource, sourceName } from './gear'
import type { KnownJobs } from './gear'

const props = defineProps<{
  thing: Gear
  chosen: boolean
  /** Names of the kits that it is part of. */
  kits: string[] | undefined
  known: KnownJobs
  units: Units
  change: (thing: Gear, change: GearChange) => Promise<unknown>
}>()
const emit = defineEmits<{
  open: [thing: Gear]
  remove: [thing: Gear]
  choose: [id: string, on: boolean]
}>()

/** A cleared field is sent as null: nothing is known any more. */
const orNull = (typed: string) => (typed.trim() === '' ? null : typed)
const price = (minor: number | null | undefined) =>
  minor == null ? '' : typedAmount(minor, props.units.currency.value)
const isRange = computed(() => props.thing.paid_low_minor !== props.thing.paid_high_minor)
const paid = computed(() => {
  const { paid_low_minor: low, paid_high_minor: high } = props.thing
  return isRange.value ? `${price(low)}-${price(high)}` : price(low)
})
const paidSpoken = computed(() => {
  const { paid_low_minor: low, paid_high_minor: high } = props.thing
  if (low == null || high == null) return ''
  return isRange.value ? `${price(low)}–${props.units.moneyText(high)}` : props.units.moneyText(low)
})
const told = computed(() => about(props.thing, props.kits, props.known) || '–')
const mark = computed(() => sourceName(props.thing))

function keys(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) return
  if (event.key === 'e') emit('choose', props.thing.id, !props.chosen)
  else if (event.key === 'o') emit('open', props.thing)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <tr :class="{ chosen }" @keydown="keys">
    <td class="pick">
      <input
        type="checkbox"
        :checked="chosen"
        :aria-label="`Choose ${thing.name}`"
        @change="emit('choose', thing.id, !chosen)"
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
        :spoken="thing.weight ? units.tableText(thing.weight.unit_mg) : ''"
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
        :aria-label="`${thing.name} known from ${mark}`"
        :title="`Known from: ${mark}. Click for the next.`"
        @click="change(thing, { source: nextSource(thing) })"
      >
        {{ mark }}
      </button>
    </td>
    <td class="n price wide">
      <EditableCell
        numeric
        :label="`Paid for ${thing.name}`"
        :typed="paid"
        :spoken="paidSpoken"
        :save="(paid) => change(thing, { paid: orNull(paid) })"
      >
        <template v-if="isRange"
          >{{ price(thing.paid_low_minor) }}–<Figure v-bind="units.money(thing.paid_high_minor!)" size="text"
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
        :spoken="thing.resale_minor == null ? '' : units.moneyText(thing.resale_minor)"
        :save="(resale) => change(thing, { resale: orNull(resale) })"
      >
        <Figure v-if="thing.resale_minor != null" v-bind="units.money(thing.resale_minor)" size="text" />
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
      <button
        class="plain"
        data-cell
        :aria-label="`About ${thing.name}: ${told}`"
        @click="emit('open', thing)"
      >
        {{ told }}
      </button>
    </td>
    <td class="n last">
      <button class="plain narrow" :aria-label="`Open ${thing.name}`" @click="emit('open', thing)">…</button>
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

<style scoped>
tr {
  height: 33px;
}
td {
  white-space: nowrap;
}
.chosen td {
  background: var(--lake-soft);
}
.pick {
  padding-right: 0;
}
.pick input {
  vertical-align: middle;
  margin: 0;
}
.about {
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
}
</style>
