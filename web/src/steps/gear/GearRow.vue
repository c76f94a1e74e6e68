<script setup lang="ts">
// A thing in the table of gear, changed in place. A component of its own, so that scrolling draws new rows and leaves the others alone.
import { computed } from 'vue'
import type { Gear, GearChange } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { countOf } from '@/quantities/count'
import { typedAmount } from '@/quantities/money'
import EditableCell from '@/controls/EditableCell.vue'
import type { Units } from '@/domain/units'
import { useMessages } from '@/controls/messages'
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

const { failed } = useMessages()

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

/** The mark of the source goes round; what is refused is said. */
async function turnSource() {
  try {
    await props.change(props.thing, { source: nextSource(props.thing) })
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <tr :class="{ chosen }" :data-thing="thing.id">
    <td class="pick">
      <el-checkbox
        :model-value="chosen"
        data-cell
        tabindex="-1"
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
      <el-button
        v-if="thing.weight"
        size="small"
        class="mark"
        data-cell
        tabindex="-1"
        :aria-label="`Source of the weight of ${thing.name}: ${mark}`"
        :title="`Source: ${mark}. Click for the next.`"
        @click="turnSource"
      >
        {{ mark }}
      </el-button>
      <span v-else class="muted">{{ mark }}</span>
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
          >{{ units.money(thing.paid_low_minor!).figure }}–<Figure
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
      <el-button
        link
        data-cell
        tabindex="-1"
        :aria-label="`About ${thing.name}: ${told}`"
        @click="emit('open', thing)"
      >
        {{ told }}
      </el-button>
    </td>
    <td class="n last">
      <el-button
        link
        class="narrow"
        data-cell
        tabindex="-1"
        :aria-label="`Open ${thing.name}`"
        @click="emit('open', thing)"
        >…</el-button
      >
      <el-button
        link
        class="remove"
        data-cell
        tabindex="-1"
        :aria-label="`Remove ${thing.name}`"
        @click="emit('remove', thing)"
      >
        ×
      </el-button>
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
.pick :deep(.el-checkbox) {
  height: 24px;
}
.name {
  font-weight: 600;
}
.name :deep(.shown) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.source :deep(.mark) {
  padding: 0 var(--s-1h);
  height: 20px;
  font-size: var(--text-s);
  font-weight: 400;
  color: var(--ink-2);
}
.source .muted {
  font-size: var(--text-s);
  padding-left: var(--s-2);
}
.about {
  overflow: hidden;
}
.about :deep(.el-button) {
  display: block;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: var(--text-s);
  font-weight: 400;
  color: var(--ink-2);
}
.about :deep(.el-button > span) {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
.about :deep(.el-button:hover) {
  color: var(--ink);
}
td.last {
  padding: 0 var(--s-1);
}
.last :deep(.el-button) {
  color: var(--ink-2);
  padding: var(--s-0h) var(--s-1h);
  margin: 0;
}
.last :deep(.remove:hover) {
  color: var(--lingonberry);
}
.last .narrow {
  display: none;
}
@media (pointer: coarse) {
  tr {
    height: 45px;
  }
  tr > td {
    padding-block: 0 !important;
  }
}
@media (max-width: 700px) {
  td.count {
    padding-inline: var(--s-0h);
  }
  .wide,
  .source,
  .last .remove {
    display: none;
  }
  .last .narrow {
    display: inline-flex;
    min-width: 44px;
    min-height: 44px;
    font-weight: 700;
  }
}
</style>
