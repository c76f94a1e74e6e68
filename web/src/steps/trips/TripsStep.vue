<script setup lang="ts">
// Trips, past and coming; base weight over time; what they taught.
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { reason, useMessages } from '@/controls/messages'
import { saveFile } from '@/controls/rows'
import { vGrid } from '@/controls/grid'
import { lessonsOf, type Lesson } from '@/domain/lessons'
import { stepOf } from '@/domain/lists'
import { baseTarget } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { dayOfTrip, isoDay } from '@/quantities/dates'
import { temperature } from '@/quantities/measures'
import HistoryCard from './HistoryCard.vue'
import LessonsCard from './LessonsCard.vue'
import OwnRates from '@/domain/OwnRates.vue'
import { sorted, useTrips } from './trips'

const props = defineProps<{ list: string }>()
const router = useRouter()
const units = useUnits()
const {
  lessons,
  history,
  sheet,
  error,
  refetch,
  offset,
  hindrance,
  act,
  silence,
  setRate,
  add,
  remove,
  keep,
} = useTrips(() => props.list)
const told = computed(() => (lessons.value ? lessonsOf(lessons.value, offset.value, units) : []))
const trips = computed(() => (lessons.value ? sorted(lessons.value) : { walked: [], coming: [] }))
const names = computed(
  () =>
    new Map(lessons.value?.trips.map(({ trip }) => [trip.id, `${trip.name} ${trip.starts_on.slice(0, 4)}`])),
)
const canAct = (lesson: Lesson) => props.list !== '' && sheet.value !== undefined && hindrance(lesson) === ''

const { failed } = useMessages()
/** Trips to come, as a file that calendars read. */
async function toCalendar() {
  try {
    const { calendarOf } = await import('@/domain/calendar')
    const at = (trip: { id: string }) => `${window.location.origin}${stepOf(props.list, `trips/${trip.id}`)}`
    const coming = trips.value.coming.map(({ trip }) => trip)
    saveFile('trips.ics', calendarOf(coming, at), 'text/calendar')
  } catch (error) {
    failed(error)
  }
}

const day = ref(isoDay())
const refusal = ref('')
let busy = false
async function addTrip() {
  if (busy) return
  busy = true
  refusal.value = ''
  try {
    await add({ starts_on: day.value })
  } catch (problem) {
    refusal.value = reason(problem)
  } finally {
    busy = false
  }
}
const open = (id: string) => router.push(stepOf(props.list, `trips/${id}`))
const low = (tenths: number | null | undefined) =>
  tenths == null ? '' : temperature(tenths, units.measures.value)
const base = (mg: number | null | undefined) => (mg == null ? '' : units.totalText(mg))

useKeys('Trips', [
  {
    key: 'a',
    does: 'take up the first lesson that can be',
    run: () => {
      const first = told.value.find((one) => one.act && canAct(one))
      if (first) void act(first)
    },
  },
  {
    key: 'd',
    does: 'look back on the last trip',
    run: () => {
      const last = trips.value.walked[0]
      if (last) void open(last.trip.id)
    },
  },
])
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What did it teach me?</h1>
      <p v-if="lessons">
        {{ counted(trips.walked.length, 'trip') }} walked, {{ trips.coming.length || 'none' }} to come.
      </p>
    </div>
    <Loaded what="The trips" :known="lessons !== undefined" :error="error" :rows="8" @retry="refetch">
      <div v-if="lessons" class="with-aside">
        <div class="work">
          <HistoryCard
            v-if="history && sheet"
            :history="history"
            :trips="lessons.trips.map((one) => one.trip)"
            :target="baseTarget(sheet.list)"
            :list="sheet.list.name"
            :list-id="props.list"
          />
          <section class="card" aria-label="Trips">
            <div class="trips-head">
              <h2>Trips</h2>
              <el-button v-if="trips.coming.length" link type="primary" size="small" @click="toCalendar"
                >Add to a calendar</el-button
              >
            </div>
            <table v-if="lessons.trips.length" v-grid class="grid">
              <thead>
                <tr>
                  <th>Trip</th>
                  <th>Start</th>
                  <th class="n wide">Nights</th>
                  <th class="n wide">Coldest night</th>
                  <th class="n">Base weight</th>
                  <th class="wide">Reviewed</th>
                  <th><span class="visually-hidden">Remove</span></th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="{ trip, things, judged } in [...trips.coming, ...trips.walked]" :key="trip.id">
                  <td>
                    <RouterLink class="link" data-cell :to="stepOf(props.list, `trips/${trip.id}`)">{{
                      trip.name
                    }}</RouterLink>
                    <small v-if="trip.people" class="muted"> with {{ trip.people }}</small>
                    <small v-if="trip.note" class="muted note">{{ trip.note }}</small>
                  </td>
                  <td class="when">{{ dayOfTrip(trip.starts_on) }}</td>
                  <td class="n wide">{{ trip.nights }}</td>
                  <td class="n wide">{{ low(trip.met.low_tenth_c) }}</td>
                  <td class="n">{{ base(trip.base_mg) }}</td>
                  <td class="wide">
                    <el-button v-if="!trip.kept_at" size="small" data-cell @click="keep(trip)"
                      >Save its list now</el-button
                    >
                    <template v-else-if="judged < things">{{ judged }} of {{ things }} things</template>
                    <template v-else>all of it</template>
                  </td>
                  <td>
                    <el-button link data-cell :aria-label="`Remove ${trip.name}`" @click="remove(trip)"
                      >×</el-button
                    >
                  </td>
                </tr>
              </tbody>
            </table>
            <p v-else class="muted">
              A trip keeps its list as it was on the day, whatever becomes of the gear. Add the next one, or
              one that is behind you, and say of each thing whether it was used.
            </p>
            <el-form v-if="props.list" class="add" label-position="top" @submit.prevent="addTrip">
              <el-form-item :error="refusal" label="A trip with this list from">
                <div class="pair">
                  <el-date-picker
                    v-model="day"
                    value-format="YYYY-MM-DD"
                    :clearable="false"
                    aria-label="The first day"
                  />
                  <el-button native-type="submit">Add</el-button>
                </div>
              </el-form-item>
            </el-form>
          </section>
        </div>
        <aside aria-label="What they teach">
          <LessonsCard
            :lessons="told"
            :names="names"
            :can-act="canAct"
            :hindrance="hindrance"
            @act="act"
            @silence="silence"
          />
          <OwnRates
            silencing
            :lessons="lessons"
            :trip="sheet?.list.trip ?? null"
            @set="setRate"
            @silence="(key, title) => silence({ key, title, why: '', on: [] })"
          />
        </aside>
      </div>
    </Loaded>
  </div>
</template>

<style scoped>
.work,
aside {
  display: grid;
  gap: var(--s-3);
  align-content: start;
  min-width: 0;
}
.work > *,
aside > * {
  min-width: 0;
}
.trips-head {
  display: flex;
  justify-content: space-between;
}
.when {
  white-space: nowrap;
}
.note {
  display: block;
}
.add {
  margin-top: var(--s-3);
}
.add :deep(.el-form-item) {
  margin: 0;
}
.pair {
  display: flex;
  gap: var(--s-2);
}
@media (max-width: 700px) {
  .wide {
    display: none;
  }
}
</style>
