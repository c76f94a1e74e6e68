<script setup lang="ts">
// What was met on a trip, and what was taken of supplies and brought back: each figure typed and saved by itself.
import { computed } from 'vue'
import type { TripChange, TripLine } from '@/api/client'
import TypedField from '@/controls/TypedField.vue'
import { useUnits } from '@/domain/units'
import { distance, energy, temperature, volume } from '@/quantities/measures'

const props = defineProps<{ trip: TripLine; change: (body: TripChange) => Promise<unknown> }>()
const units = useUnits()
const figure = (key: string) => (typed: string) => props.change({ figures: { [key]: typed } })

/** As it could have been typed; nothing for what nobody knows. */
const shown = (value: number | null | undefined, write: (value: number) => string) =>
  value == null ? '' : write(value).replaceAll('−', '-').replaceAll('\u202f', '')
const hours = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
const rows = computed(() => {
  const { met, used_up: used } = props.trip
  const measures = units.measures.value
  const mass = (mg?: number | null) => shown(mg, units.tableText)
  const water = (ml?: number | null) => shown(ml, (ml) => volume(ml, measures))
  return [
    {
      title: 'Conditions on the trip',
      fields: [
        {
          key: 'low',
          label: 'Lowest temperature',
          text: shown(met.low_tenth_c, (t) => temperature(t, measures)),
        },
        {
          key: 'stretch',
          label: 'Longest without water',
          text: shown(met.stretch_m, (m) => distance(m, measures)),
        },
      ],
    },
    {
      title: 'Gas',
      fields: [
        { key: 'gas_taken', label: 'Cans before, on the scale', text: mass(used.gas_taken_mg) },
        { key: 'gas_back', label: 'Cans after', text: mass(used.gas_back_mg) },
        {
          key: 'boiled',
          label: 'Water boiled in all',
          text: water(used.boiled_ml),
          placeholder: props.trip.boil_ml_per_day
            ? `as planned, ${volume(props.trip.boil_ml_per_day, measures)} a day`
            : '',
        },
      ],
    },
    {
      title: 'Food and water',
      fields: [
        { key: 'food_taken', label: 'Food taken', text: mass(used.food_taken_mg) },
        { key: 'food_back', label: 'Brought back', text: mass(used.food_back_mg) },
        { key: 'drunk', label: 'Drunk while walking', text: water(used.drunk_ml) },
        { key: 'walked', label: 'Hours walked', text: shown(used.walked_min, hours), placeholder: '21:30' },
      ],
    },
    {
      title: 'Power',
      fields: [
        { key: 'power_taken', label: 'In the banks before', text: shown(used.power_taken_mwh, energy) },
        {
          key: 'power_back',
          label: 'And after',
          text: shown(used.power_back_mwh, energy),
          placeholder: 'Wh or %',
        },
      ],
    },
  ]
})
const rain = (value: unknown) => props.change({ rain: value === '' ? null : value === 'yes' } as TripChange)
</script>

<template>
  <section class="card" aria-label="Conditions and supplies of the trip">
    <el-form label-position="top" size="small" @submit.prevent>
      <template v-for="{ title, fields } in rows" :key="title">
        <h2>{{ title }}</h2>
        <div class="fields">
          <TypedField
            v-for="field in fields"
            :key="field.key"
            :label="field.label"
            :text="field.text"
            :placeholder="'placeholder' in field ? field.placeholder : undefined"
            :save="figure(field.key)"
          />
          <el-form-item v-if="title === 'Conditions on the trip'" label="Rain">
            <el-radio-group
              :model-value="trip.met.rain == null ? '' : trip.met.rain ? 'yes' : 'no'"
              size="small"
              aria-label="Rain"
              @change="rain"
            >
              <el-radio-button value="yes">Rain</el-radio-button>
              <el-radio-button value="no">Dry</el-radio-button>
              <el-radio-button value="">?</el-radio-button>
            </el-radio-group>
          </el-form-item>
        </div>
      </template>
    </el-form>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 var(--s-3);
  margin-bottom: var(--s-2);
}
</style>
