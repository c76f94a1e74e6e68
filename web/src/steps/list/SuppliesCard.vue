<script setup lang="ts">
// What the trip takes against what the list has, and the lightest that does it.
import { computed } from 'vue'
import type { TripSheet } from '@/api/client'
import { useUnits } from '@/domain/units'
import { energy, energyWithCharge, volume } from '@/quantities/measures'

const props = defineProps<{ worked: TripSheet }>()
const units = useUnits()

const named = ({ pieces, mass_mg, proved }: NonNullable<TripSheet['gas_cover']['owned']>) =>
  `${pieces.map(({ name, count }) => (count === 1 ? name : `${count} × ${name}`)).join(' and ')}, ${units.tableText(mass_mg)}${proved ? '' : ' (the lightest that was found)'}.`
const lightest = ({ owned, with_candidates: got }: TripSheet['gas_cover']) =>
  [owned && `Lightest you own: ${named(owned)}`, got && `A candidate would be lighter: ${named(got)}`]
    .filter(Boolean)
    .join(' ')

const rows = computed(() => {
  const w = props.worked
  const water = (ml: number) => volume(ml, units.measures.value)
  const food = w.food_by_carry_mg.reduce((sum, mg) => sum + mg, 0)
  const carries =
    w.food_by_carry_mg.length > 1
      ? `In carries of ${w.food_by_carry_mg.map(units.totalText).join(', ')}. `
      : ''
  const apart = food - w.food_on_list_mg
  const lacking =
    w.food_on_list_mg > 0 && apart !== 0
      ? `The list has ${units.totalText(Math.abs(apart))} ${apart > 0 ? 'less' : 'more'} than the trip takes.`
      : ''
  const row = (
    name: string,
    takes: number,
    there: number,
    text: (held: number) => string,
    { note = '', has = text } = {},
  ) => ({
    name,
    takes: text(takes),
    there: has(there),
    short: takes > there ? text(takes - there) : '',
    note,
  })
  return [
    { ...row('Food', food, w.food_on_list_mg, units.totalText, { note: carries + lacking }), short: '' },
    row('Water, longest stretch', w.water_ml, w.water_held_ml, water, {
      note: `At ${water(w.water_ml_per_hour)} an hour of walking.`,
    }),
    row('Gas', w.gas_mg, w.gas_held_mg, units.tableText, { note: lightest(w.gas_cover) }),
    row('Power', w.power_mwh, w.power_held_mwh, energyWithCharge, {
      note: lightest(w.power_cover),
      has: energy,
    }),
    ...w.counted.map((one) => row(one.tag, one.needed, one.there, String)),
  ]
})
</script>

<template>
  <section class="card" aria-label="Supplies">
    <h2>What it takes, and what the list has</h2>
    <table class="table">
      <thead>
        <tr>
          <th>Supply</th>
          <th class="number">Takes</th>
          <th class="number">List has</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name">
          <td>
            {{ row.name }}<span v-if="row.note" class="muted note">{{ row.note }}</span>
          </td>
          <td class="number">{{ row.takes }}</td>
          <td class="number">
            {{ row.there }}<span v-if="row.short" class="caution note">{{ row.short }} short</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.note {
  display: block;
  font-size: var(--text-s);
}
</style>
