<script setup lang="ts">
// Base weight over time: the line with its causes as marks, the one that is chosen in words, and all of them as a table.
import { computed, ref, watch } from 'vue'
import { api, unwrapChange, type BaseHistory, type TripLine } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { useMessages } from '@/controls/messages'
import { useDialog, useRouteFlag } from '@/controls/route'
import { useSending } from '@/controls/sending'
import { entryWords } from '@/domain/events'
import { useUnits } from '@/domain/units'
import BaseLine from '@/marks/BaseLine.vue'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
import { exactGrams } from '@/quantities/mass'
import { day } from '@/quantities/dates'
import { CAUSES } from './words'

const props = defineProps<{
  history: BaseHistory
  /** All trips; those of the list are shown along its line. */
  trips: TripLine[]
  target: number | null
  list: string
  listId: string
}>()
const units = useUnits()
/** Of the list at hand, or of each trip, whatever its list. */
const every = useRouteFlag('every-trip')
const of = computed({
  get: (): 'list' | 'trips' => (every.value ? 'trips' : 'list'),
  set: (one) => (every.value = one === 'trips'),
})
const walked = computed(() => props.trips.filter((trip) => trip.base_mg != null))
/** A point with what changed it, in words; where that is not known, it is as it is. */
const points = computed(() =>
  of.value === 'list'
    ? props.history.points.map(({ entry, ...point }) => ({
        ...point,
        what: entry
          ? entryWords(entry, units)
          : point.cause === 'earlier'
            ? point.what
            : point.what || 'As it is now.',
      }))
    : walked.value.map((trip) => ({
        at: `${trip.starts_on}T12:00:00`,
        base_mg: trip.base_mg!,
        unknown: 0,
        cause: 'changed' as const,
        what: `${trip.name}, ${counted(trip.nights, 'night')}.`,
      })),
)
const chosen = ref(0)
watch(points, (all) => (chosen.value = all.length - 1), { immediate: true })
const change = (at: number) => (at === 0 ? null : points.value[at]!.base_mg - points.value[at - 1]!.base_mg)
const steps = computed(() =>
  points.value.map((point, at) => ({
    at: Date.parse(point.at),
    mg: point.base_mg,
    mark: CAUSES[point.cause].mark,
    lighter: (change(at) ?? 0) < 0,
  })),
)
/** What the marks mean, of those that are there. */
const legend = computed(() =>
  of.value === 'list'
    ? [...new Set(points.value.map(({ cause }) => cause))].map((cause) => CAUSES[cause])
    : [],
)
const trips = computed(() =>
  props.trips
    .filter((trip) => trip.kept_at && of.value === 'list' && trip.list === props.listId)
    .map(({ starts_on, name }) => ({ at: Date.parse(`${starts_on}T12:00:00`), name })),
)
const least = (unknown: number) => (unknown > 0 ? 'at least ' : '')
const shown = computed(() => points.value[chosen.value])
const label = computed(
  () => `Base weight over time, ${counted(points.value.length, 'change')}. Left and right walk along it.`,
)
const isTable = ref(false)

// Base weights of days before Kevyt knew the list: typed or pasted, a line each.
const isSaying = useDialog('earlier')
const earlier = ref('')
const { busy, refusal, send } = useSending()
const { done } = useMessages()
const undoOf = useUndo()
const say = useChange(({ list, text }: { list: string; text: string }) =>
  unwrapChange(api.PUT('/api/lists/{id}/earlier', { params: { path: { id: list } }, body: { text } })),
)
/** As they were said, to be edited. */
const said = computed(() =>
  props.history.points
    .filter(({ cause }) => cause === 'earlier')
    .map(({ at, base_mg, what }) => [at.slice(0, 10), exactGrams(base_mg), what].filter(Boolean).join('; '))
    .join('\n'),
)
watch(
  isSaying,
  (is) => {
    if (!is) return
    earlier.value = said.value
    refusal.value = ''
  },
  { immediate: true },
)
const save = () =>
  send(async () => {
    const changed = await say.mutateAsync({ list: props.listId, text: earlier.value })
    isSaying.value = false
    done('Earlier base weights kept.', undoOf(changed))
  })
</script>

<template>
  <section class="card" aria-label="Base weight over time">
    <div class="top">
      <h2>Base weight over time</h2>
      <el-radio-group v-if="walked.length > 1" v-model="of" size="small" aria-label="Of what">
        <el-radio-button value="list">{{ list }}</el-radio-button>
        <el-radio-button value="trips">Every trip</el-radio-button>
      </el-radio-group>
      <el-button v-if="points.length > 1" link type="primary" size="small" @click="isTable = !isTable">{{
        isTable ? 'As a line' : 'As a table'
      }}</el-button>
      <el-button v-if="of === 'list' && listId" link type="primary" size="small" @click="isSaying = true"
        >Earlier …</el-button
      >
    </div>
    <p v-if="points.length < 2" class="muted">
      {{ points[0] ? units.totalText(points[0].base_mg) : '' }} now. What changes it from here on stands here,
      with its cause.
    </p>
    <template v-else-if="!isTable">
      <BaseLine
        :steps="steps"
        :trips="trips"
        :target="of === 'list' ? target : null"
        :unit-mg="units.scale.value.mg"
        :unit-name="units.scale.value.name"
        :chosen="chosen"
        :label="label"
        @choose="chosen = $event"
      />
      <ul v-if="legend.length" class="legend muted" aria-label="What the marks mean">
        <li v-for="{ name, mark } in legend" :key="name">
          <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden="true"><path :d="mark" /></svg
          >{{ name }}
        </li>
        <li v-if="trips.length">
          <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden="true">
            <path d="M-6 5l6 -10l6 10z" /></svg
          >Trip, below the line
        </li>
        <li>
          <svg width="16" height="16" viewBox="-8 -8 16 16" aria-hidden="true">
            <path class="lighter" d="M-5 -5h10v10h-10z" /></svg
          >Filled: lighter
        </li>
      </ul>
      <p v-if="shown" class="said" role="status">
        <b>{{ day(shown.at) }}: {{ least(shown.unknown) }}{{ units.totalText(shown.base_mg) }}</b
        ><template v-if="change(chosen)">, {{ units.signed(change(chosen)!) }}</template
        >. <template v-if="of === 'list'">{{ CAUSES[shown.cause].name }}: </template>{{ shown.what }}
      </p>
    </template>
    <div v-else class="table">
      <table class="grid">
        <thead>
          <tr>
            <th>When</th>
            <th class="n">Base weight</th>
            <th class="n">Change</th>
            <th>What changed it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(point, at) in points" :key="point.at">
            <td>{{ day(point.at) }}</td>
            <td class="n">{{ least(point.unknown) }}{{ units.totalText(point.base_mg) }}</td>
            <td class="n">{{ change(at) ? units.signed(change(at)!) : '' }}</td>
            <td>
              <small class="muted">{{ CAUSES[point.cause].name }}</small> {{ point.what }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <dl v-if="history.promised_mg !== 0" class="sums">
      <div>
        <dt>Swaps done took off</dt>
        <dd><Figure v-bind="units.table(history.shed_mg)" tone="spruce" /></dd>
      </div>
      <div>
        <dt>The plan promised</dt>
        <dd><Figure v-bind="units.table(history.promised_mg)" tone="quiet" /></dd>
      </div>
      <div>
        <dt>{{ history.net_minor < 0 ? 'They brought' : 'They cost' }}</dt>
        <dd><Figure v-bind="units.money(Math.abs(history.net_minor))" tone="money" /></dd>
      </div>
      <div v-if="history.net_minor > 0 && history.shed_mg > 0">
        <dt>{{ units.perMoneyName.value }}</dt>
        <dd><Figure v-bind="units.perMoney(history.shed_mg, history.net_minor)" /></dd>
      </div>
    </dl>
    <el-dialog v-model="isSaying" title="What it weighed before" width="min(35rem, 94vw)">
      <el-form label-position="top" @submit.prevent="save">
        <el-form-item
          label="A line for each: day; base weight; what there is to say. Rows of a spreadsheet can be pasted."
          :error="refusal"
        >
          <el-input
            v-model="earlier"
            type="textarea"
            :rows="8"
            name="earlier"
            :placeholder="`2021-07-01; ${units.totalText(9_400_000)}; Coast path`"
          />
        </el-form-item>
        <el-button type="primary" native-type="submit" :loading="busy">Save</el-button>
        <el-button @click="isSaying = false">Cancel</el-button>
      </el-form>
    </el-dialog>
  </section>
</template>

<style scoped>
.top {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-1) var(--s-4);
  justify-content: space-between;
  align-items: baseline;
}
.legend {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--s-3);
  margin: 0 0 var(--s-2);
  padding: 0;
  font-size: var(--text-s);
}
.legend li {
  display: flex;
  align-items: center;
  gap: var(--s-0h);
}
.legend path {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.legend .lighter {
  fill: var(--spruce);
  stroke: var(--spruce);
}
.said {
  min-height: 2.7em;
}
.table {
  overflow-x: auto;
}
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2) var(--s-6);
  margin: var(--s-3) 0 0;
  padding-top: var(--s-3);
  border-top: 1px solid var(--line);
}
dt {
  font-size: var(--text-s);
  color: var(--ink-2);
}
dd {
  margin: 0;
  font-size: var(--text-l);
  font-weight: 650;
}
</style>
