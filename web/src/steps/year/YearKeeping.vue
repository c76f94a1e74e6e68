<script setup lang="ts">
// Keep it, sell it or swap it: what the nights to come cost with each thing that is worth something, beside the swap that costs least.
import { computed, ref } from 'vue'
import type { Vocabulary, Year } from '@/api/client'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import { stepOf } from '@/domain/lists'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
import { dayOfTrip } from '@/quantities/dates'
import { instead, percentOf, type YearHolding } from './year'

const props = defineProps<{
  year: Year
  /** By how much worths fall in a year, by system. */
  rates: Record<string, number>
  systems: Vocabulary['systems']
  saveRates: (rates: Record<string, number>) => Promise<unknown>
}>()
const units = useUnits()
/** How many stand there at first. */
const FEW = 8
const showsAll = ref(false)
const showsRates = ref(false)
const shown = computed(() => (showsAll.value ? props.year.holdings : props.year.holdings.slice(0, FEW)))
const on = ({ lists }: YearHolding) =>
  lists.map((at) => props.year.lists[at]!.list.name).join(', ') || 'on no list of the year'
const costs = ({ now_minor: now, then_minor: then }: YearHolding) => now - then
const swapOf = (swap: NonNullable<YearHolding['swap']>) => instead(swap, props.year)
const lighter = (mg: number) =>
  mg === 0 ? '' : `${units.tableText(Math.abs(mg))} ${mg > 0 ? 'lighter' : 'heavier'}`
const cheaper = (one: YearHolding) => (one.swap && one.swap.costs_minor < costs(one) ? 'swap' : 'keep')
const name = (key: string) => props.systems.find((system) => system.key === key)?.name ?? key
/** The systems of what stands here. */
const used = computed(() => [...new Set(props.year.holdings.map(({ system }) => system))])
const saveRate = (system: string, typed: string) =>
  props.saveRates({ ...props.rates, [system]: percentOf(typed) })
</script>

<template>
  <section class="keeping" aria-label="Keep, sell or swap">
    <h2>Keep, sell or swap</h2>
    <p class="muted">
      Gear loses worth while you own it. Spread over the nights to come, that is what keeping it costs; a swap
      costs its price and what the old one is worth now, less what it brings, and less what you still hold in
      a year.
    </p>
    <p v-if="!year.holdings.length" class="muted">
      Nothing here yet: say in
      <RouterLink class="link" :to="stepOf(year.lists[0]!.list.id, 'gear')">Gear</RouterLink>
      what a thing would sell for (<i>Worth now</i>).
    </p>
    <div v-else class="wide">
      <table v-grid class="grid">
        <thead>
          <tr>
            <th>Thing</th>
            <th class="n">Worth now</th>
            <th class="n">In a year</th>
            <th class="n">Nights</th>
            <th class="n">Keep</th>
            <th class="n">Sell</th>
            <th class="swap">Swap</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in shown" :key="one.gear">
            <td class="name">
              {{ one.name }}<template v-if="one.pieces > 1"> ×{{ one.pieces }}</template>
              <small class="muted">{{ on(one) }}</small>
            </td>
            <td
              class="n"
              data-label="worth now"
              :title="one.said_on ? `said on ${dayOfTrip(one.said_on)}` : ''"
            >
              <Figure v-bind="units.money(one.now_minor)" size="text" />
            </td>
            <td class="n" data-label="in a year">
              <Figure v-bind="units.money(one.then_minor)" size="text" tone="quiet" />
              <small v-if="one.wears_out" class="muted">worn out</small>
            </td>
            <td class="n" data-label="nights">{{ one.nights }}</td>
            <td class="n" data-label="keep" :class="{ best: cheaper(one) === 'keep' && one.nights > 0 }">
              <template v-if="one.per_night_minor != null">
                <Figure v-bind="units.money(one.per_night_minor)" tone="money" />
                <small class="muted">a night</small>
              </template>
              <template v-else>
                <Figure v-bind="units.money(costs(one))" tone="money" />
                <small class="muted">a year, for no night</small>
              </template>
            </td>
            <td class="n" data-label="sell">
              <template v-if="one.may_go">
                <Figure v-bind="units.money(one.now_minor)" size="text" tone="spruce" />
                <small class="muted">before fees</small>
              </template>
              <span v-else class="muted" title="Its lists need it: sell it with a swap">needed</span>
            </td>
            <td class="swap" data-label="swap">
              <div v-if="one.swap" class="instead">
                <span class="n">
                  <Figure
                    v-bind="units.money(one.swap.per_night_minor ?? one.swap.costs_minor)"
                    :class="{ best: cheaper(one) === 'swap' }"
                    tone="money"
                  />
                  <small class="muted">{{ one.swap.per_night_minor == null ? 'a year' : 'a night' }}</small>
                </span>
                <span>
                  <RouterLink
                    class="link"
                    data-cell
                    tabindex="-1"
                    :to="stepOf(swapOf(one.swap).list, 'swaps')"
                    >{{ swapOf(one.swap).name }}</RouterLink
                  >
                  <small class="muted">{{ lighter(swapOf(one.swap).saving_mg) }}</small>
                </span>
              </div>
              <span v-else class="muted">none to compare</span>
            </td>
          </tr>
        </tbody>
      </table>
      <el-button v-if="shown.length < year.holdings.length" link type="primary" @click="showsAll = true"
        >All {{ year.holdings.length }}</el-button
      >
      <el-button link type="primary" :aria-expanded="showsRates" @click="showsRates = !showsRates">{{
        showsRates ? 'Hide how fast worth falls' : 'How fast worth falls'
      }}</el-button>
      <div v-if="showsRates" class="rates card">
        <p class="muted">
          Per cent of itself a year, by rule of thumb until you say otherwise. It counts for
          {{ counted(used.length, 'system') }} here, old and new gear alike.
        </p>
        <div class="rows">
          <div v-for="system in used" :key="system">
            <span>{{ name(system) }}</span>
            <span class="n"
              ><EditableCell
                :label="`Worth of ${name(system)} falls by, per cent a year`"
                :typed="String(rates[system] ?? '')"
                :save="(typed) => saveRate(system, typed)"
                numeric
              />
              %</span
            >
          </div>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.keeping {
  margin-top: var(--s-5);
}
.keeping > p {
  max-width: 70ch;
}
.wide {
  overflow-x: auto;
  margin-top: var(--s-2);
}
.name {
  font-weight: 600;
  min-width: 140px;
  overflow-wrap: anywhere;
}
.name small,
.n > small {
  display: block;
  font-weight: 400;
}
td.n {
  white-space: nowrap;
}
.swap {
  min-width: 190px;
}
.instead {
  display: flex;
  align-items: baseline;
  gap: var(--s-3);
}
.instead small {
  display: block;
}
.instead .n {
  min-width: 62px;
  text-align: right;
}
.best {
  font-weight: 700;
}
.rates {
  max-width: 380px;
  margin-top: var(--s-2);
}
.rates .n {
  display: flex;
  align-items: center;
  gap: var(--s-1);
}
@media (max-width: 700px) {
  .wide > table > thead {
    display: none;
  }
  .wide > table > tbody > tr {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    align-items: start;
    border-bottom: 1px solid var(--line);
    padding: var(--s-2) 0;
  }
  .wide > table > tbody > tr > td {
    border: 0;
    text-align: left;
  }
  .name,
  .swap {
    grid-column: 1 / -1;
  }
  td[data-label]::before {
    content: attr(data-label);
    display: block;
    font-size: var(--text-s);
    color: var(--ink-2);
  }
}
</style>
