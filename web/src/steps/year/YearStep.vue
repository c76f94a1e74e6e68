<script setup lang="ts">
// Which purchase serves all trips: the lists of the coming twelve months, one budget, and the swaps in buying order.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, unwrapChange, type PackList } from '@/api/client'
import { useCacheUpdates, useChange, useUndo } from '@/api/changes'
import { listQuery, planQuery, vocabularyQuery, yearQuery } from '@/api/queries'
import { withLock } from '@/api/lock'
import EditableCell from '@/controls/EditableCell.vue'
import EditableFigure from '@/controls/EditableFigure.vue'
import Loaded from '@/controls/Loaded.vue'
import { useOpened } from '@/controls/route'
import { useMessages } from '@/controls/messages'
import { useCompletion } from '@/domain/completion'
import { useSwapState } from '@/domain/swapState'
import { stepOf, useLists } from '@/domain/lists'
import { useSettings } from '@/domain/settings'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { medianRatio } from '@/domain/median'
import { counted, countOf, listed } from '@/quantities/count'
import { typedAmount } from '@/quantities/money'
import DoneDialog from '@/domain/DoneDialog.vue'
import DiffersCard from '@/domain/DiffersCard.vue'
import { yearWords, type YearSwap } from './year'
import YearBuys from './YearBuys.vue'
import YearDescent from './YearDescent.vue'
import YearKeeping from './YearKeeping.vue'
import YearLists from './YearLists.vue'

const props = defineProps<{ list: string }>()
const units = useUnits()
const setSwapState = useSwapState()
const messages = useMessages()
const undo = useUndo()
const { doIt } = useCompletion()
const { settings, set: setSettings, typed: setTyped } = useSettings()
const { data: vocabulary } = useQuery(vocabularyQuery)
const { current } = useLists(() => props.list)
const { data: year, error, refetch } = useQuery(yearQuery)
const { data: alone } = useQuery(
  computed(() => ({
    ...planQuery(props.list),
    enabled: year.value?.lists.some(({ list }) => list.id === props.list) ?? false,
  })),
)

const words = computed(() => (year.value?.lists.length ? yearWords(year.value, units) : null))
const bought = computed(() => (year.value?.plan.swaps ?? []).map((at) => year.value!.swaps[at]!))
const others = computed(() => {
  const inPlan = new Set(bought.value)
  const last = Number.MAX_SAFE_INTEGER
  const rest = (year.value?.swaps ?? []).filter((one) => !inPlan.has(one) && one.acts.some(Boolean))
  return rest.toSorted((a, b) => (a.place ?? last) - (b.place ?? last))
})
const isPaid = ({ saves_mg_nights: saves, net_minor: net }: YearSwap) => (saves ?? 0) > 0 && (net ?? 0) > 0
const ratio = computed(() => {
  const paid = (year.value?.swaps ?? []).filter(isPaid)
  return medianRatio(
    paid.map((one) => ({ class: 'paid', saving_mg: one.saves_mg_nights, net_minor: one.net_minor })),
  )
})
/** Places on the list at the top, by swap. */
const places = computed(() => {
  if (!alone.value) return undefined
  const known = alone.value.ranking.filter((row) => row.place != null)
  const own = new Map(known.map((row) => [alone.value!.swaps[row.swap]!.id, row.place!]))
  const placed = (year.value?.swaps ?? []).flatMap(({ swap, same }) => {
    const place = [swap.id, ...same].map((id) => own.get(id)).find((place) => place !== undefined)
    return place === undefined ? [] : [[swap.id, place] as const]
  })
  return new Map(placed)
})
const left = computed(() =>
  year.value?.budget_minor == null ? null : Math.max(0, year.value.budget_minor - year.value.spent_minor),
)
const short = computed(() => (year.value?.lists ?? []).filter(({ short_by_mg }) => short_by_mg > 0))
/** Lists on which something of unknown weight is carried. */
const unknown = computed(() =>
  (year.value?.lists ?? []).filter(({ unknown }) => unknown > 0).map(({ list }) => list.name),
)
/** Lists of which nobody said what the trip is. */
const tripless = computed(() =>
  (year.value?.lists ?? []).filter(({ list }) => !list.trip).map(({ list }) => list.name),
)
const sure = computed(() => (year.value?.lists ?? []).filter(({ chance_percent }) => chance_percent != null))
const chance = (percent: number) =>
  percent < 1 ? 'under 1 in 100' : percent > 99 ? 'over 99 in 100' : `${percent} in 100`
const priced = computed(() => bought.value.filter(isPaid))

const saveBudget = (typed: string) => setTyped({ year_budget: typed.trim() === '' ? null : typed })
/** Keeps what is to be left of the budget, beside what is spent of it already. */
const saveLeft = (minor: number) =>
  saveBudget(typedAmount(minor + (year.value?.spent_minor ?? 0), units.currency.value)).catch(messages.failed)
const cache = useCacheUpdates()
const put = useChange(
  ({ list, nights }: { list: PackList; nights: number | null }) =>
    unwrapChange(
      api.PATCH('/api/lists/{id}', {
        params: { path: { id: list.id }, query: { version: list.version } },
        body: { year_nights: nights },
      }),
    ),
  (cache, changed) => cache.list(changed.value),
)
/** Nights as typed; nothing leaves them to the trips. */
async function saveNights(list: PackList, typed: string) {
  const nights =
    typed.trim() === '' ? null : countOf(typed, 'nights from 0 to 365, or nothing: then its trips say it')
  // The year is calculated for seconds: meanwhile the list may have been changed again.
  const written = await withLock(`list ${list.id}`, () =>
    put.mutateAsync({ list: cache.newestList(list.id) ?? list, nights }),
  )
  messages.done(
    nights === null
      ? `${list.name}: as many nights as its trips to come.`
      : `${list.name}: ${counted(nights, 'night')} in the coming twelve months.`,
    undo(written),
  )
}

const doingId = useOpened('done')
const doing = computed(() => year.value?.swaps.find(({ swap }) => swap.id === doingId.value) ?? null)
const isDoing = computed({ get: () => doing.value !== null, set: (is) => is || (doingId.value = '') })
const home = computed(() => doing.value?.swap.list ?? '')
const { data: full } = useQuery(computed(() => ({ ...listQuery(home.value), enabled: home.value !== '' })))
/** The other lists that a swap lightens. */
const also = computed(() =>
  (year.value?.lists ?? [])
    .filter((one, at) => doing.value?.acts[at] && one.list.id !== home.value)
    .map(({ list: { id, name } }) => ({ id, name })),
)
const ask = ({ swap }: YearSwap) => (doingId.value = swap.id)
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">{{ words?.title ?? 'Which purchase serves all my trips?' }}</h1>
      <p>{{ words?.note }}</p>
    </div>
    <Loaded what="The year" :known="year !== undefined" :error="error" :rows="10" @retry="refetch">
      <div v-if="year" class="with-aside">
        <div>
          <div v-if="!year.lists.length" class="empty card">
            <h2>A year is made of nights</h2>
            <p>
              Say for how many nights of the coming twelve months you carry each list: below, or by adding a
              trip to come. Then one budget serves them all.
            </p>
            <RouterLink class="link" :to="stepOf(list, 'trips')">Add a trip</RouterLink>
          </div>
          <YearLists v-else :lists="year.lists" :save="saveNights" />
          <table v-if="year.others.length" class="grid others">
            <thead>
              <tr>
                <th>{{ year.lists.length ? 'Not this year' : 'List' }}</th>
                <th class="n">Nights</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in year.others" :key="one.list.id">
                <td class="muted">{{ one.list.name }}</td>
                <td class="n nights">
                  <EditableCell
                    :label="`Nights of ${one.list.name}`"
                    typed=""
                    placeholder="add nights"
                    :save="(typed) => saveNights(one.list, typed)"
                    numeric
                  />
                </td>
              </tr>
            </tbody>
          </table>
          <template v-if="year.lists.length">
            <YearBuys
              v-if="bought.length"
              :year="year"
              :swaps="bought"
              title="Buy in this order"
              is-order
              :median="ratio"
              @pin="(swap) => setSwapState(swap, 'pinned')"
              @rule="(swap) => setSwapState(swap, 'ruled_out')"
              @do="ask"
            />
            <p v-else-if="!year.swaps.length" class="muted">
              No list of the year has a swap yet.
              <RouterLink class="link" :to="stepOf(list, 'swaps')">Add a swap.</RouterLink>
            </p>
            <YearDescent :year="year" :left="left" :save-left="saveLeft" />
            <YearBuys
              v-if="others.length"
              :year="year"
              :swaps="others"
              title="Not in the plan, by the year’s ranking"
              :places="places"
              :list-name="current?.name"
              :median="ratio"
              @pin="(swap) => setSwapState(swap, 'pinned')"
              @rule="(swap) => setSwapState(swap, 'ruled_out')"
            />
            <YearKeeping
              :year="year"
              :rates="settings?.worth_falls_percent ?? {}"
              :systems="vocabulary?.systems ?? []"
              :save-rates="(worth_falls_percent) => setSettings({ worth_falls_percent })"
            />
          </template>
        </div>
        <aside aria-label="What the year comes to">
          <section class="card sums" aria-label="The year's figures">
            <div>
              <Figure
                v-bind="units.massNights(year.plan.gram_nights_mg - year.gram_nights_mg)"
                size="large"
                tone="spruce"
              />
              <span class="muted">of {{ units.massNightsText(year.gram_nights_mg) }}</span>
            </div>
            <div>
              <Figure v-bind="units.money(year.plan.net_minor)" size="large" tone="money" />
              <span class="muted">{{
                left === null ? 'no budget' : `${units.moneyText(left - year.plan.net_minor)} left`
              }}</span>
            </div>
            <EditableFigure
              label="year’s budget"
              tone="chosen"
              :figure="year.budget_minor == null ? 'set' : units.money(year.budget_minor).figure"
              :unit="year.budget_minor == null ? '' : units.money(year.budget_minor).unit"
              :typed="year.budget_minor == null ? '' : typedAmount(year.budget_minor, units.currency.value)"
              :save="saveBudget"
            />
            <p v-if="year.spent_minor" class="muted">
              {{ units.moneyText(year.spent_minor) }} of it spent since.
            </p>
          </section>
          <section v-if="priced.length" class="card" aria-label="What carrying less costs">
            <h2>One {{ units.scale.value.name }} less for one night</h2>
            <div class="rows">
              <div v-for="one in priced" :key="one.swap.id">
                <span>{{ one.swap.name }}</span>
                <Figure v-bind="units.perMassNight(one.saves_mg_nights!, one.net_minor!)" tone="money" />
              </div>
            </div>
          </section>
          <section v-if="unknown.length" class="card warning">
            <h2>Some weights are unknown</h2>
            <p>
              They count as nothing, so these lists are heavier than it says here: {{ listed(unknown) }}.
              <RouterLink class="link" :to="stepOf(list, 'gear')">Type them in Gear.</RouterLink>
            </p>
          </section>
          <section v-for="one in short" :key="one.list.id" class="card warning">
            <h2>{{ one.list.name }}: {{ units.tableText(one.short_by_mg) }} short</h2>
            <p>
              Planned {{ units.totalText(one.planned_mg) }}, target
              {{ units.totalText(one.base_target_mg!) }}.
              <RouterLink class="link" :to="stepOf(one.list.id, 'plan')">Its own plan</RouterLink>
            </p>
          </section>
          <DiffersCard v-if="alone" :year="year" :alone="alone" />
          <section v-if="sure.length" class="card" aria-label="How sure">
            <h2>How sure</h2>
            <p class="muted">So often the scale would agree that the list is at or under its target.</p>
            <div class="rows">
              <div v-for="one in sure" :key="one.list.id">
                <span>{{ one.list.name }}</span><b class="n">{{ chance(one.chance_percent!) }}</b>
              </div>
            </div>
          </section>
          <section v-if="year.lists.length" class="card warning">
            <h2>Before you rely on it</h2>
            <p>
              No list is left shorter than now of what its trip asks for: shelter, water, layers, a bed and a
              floor for its low. What is not rated it can’t judge, and it can’t know the weather you will
              meet.
            </p>
            <p v-if="tripless.length">
              {{ listed(tripless) }}: no trip is said, so only what the list requires is counted there.
            </p>
          </section>
        </aside>
      </div>
    </Loaded>
    <DoneDialog
      v-model="isDoing"
      :swap="doing?.swap ?? null"
      :lines="full?.lines ?? []"
      :also="also"
      :do-it="doIt"
    />
  </div>
</template>

<style scoped>
.with-aside {
  --aside: 332px;
}
.others {
  width: auto;
  min-width: 320px;
  margin-top: var(--s-3);
}
.nights {
  width: 110px;
}
aside {
  display: grid;
  gap: var(--s-3h);
}
.sums {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: var(--s-3) var(--s-5h);
}
.sums > div {
  display: grid;
  justify-items: start;
}
.warning {
  border-left: 4px solid var(--lingonberry);
}
.warning p + p {
  margin-top: var(--s-2);
}
.warning h2 {
  color: var(--lingonberry);
}
.rows span {
  min-width: 0;
  overflow-wrap: anywhere;
}
.with-aside > div > :deep(.wide) {
  margin-top: var(--s-4);
}
</style>
