<script setup lang="ts">
// What a trip is like: days, weather, food, water, gas, power, and who walks it. Each figure is typed and saved by itself.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Sheet, Trip } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import EditableCell from '@/controls/EditableCell.vue'
import { vGrid } from '@/controls/grid'
import { useSettings } from '@/domain/settings'
import { useUnits } from '@/domain/units'
import { typedAmount } from '@/quantities/money'
import ForecastCard from './ForecastCard.vue'
import type { ListSheet } from './sheet'
import { foodKind, FOODS, useTripChanges, useTripFigures } from './trip'
import TypedField from '@/controls/TypedField.vue'

const props = defineProps<{
  sheet: Sheet
  trip: Trip
  disabled: boolean
  list: Pick<ListSheet, 'sheet' | 'change'>
}>()
const units = useUnits()
const queries = useQueryClient()
const { data: vocabulary } = useQuery(vocabularyQuery)
const { settings, set: changeSettings, typed: changeTyped } = useSettings()
const { figure, set, device, addDevice, piece } = useTripChanges(props.list)
const { far, farUnit, wet, wetUnit, heavy, heavyUnit, warm, warmUnit, total, totalUnit } = useTripFigures()

/** An offset that trips have taught is none of the usual three. */
const ownOffset = computed(() => {
  const tenths = settings.value?.sleeper_offset_tenth_c ?? 0
  if ([50, 0, -30].includes(tenths)) return null
  const shown =
    units.measures.value === 'metric' ? `${tenths / 10} °C` : `${Math.round((tenths * 9) / 50)} °F`
  const signed = `${tenths > 0 ? '+' : ''}${shown}`.replace('-', '−')
  return { value: tenths, label: `as your trips taught: ratings ${signed}` }
})

const FLAGS = [
  { field: 'rain', name: 'Rain' },
  { field: 'insects', name: 'Insects' },
  { field: 'snow', name: 'Snow underfoot' },
  { field: 'alone', name: 'Alone' },
  { field: 'container_compulsory', name: 'Bear container required' },
  { field: 'flight', name: 'With a flight' },
  { field: 'fire_ban', name: 'Fire ban' },
] as const

const food = (field: string) => (props.trip.food as Record<string, number>)[field] ?? 0
const setKind = async (kind: unknown) => {
  const { rules } = await queries.ensureQueryData(vocabularyQuery)
  const usual = rules.food.find((food) => foodKind({ food }) === kind)
  return usual && set({ food: usual })
}

async function saveCharges(at: number, text: string) {
  if (!/^\d+$/.test(text.trim())) {
    throw new Error(`“${text}” is not read as a count. Type a whole number, or 0 to leave the device out.`)
  }
  return device(at, { charges: Number(text) })
}
/** A whole number of per cent; which ones can be taken, the server says. */
const percent = (field: 'gas_reserve_percent' | 'bank_percent') => (text: string) => {
  const typed = text.replace('%', '').trim()
  return /^\d{1,3}$/.test(typed)
    ? set({ [field]: Number(typed) })
    : Promise.reject(new Error(`“${text}” can’t be taken. Type a whole number of per cent.`))
}
/** The share of body weight above which a load is told. */
function saveShare(text: string) {
  const typed = text.replace('%', '').trim()
  if (!/^\d{1,3}$/.test(typed)) throw new Error(`“${text}” can’t be taken. Type a whole number of per cent.`)
  return changeSettings({ body_percent: Number(typed) })
}
const pieces = (at: number, text: string) =>
  /^\d{1,3}$/.test(text.trim())
    ? piece(at, { per_day: Number(text) })
    : Promise.reject(
        new Error(`“${text}” is not read as a count. Type a whole number, or 0 to leave it out.`),
      )
const saveNote = (note: string) => props.list.change(() => ({ note }), 'Trip summary changed.')
const saveHour = (text: string) =>
  props.list.change(() => ({ hour_rate: text.trim() || '0' }), 'Value of an hour changed.')
</script>

<template>
  <el-form label-position="top" size="small" class="conditions" :disabled="disabled" @submit.prevent>
    <h2>Conditions</h2>
    <div class="pair">
      <TypedField label="Days" :text="String(trip.days)" :save="figure('days')" />
      <TypedField
        label="Resupply on days"
        :text="(trip.resupply_days ?? []).join(', ')"
        placeholder="none"
        :save="figure('resupply_days')"
      />
      <TypedField label="Lowest" :text="warm(trip.low_tenth_c)" :unit="warmUnit" :save="figure('low')" />
      <TypedField label="Highest" :text="warm(trip.high_tenth_c)" :unit="warmUnit" :save="figure('high')" />
    </div>
    <div class="flags">
      <el-checkbox
        v-for="{ field, name } in FLAGS"
        :key="field"
        :model-value="trip[field] ?? false"
        :label="name"
        @change="(on: unknown) => set({ [field]: on === true })"
      />
    </div>
    <ForecastCard :trip="trip" :disabled="disabled" :save="set" />
    <h2>Food</h2>
    <div class="pair">
      <TypedField
        label="Meals, first day"
        :text="String(trip.first_day_meals ?? 3)"
        :save="figure('first_day_meals')"
      />
      <TypedField
        label="Meals, last day"
        :text="String(trip.last_day_meals ?? 3)"
        :save="figure('last_day_meals')"
      />
    </div>
    <el-radio-group
      :model-value="foodKind(trip)"
      size="small"
      aria-label="How food is counted"
      @change="setKind"
    >
      <el-radio-button v-for="(name, kind) in FOODS" :key="kind" :value="kind">{{ name }}</el-radio-button>
    </el-radio-group>
    <TypedField
      v-if="foodKind(trip) === 'weight'"
      label="A day"
      :text="heavy(food('mg_per_day'))"
      :unit="heavyUnit"
      :save="figure('food_per_day')"
    />
    <TypedField
      v-else-if="foodKind(trip) === 'meals'"
      label="A packed meal"
      :text="heavy(food('mg_per_meal'))"
      :unit="heavyUnit"
      :save="figure('food_per_meal')"
    />
    <div v-else class="pair">
      <TypedField
        label="Energy a day"
        :text="String(food('kcal_per_day'))"
        unit="kcal"
        :save="figure('kcal_per_day')"
      />
      <TypedField
        label="In 100 g"
        :text="String(food('kcal_per_100g'))"
        unit="kcal"
        :save="figure('kcal_per_100g')"
      />
    </div>
    <h2>Water</h2>
    <div class="pair">
      <TypedField
        label="Longest dry stretch"
        :text="far(trip.stretch_m ?? 0)"
        :unit="farUnit"
        :save="figure('stretch')"
      />
      <TypedField label="On day" :text="String(trip.stretch_day ?? 1)" :save="figure('stretch_day')" />
      <TypedField
        label="Pace"
        :text="far(trip.pace_m_per_hour ?? 0)"
        :unit="`${farUnit}/h`"
        :save="figure('pace')"
      />
      <TypedField
        label="Water per hour"
        :text="trip.water_ml_per_hour == null ? '' : wet(trip.water_ml_per_hour)"
        :unit="wetUnit"
        placeholder="usual"
        :save="figure('water_per_hour')"
      />
      <TypedField
        label="For a dry camp"
        :text="wet(trip.camp_ml ?? 0)"
        :unit="wetUnit"
        :save="figure('camp')"
      />
      <TypedField
        label="At other starts"
        :text="wet(trip.start_ml ?? 0)"
        :unit="wetUnit"
        :save="figure('start')"
      />
    </div>
    <h2>Gas and power</h2>
    <div class="pair">
      <TypedField
        label="Boiled a day"
        :text="wet(trip.boil_ml_per_day ?? 0)"
        :unit="wetUnit"
        :save="figure('boil')"
      />
      <TypedField
        label="Gas a litre"
        :text="heavy(trip.gas_mg_per_l ?? 12_000)"
        :unit="heavyUnit"
        :save="figure('gas_per_litre')"
      />
      <TypedField
        label="Gas in reserve"
        :text="String(trip.gas_reserve_percent ?? 20)"
        unit="%"
        :save="percent('gas_reserve_percent')"
      />
      <TypedField
        label="A bank delivers"
        :text="String(trip.bank_percent ?? 65)"
        unit="%"
        :save="percent('bank_percent')"
      />
    </div>
    <div v-for="(one, at) in trip.devices ?? []" :key="at" class="device">
      <TypedField
        label="Device"
        :text="one.name ?? ''"
        placeholder="phone"
        :save="(name) => device(at, { name })"
      />
      <TypedField
        label="One charge"
        :text="String(one.mwh / 1_000)"
        unit="Wh"
        :save="(charge) => device(at, { charge })"
      />
      <TypedField
        label="Charges"
        :text="String(one.charges)"
        unit="×"
        :save="(text) => saveCharges(at, text)"
      />
    </div>
    <el-button link size="small" @click="addDevice">Add a device</el-button>
    <h2>Used by the piece</h2>
    <div v-for="(one, at) in trip.counted ?? []" :key="one.tag" class="pair">
      <TypedField label="Things tagged" :text="one.tag" :save="(tag) => piece(at, { tag })" />
      <TypedField label="A day" :text="String(one.per_day)" unit="×" :save="(text) => pieces(at, text)" />
    </div>
    <TypedField
      :key="`piece ${trip.counted?.length ?? 0}`"
      label="Count more: the tag of wipes, tablets, plasters"
      text=""
      placeholder="tablets"
      :save="(tag) => piece(trip.counted?.length ?? 0, { tag })"
    />
    <h2>You</h2>
    <div class="pair">
      <TypedField
        label="Body weight"
        :text="settings?.body_mg ? total(settings.body_mg) : ''"
        :unit="totalUnit"
        placeholder="not said"
        :save="(body) => changeTyped({ body: body.trim() || null })"
      />
      <TypedField
        label="At most of body weight"
        :text="String(settings?.body_percent ?? vocabulary?.rules.body_percent ?? '')"
        unit="%"
        :save="saveShare"
      />
      <el-form-item label="You sleep">
        <el-select
          :model-value="settings?.sleeper_offset_tenth_c ?? 0"
          size="small"
          aria-label="You sleep"
          @change="(offset: number) => changeSettings({ sleeper_offset_tenth_c: offset })"
        >
          <el-option
            :value="50"
            :label="units.measures.value === 'metric' ? 'cold: ratings +5 °C' : 'cold: ratings +9 °F'"
          />
          <el-option :value="0" label="average" />
          <el-option
            :value="-30"
            :label="units.measures.value === 'metric' ? 'warm: ratings −3 °C' : 'warm: ratings −5 °F'"
          />
          <el-option v-if="ownOffset" :value="ownOffset.value" :label="ownOffset.label" />
        </el-select>
      </el-form-item>
    </div>
    <div v-grid data-grid>
      <p class="line" data-line>
        <span>Trip summary</span>
        <EditableCell
          label="Trip summary"
          :spoken="sheet.list.note || 'none'"
          :typed="sheet.list.note"
          :save="saveNote"
          >{{ sheet.list.note || 'none' }}</EditableCell
        >
      </p>
      <p class="line" data-line>
        <span>An hour of making is worth</span>
        <EditableCell
          label="Value of an hour"
          :spoken="units.moneyText(sheet.list.hour_minor)"
          :typed="sheet.list.hour_minor ? typedAmount(sheet.list.hour_minor, units.currency.value) : ''"
          :save="saveHour"
          >{{ units.moneyText(sheet.list.hour_minor) }}</EditableCell
        >
      </p>
    </div>
  </el-form>
</template>

<style scoped>
h2 {
  font-size: var(--text);
  margin: var(--s-2h) 0 var(--s-1h);
}
h2:first-child {
  margin-top: 0;
}
.conditions :deep(.el-form-item) {
  margin-bottom: var(--s-2);
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 var(--s-2h);
}
.device {
  display: grid;
  grid-template-columns: 1fr 88px 64px;
  gap: 0 var(--s-2h);
}
.flags {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.line {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  margin: var(--s-1) 0;
}
</style>
