<script setup lang="ts">
import { StorageSerializers, useStorage } from '@vueuse/core'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Swap } from '@/api/client'
import { listQuery, vocabularyQuery, yearQuery } from '@/api/queries'
import Figure from '@/marks/Figure.vue'
import { medianRatio } from '@/domain/median'
import { typedAmount } from '@/quantities/money'
import Loaded from '@/controls/Loaded.vue'
import { useOpened } from '@/controls/route'
import { useCompletion } from '@/domain/completion'
import { useSwapState } from '@/domain/swapState'
import { stepOf } from '@/domain/lists'
import { counted } from '@/quantities/count'
import { jobName } from '@/quantities/jobs'
import { useQuestion } from '@/domain/question'
import { useUnits } from '@/domain/units'
import ChangesCard from './ChangesCard.vue'
import ChosenTable from './ChosenTable.vue'
import CountingCard from './CountingCard.vue'
import DoneCard from './DoneCard.vue'
import DoneDialog from '@/domain/DoneDialog.vue'
import KeepsCard from './KeepsCard.vue'
import SureCard from './SureCard.vue'
import TargetOfCard from './TargetOfCard.vue'
import KeptCard from './KeptCard.vue'
import LadderCard from './LadderCard.vue'
import { meetName } from '@/domain/meet'
import MeetCard from './MeetCard.vue'
import MonthsCard from './MonthsCard.vue'
import NearCard from './NearCard.vue'
import OffersCard from './OffersCard.vue'
import PlanDescent from './PlanDescent.vue'
import DiffersCard from '@/domain/DiffersCard.vue'
import { outcomeWords } from './words'

const props = defineProps<{ list: string }>()
const {
  answer,
  error,
  refetch,
  plan,
  target,
  budget,
  spent,
  left,
  drag,
  drop,
  undrag,
  isDragged,
  askBy,
  aimAt,
  write,
  nearError,
  refetchNear,
  isNearKnown,
} = useQuestion(() => props.list)
const { data: full } = useQuery(computed(() => ({ ...listQuery(props.list), enabled: props.list !== '' })))
/** The year is asked for last: it waits its turn. */
const { data: year } = useQuery(computed(() => ({ ...yearQuery, enabled: isNearKnown.value })))
const { doIt, undoIt } = useCompletion()
const doingId = useOpened('done')
const doing = computed(() => answer.value?.swaps.find((swap) => swap.id === doingId.value) ?? null)
const isDoing = computed({ get: () => doing.value !== null, set: (is) => is || (doingId.value = '') })
const ask = (swap: Swap) => (doingId.value = swap.id)
const units = useUnits()
const setSwapState = useSwapState()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const words = computed(() =>
  answer.value && plan.value
    ? outcomeWords(answer.value, plan.value, { target: target.value, budget: left.value }, units, {
        job: (job) => jobName(job, jobs.value),
        meet: (meet) => meetName(meet, jobs.value),
      })
    : null,
)
/** How sure the second flag is, in chances of a hundred; even at worst is `null`. */
const sureLevel = useStorage<number | null>('kevyt-sure', 90, undefined, {
  serializer: StorageSerializers.object,
})
const held = computed(() => (answer.value?.swaps ?? []).filter((swap) => swap.state !== 'open'))

const aloneWords = computed(() => {
  const found = answer.value?.ranking_alone
  if (!found || !plan.value) return null
  const bought = `Taken in order, the ranking buys ${counted(found.swaps.length, 'swap')} for ${units.moneyText(found.net_minor)} and stops at ${units.totalText(found.base_mg)}`
  if (found.met) {
    const dearer = found.net_minor - plan.value.net_minor
    return dearer > 0
      ? `${bought}: at the target, for ${units.moneyText(dearer)} more than the plan.`
      : `${bought}: here it does as well as the plan.`
  }
  const short = target.value === null ? '' : `, ${units.tableText(found.base_mg - target.value)} short`
  const rest =
    left.value === null
      ? ''
      : `. Nothing more fits the ${units.moneyText(left.value - found.net_minor)} that are left`
  return `${bought}${short}${rest}.`
})

/** What a plan is held to: no more short of what is asked for than the list is today. */
const promise = computed(() => {
  const trip = answer.value?.list.trip
  if (!trip)
    return 'A plan leaves you no shorter than now of what the list requires. Say what the trip is, and that counts its night and its water too.'
  const night =
    trip.days > 1 ? ', a bed and a floor for its low. What is not rated it can’t judge, and' : '. But'
  return `Of what the trip asks for, a plan leaves you no shorter than now: shelter, water, layers${night} it can’t know the weather you will meet.`
})

const leftOver = computed(() => {
  if (budget.value === null || !plan.value) return 'no budget set'
  const rest = budget.value - spent.value - plan.value.net_minor
  return rest < 0 ? `${units.moneyText(-rest)} over the budget` : `${units.moneyText(rest)} left`
})

/** The descent's fence is what is left of the budget. */
const dragged = ({ target, left }: { target?: number; left?: number }) =>
  drag({
    ...(target !== undefined && { target }),
    ...(left !== undefined && { budget: left + spent.value }),
  })

function dropped() {
  const moved = { target: target.value, budget: budget.value }
  const { scale, currency, system } = {
    scale: units.scale.value,
    currency: units.currency.value,
    system: units.system.value,
  }
  const asked: { target?: string; budget?: string } = {}
  if (moved.target !== null && moved.target !== answer.value?.list.target_mg) {
    asked.target =
      system === 'metric'
        ? `${(moved.target / scale.mg).toFixed(2)} kg`
        : `${(moved.target / scale.mg).toFixed(2)} lb`
  }
  if (moved.budget !== null && moved.budget !== answer.value?.list.budget_minor)
    asked.budget = typedAmount(moved.budget, currency)
  if (asked.target || asked.budget) void drop(asked)
  else undrag()
}
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">{{ words?.title ?? 'What do I buy?' }}</h1>
      <p>{{ words?.note }}</p>
    </div>
    <p v-if="list === ''" class="muted">A plan belongs to a list. Make one at the top left.</p>
    <Loaded v-else what="The plan" :known="answer !== undefined" :error="error" :rows="10" @retry="refetch">
      <div v-if="answer && answer.swaps.length === 0" class="empty card">
        <h2>A plan is made of swaps</h2>
        <p>
          Name what could replace your gear, and the plan picks the set that reaches your target for the least
          money.
        </p>
        <RouterLink class="link" :to="stepOf(list, 'swaps')">Go to Swaps</RouterLink>
      </div>
      <div v-else-if="answer && plan" class="with-aside">
        <div>
          <PlanDescent
            :answer="answer"
            :plan="plan"
            :target="target"
            :left="left"
            :is-dragged="isDragged"
            :sure-level="sureLevel"
            @drag="dragged"
            @drop="dropped"
            @cancel="undrag"
          />
          <ChosenTable
            v-if="plan.swaps.length"
            :answer="answer"
            :swaps="plan.swaps"
            :bases="plan.bases_mg"
            :months="isDragged ? null : answer.plan.months"
            :can-do="!isDragged"
            :median="medianRatio(answer.ranking)"
            @pin="(swap) => setSwapState(swap, 'pinned')"
            @rule="(swap) => setSwapState(swap, 'ruled_out')"
            @do="ask"
          />
          <div class="under">
            <DoneCard :answer="answer" @undo="undoIt" />
            <MonthsCard :answer="answer" :save="write" />
            <KeptCard :answer="answer" :planned="answer.plan.swaps ?? []" />
            <LadderCard
              :answer="answer"
              :target="answer.list.target_mg ?? null"
              :class="{ faded: isDragged }"
            />
            <section v-if="aloneWords" class="card" :class="{ faded: isDragged }">
              <h2>Buying in rank order</h2>
              <p class="muted">{{ aloneWords }}</p>
            </section>
            <section v-if="held.length" class="card">
              <h2>Pinned and ruled out</h2>
              <div class="rows">
                <div v-for="swap in held" :key="swap.id">
                  <span
                    >{{ swap.name }}<br /><small class="muted">{{
                      swap.state === 'pinned' ? 'pinned' : 'ruled out'
                    }}</small></span
                  >
                  <el-button link type="primary" @click="setSwapState(swap, swap.state)">{{
                    swap.state === 'pinned' ? 'Unpin' : 'Allow again'
                  }}</el-button>
                </div>
              </div>
            </section>
          </div>
        </div>
        <aside aria-label="What the plan comes to">
          <section class="card sums" aria-label="The plan's figures">
            <div>
              <Figure v-bind="units.total(plan.base_mg - answer.aim_mg)" size="large" tone="spruce" />
              <span class="muted">from {{ units.totalText(answer.aim_mg) }}</span>
            </div>
            <div>
              <Figure v-bind="units.money(plan.net_minor)" size="large" tone="money" />
              <span class="muted">{{ leftOver }}</span>
            </div>
          </section>
          <section v-if="answer.unknown" class="card warning">
            <h2>
              {{ answer.unknown === 1 ? 'One weight is unknown' : `${answer.unknown} weights are unknown` }}
            </h2>
            <p>
              It counts as nothing here, so the real weight is higher, and how sure a plan is can’t be said.
              <RouterLink class="link" :to="stepOf(list, 'gear')">Type it in Gear.</RouterLink>
            </p>
          </section>
          <ChangesCard v-if="plan.hasPlan" :answer="answer" :class="{ faded: isDragged }" />
          <OffersCard :answer="answer" :class="{ faded: isDragged }" />
          <MeetCard :answer="answer" :class="{ faded: isDragged }" @meet="(meet) => askBy({ meet })" />
          <TargetOfCard :answer="answer" :class="{ faded: isDragged }" @pick="aimAt" />
          <CountingCard
            :answer="answer"
            :class="{ faded: isDragged }"
            @count="(counting) => askBy({ counting })"
          />
          <SureCard v-model="sureLevel" :answer="answer" :class="{ faded: isDragged }" />
          <KeepsCard :answer="answer" :class="{ faded: isDragged }" />
          <DiffersCard v-if="year" :year="year" :alone="answer" on-plan :class="{ faded: isDragged }" />
          <NearCard :answer="answer" :error="nearError" :class="{ faded: isDragged }" @retry="refetchNear" />
          <section class="card warning">
            <h2>Before you rely on it</h2>
            <p>
              {{ promise }} Try new gear close to home first; permits, fires and containers are for the local
              authority to decide.
            </p>
          </section>
        </aside>
      </div>
    </Loaded>
    <DoneDialog v-model="isDoing" :swap="doing" :lines="full?.lines ?? []" :do-it="doIt" />
  </div>
</template>

<style scoped>
.with-aside {
  --aside: 332px;
}
.under {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: var(--s-3h);
  align-items: start;
  margin-top: var(--s-4);
}
aside {
  display: grid;
  gap: var(--s-3h);
}
.sums {
  display: flex;
  gap: var(--s-5h);
}
.sums > div {
  display: grid;
  justify-items: start;
}
.warning {
  border-left: 4px solid var(--lingonberry);
}
.warning h2 {
  color: var(--lingonberry);
}
.faded {
  opacity: 0.5;
}
.rows span {
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
