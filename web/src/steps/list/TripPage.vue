<script setup lang="ts">
// The trip: its conditions, what it takes against what the list has, the pack day by day, and what it requires and why.
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { lessonsQuery, vocabularyQuery } from '@/api/queries'
import Loaded from '@/controls/Loaded.vue'
import LoadedPack from '@/domain/LoadedPack.vue'
import OwnRates from '@/domain/OwnRates.vue'
import { useSettings } from '@/domain/settings'
import { useUnits } from '@/domain/units'
import DayLine from '@/marks/DayLine.vue'
import { counted } from '@/quantities/count'
import { temperature } from '@/quantities/measures'
import CautionCards from './CautionCards.vue'
import ListPages from './ListPages.vue'
import RequirementsCard from './RequirementsCard.vue'
import { useSheet } from './sheet'
import SuppliesCard from './SuppliesCard.vue'
import { useTripChanges } from './trip'
import TripConditions from './TripConditions.vue'

const props = defineProps<{ list: string }>()
const list = useSheet(() => props.list)
const { sheet, error, refetch, change, bring, know, confirm } = list
const { require } = useTripChanges(list)
const queries = useQueryClient()
const units = useUnits()
const { settings } = useSettings()
const { data: lessons } = useQuery(lessonsQuery)
const { data: vocabulary } = useQuery(vocabularyQuery)
const isOwner = computed(() => sheet.value?.role === 'owner')
const trip = computed(() => sheet.value?.list.trip ?? null)
const worked = computed(() => sheet.value?.trip ?? null)
const begin = async () => {
  const { trip } = (vocabulary.value ?? (await queries.ensureQueryData(vocabularyQuery))).rules
  await change(() => ({ trip }), 'Trip begun with usual figures. Change those that differ.')
}
const degrees = (tenths: number) => temperature(tenths, units.measures.value)

const names = computed(() => sheet.value?.lines.map((line) => line.name) ?? [])
/** Food that the list has, and food that the trip takes, are two figures. */
const foodApart = computed(() => {
  const listed = worked.value?.food_on_list_mg ?? 0
  const first = worked.value?.food_by_carry_mg[0] ?? 0
  if (listed === 0 || listed === first) return '.'
  return `: the list has ${units.totalText(listed)} of food, the days here count the ${units.totalText(first)} that the trip takes (${units.signed(first - listed)}).`
})

/** The lines that the pack should stay under. */
const limits = computed(() => {
  const percent = settings.value?.body_percent ?? vocabulary.value?.rules.body_percent ?? 0
  const { comfortable_mg: comfortable, body_limit_mg: body } = worked.value ?? {}
  return [
    ...(comfortable ? [{ name: 'pack comfortable to', mg: comfortable }] : []),
    ...(body ? [{ name: `${percent} % of body weight`, mg: body }] : []),
  ]
})
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What the trip asks</h1>
      <p v-if="trip">
        {{ counted(trip.days, 'day') }}, low {{ degrees(trip.low_tenth_c) }}, high
        {{ degrees(trip.high_tenth_c) }}
      </p>
      <ListPages v-if="props.list" :list="props.list" />
    </div>
    <p v-if="props.list === ''" class="muted">Make a list first, at the top left.</p>
    <Loaded v-else what="The trip" :known="sheet !== undefined" :error="error" :rows="10" @retry="refetch">
      <div v-if="sheet && !trip" class="empty card">
        <h2>No trip yet</h2>
        <p>
          Days, cold and water decide what a list must hold. Begin with three mild days, and change what is
          not so.
        </p>
        <el-button v-if="isOwner" type="primary" @click="begin">Set the trip</el-button>
      </div>
      <div v-else-if="sheet && trip && worked" class="columns">
        <div class="worked">
          <section class="card" aria-label="Conditions">
            <TripConditions :sheet="sheet" :trip="trip" :disabled="!isOwner" :list="list" />
          </section>
          <OwnRates
            v-if="isOwner && lessons"
            :lessons="lessons"
            :trip="trip"
            @set="(name, body) => change(() => body, `${name} set as on your trips.`)"
          />
        </div>
        <div class="worked">
          <section class="card" aria-label="The pack day by day">
            <h2>The pack at the start of each day</h2>
            <p>
              Heaviest on day {{ worked.heaviest_day }}, <b>{{ units.totalText(worked.heaviest_mg) }}</b>;
              last day <b>{{ units.totalText(worked.days_mg.at(-1)!) }}</b>; mean
              {{ units.totalText(worked.mean_mg) }}.
              <template v-if="trip.resupply_days?.length">↑ marks where food is fetched.</template>
            </p>
            <p class="muted">
              Loaded as the list has it, <LoadedPack :loaded="sheet.loaded" :names="names" />{{ foodApart }}
            </p>
            <DayLine
              :days="worked.days_mg"
              :resupply="trip.resupply_days ?? []"
              :limits="limits"
              :unit-mg="units.scale.value.mg"
              :unit-name="units.scale.value.name"
              :text="units.totalText"
            />
          </section>
          <SuppliesCard :worked="worked" />
          <RequirementsCard :worked="worked" :disabled="!isOwner" :require="require" />
        </div>
        <div class="told">
          <CautionCards
            :sheet="sheet"
            :can-add="true"
            :can-know="isOwner"
            @bring="bring"
            @know="know"
            @confirm="confirm"
          />
        </div>
      </div>
    </Loaded>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr) 276px;
  gap: var(--s-4);
  align-items: start;
}
.worked,
.told {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--s-3);
}
.columns :deep(.card) {
  padding: var(--s-2h) var(--s-3h);
}
.columns :deep(.card > h2) {
  font-size: var(--text);
  margin: 0 0 var(--s-1h);
}
.columns :deep(.table) {
  width: 100%;
}
.columns :deep(.table th) {
  text-align: left;
  font-weight: 500;
  font-size: var(--text-s);
  color: var(--ink-2);
}
.columns :deep(.table .number) {
  text-align: right;
  white-space: nowrap;
}
.columns :deep(.table td) {
  border-bottom: 1px solid var(--line);
  padding: var(--s-0h) var(--s-1h) var(--s-0h) 0;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: 280px minmax(0, 1fr);
  }
  .told {
    grid-column: 1 / -1;
  }
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
