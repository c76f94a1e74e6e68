<script setup lang="ts">
import { StorageSerializers, useStorage } from '@vueuse/core'
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import type { Swap } from '@/api/client'
import { listQuery, vocabularyQuery, yearQuery } from '@/api/queries'
import Descent from '@/marks/Descent.vue'
import Figure from '@/marks/Figure.vue'
import { medianRatio } from '@/domain/median'
import { typedAmount } from '@/quantities/money'
import Loaded from '@/controls/Loaded.vue'
import { useOpened } from '@/controls/route'
import { useCompletion } from '@/domain/completion'
import { useSwapState } from '@/domain/swapState'
import { stepOf } from '@/domain/lists'
import { counted, listed } from '@/quantities/count'
import { jobName } from '@/quantities/jobs'
import { useQuestion } from '@/domain/question'
import { levelOf, LEVELS } from '@/domain/sure'
import { useUnits } from '@/domain/units'
import ExportMenu from '@/controls/ExportMenu.vue'
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
import { changeWords, stepTo } from '@/domain/ladder'
import { descentRows } from './planRows'
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
const sheet = useTemplateRef<HTMLElement>('sheet')
const setSwapState = useSwapState()
const { data: vocabulary } = useQuery(vocabularyQuery)
const jobs = computed(() => new Map(vocabulary.value?.jobs.map((job) => [job.key, job])))
const words = computed(() =>
  answer.value && plan.value
    ? outcomeWords(
        answer.value,
        plan.value,
        target.value,
        left.value,
        units,
        (job) => jobName(job, jobs.value),
        (meet) => meetName(meet, jobs.value),
      )
    : null,
)
const points = computed(
  () => answer.value?.frontier.map((point) => ({ net: point.net_minor, base: point.base_mg })) ?? [],
)
/** The target without the dearest wants. */
const without = computed(() => {
  const found = isDragged.value ? undefined : answer.value?.without_wants
  if (!found) return null
  const text = `without ${listed(found.names)}: ${units.totalText(found.target_mg)} is enough`
  return { target: found.target_mg, text }
})
/** How sure the second flag is, in chances of a hundred; even at worst is `null`. */
const sureLevel = useStorage<number | null>('kevyt-sure', 90, undefined, {
  serializer: StorageSerializers.object,
})
const band = computed(() => {
  const points = isDragged.value ? undefined : answer.value?.sure?.points
  return points?.map(({ low_mg: low, high_mg: high }) => ({ low, high })) ?? []
})
const sureFlag = computed(() => {
  const found = isDragged.value ? undefined : levelOf(answer.value?.sure, sureLevel.value)
  const name = LEVELS.find(({ percent }) => percent === sureLevel.value)?.name ?? ''
  return found ? { net: found.net_minor, base: found.base_mg, name } : null
})
/** The point of the descent that is walked to, and what the step to it takes. */
const walked = ref<number | null>(null)
const walkedText = computed(() => {
  const point = walked.value === null ? undefined : answer.value?.frontier[walked.value]
  if (!answer.value || !point) return ''
  const { aim_mg: base_mg, frontier, swaps } = answer.value
  const step = stepTo({ base_mg, frontier, swaps }, walked.value!)
  const change = changeWords(step)
  return (
    `${units.totalText(point.base_mg)} for ${units.moneyText(point.net_minor)}. ` +
    `This step takes off ${units.tableText(step.lighter)} for ${units.moneyText(step.more)}${change ? `: ${change}` : ''}.`
  )
})
const flag = computed(() =>
  plan.value?.hasPlan ? { net: plan.value.net_minor, base: plan.value.base_mg } : null,
)
const alone = computed(() => {
  const found = answer.value?.ranking_alone
  return found && !isDragged.value ? { net: found.net_minor, base: found.base_mg } : null
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

/** The chart's fence is what is left of the budget. */
const dragged = ({ target, budget }: { target?: number; budget?: number }) =>
  drag({
    ...(target !== undefined && { target }),
    ...(budget !== undefined && { budget: budget + spent.value }),
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
          <div ref="sheet" class="sheet">
            <Descent
              v-model:walked="walked"
              :points="points"
              :now="answer.aim_mg"
              :plan="flag"
              :alone="alone"
              :band="band"
              :sure="sureFlag"
              :target="target"
              :without="without"
              :budget="left"
              :unit-mg="units.scale.value.mg"
              :unit-name="units.scale.value.name"
              :minor-per-major="10 ** units.currency.value.decimals"
              :money="units.withSign"
              :target-text="target === null ? '' : units.totalText(target)"
              :budget-text="left === null ? '' : units.moneyText(left)"
              :walked-text="walkedText"
              @drag="dragged"
              @drop="dropped"
              @cancel="undrag"
            />
          </div>
          <p class="exports">
            <ExportMenu
              :what="`Descent of ${answer.list.name}`"
              :rows="() => descentRows(answer!, units)"
              :drawing="() => sheet"
            />
          </p>
          <p class="muted walked">
            {{
              walkedText ||
              'Point at the path, or go down it with the arrow keys: what each step takes stands here.'
            }}
          </p>
          <p v-if="isDragged" class="muted keep">
            <kbd>Enter</kbd> keeps a line that was moved with keys, <kbd>Esc</kbd> puts it back.
          </p>
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
.sheet {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: var(--s-2) 0 0;
  margin-bottom: 10px;
}
.under {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px;
  align-items: start;
  margin-top: 18px;
}
aside {
  display: grid;
  gap: 14px;
}
.sums {
  display: flex;
  gap: 28px;
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
.exports {
  float: right;
}
.walked {
  min-height: 2.6em;
  margin: var(--s-1) 0 var(--s-2);
  font-size: var(--text-m);
}
.keep {
  font-size: var(--text-m);
  margin-bottom: var(--s-2);
}
.rows span {
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
