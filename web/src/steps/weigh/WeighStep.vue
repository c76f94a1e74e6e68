<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useSessionStorage } from '@vueuse/core'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { gearQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import { focusTitle } from '@/controls/focus'
import Loaded from '@/controls/Loaded.vue'
import { useUnits } from '@/domain/units'
import { SOURCES } from '@/domain/words'
import HeavyFew from './HeavyFew.vue'
import KitsCard from './KitsCard.vue'
import MakersCard from './MakersCard.vue'
import QueueTable from './QueueTable.vue'
import ReadingCard from './ReadingCard.vue'
import { useScale } from '@/domain/scale'
import SimulatedPan from './SimulatedPan.vue'
import TakeAwayCard from './TakeAwayCard.vue'
import { useTakeAway } from './takeAway'
import { useTaking } from './taking'
import TakenCard from './TakenCard.vue'
import { trustSentence, useWeigh } from './weigh'

const props = defineProps<{ list: string }>()
const {
  all,
  page,
  error,
  refetch,
  queue,
  costs,
  byCost,
  marked,
  queued,
  kit,
  step,
  take,
  correct,
  takeBack,
  unsaved,
  tryAgain,
  discard,
  saveKit,
  dropKit,
} = useWeigh(() => props.list)
const { data: gear } = useQuery(gearQuery)
const { name: scale, reading, trouble, simulated, connections, connectSimulated } = useScale()
// The first three stay on the screen until they are added or left, whatever became of one of them.
const begun = useSessionStorage('kevyt-heavy-few-open', false)
async function leaveBeginning() {
  begun.value = false
  await nextTick()
  focusTitle()
}
const away = useTakeAway()
const units = useUnits()

const { container, divided, used, typed, refusal, pieces, canTake, enter, enterTyped, tare, takeAwayMode } =
  useTaking({ queued, step, take }, { name: scale, reading }, away)
const field = useTemplateRef<{ focus: () => void; blur: () => void }>('field')
const finder = useTemplateRef<InstanceType<typeof QueueTable>>('finder')
const kits = useTemplateRef<InstanceType<typeof KitsCard>>('kits')

watch(simulated, (address) => address && connectSimulated(), { immediate: true })
const title = computed(() => kit.value?.name ?? queued.value?.gear.name ?? 'Nothing to weigh')
const known = computed(() => {
  if (kit.value) return `kit of ${kit.value.parts.length} things`
  const weight = queued.value?.gear.weight
  if (!queued.value) return ''
  if (!weight) return 'unknown'
  const { alone, low_mg, high_mg } = queued.value
  const half = alone ? Math.round((high_mg - low_mg) / 2 / alone) : 0
  const doubt = alone ? (half ? `±${units.fineText(half)}` : '') : 'counts in its kit'
  return `${SOURCES[weight.source]} ${units.tableText(weight.unit_mg)} ${doubt}`
})
const costTexts = computed(
  () => new Map([...costs.value].map(([gear, minor]) => [gear, units.moneyText(minor)])),
)
const sentence = computed(() => {
  if (!page.value || page.value.queue.length === 0) return ''
  const first = queue.value[0]?.gear
  const cost = first && byCost.value ? costTexts.value.get(first.id) : undefined
  if (cost) return `Weigh ${first!.name} first: not knowing it costs ${cost}.`
  return trustSentence(page.value, all.value ? 'the sum' : 'your base', units.fineText)
})
/** Undoes the weighing whose row has the focus. */
function takeBackAtHand() {
  const id = document.activeElement?.closest<HTMLElement>('[data-weighing]')?.dataset.weighing
  const one = page.value?.taken.find(({ weighing }) => weighing.id === id)
  if (one) void takeBack(one.weighing.id, one.name)
}

useKeys('Weigh', [
  { key: 'Enter', does: 'save the steady weight for what is marked', run: () => void enter() },
  { key: 'ArrowDown', does: 'mark the next', run: () => step(1) },
  { key: 'ArrowUp', does: 'mark the one before', run: () => step(-1) },
  { key: '/', does: 'find what to weigh', run: () => finder.value?.focus() },
  { key: 'w', does: 'type what the scale shows', run: () => field.value?.focus() },
  { key: 'c', does: 'subtract the container that is on the pan, or stop doing so', run: tare },
  { key: 'd', does: 'divide by how many pieces there are', run: () => (divided.value = !divided.value) },
  { key: 'o', does: 'take away one by one, or stop', run: takeAwayMode },
  {
    key: 's',
    does: 'save what was taken away',
    run: () => away.on.value && void away.save(scale.value ?? 'typed'),
  },
  { key: 'u', does: 'put the last piece back on', run: () => away.on.value && void away.putBack() },
  { key: 'x', does: 'undo the weighing in focus', run: takeBackAtHand },
  { key: 'k', does: 'new kit', run: () => kits.value?.make() },
])
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What does it really weigh?</h1>
      <p>{{ sentence }}</p>
    </div>
    <HeavyFew v-if="begun || gear?.length === 0" :list="list" @begin="begun = true" @done="leaveBeginning" />
    <Loaded
      v-else
      what="The weigh queue"
      :known="page !== undefined"
      :error="error"
      :rows="10"
      @retry="refetch"
    >
      <div v-if="page" class="with-aside">
        <div class="left">
          <ReadingCard
            :title="title"
            :known="known"
            :reading="reading"
            :container="container"
            :pieces="pieces"
            :scale="scale"
            :used="used"
          />
          <p v-if="refusal || trouble" class="caution" role="alert">{{ refusal || trouble }}</p>
          <ul v-if="unsaved.length" class="rows unsaved" aria-label="Not saved">
            <li v-for="one in unsaved" :key="one.key">
              <span
                ><b>{{ one.name }} {{ one.shown }}</b>
                <span class="caution">not saved. {{ one.why }}</span></span
              >
              <span>
                <el-button size="small" @click="tryAgain(one)">Try again</el-button>
                <el-button size="small" link @click="discard(one)">Discard</el-button>
              </span>
            </li>
          </ul>
          <div class="deeds">
            <el-button type="primary" :disabled="!canTake" @click="enter"
              >Save weight <kbd>Enter</kbd></el-button
            >
            <span class="choose">
              <el-button aria-label="Mark the one before" @click="step(-1)">↑</el-button>
              <el-button aria-label="Mark the next" @click="step(1)">↓</el-button>
            </span>
            <el-button :aria-pressed="container !== 0" @click="tare"
              >{{ container ? 'No container' : 'Subtract container' }} <kbd>c</kbd></el-button
            >
            <el-button
              v-if="(queued?.gear.count ?? 1) > 1"
              :aria-pressed="divided"
              @click="divided = !divided"
              >{{ divided ? 'One piece' : `Divide by ${queued?.gear.count}` }} <kbd>d</kbd></el-button
            >
            <el-button :aria-pressed="away.on.value" @click="takeAwayMode"
              >Take away one by one <kbd>o</kbd></el-button
            >
            <form class="typed" @submit.prevent="enterTyped">
              <b class="of">{{ title }}</b>
              <el-input
                ref="field"
                v-model="typed"
                aria-label="What the scale shows"
                placeholder="or type it"
                autocomplete="off"
                inputmode="decimal"
                name="typed-weight"
                @keydown.esc="focusTitle"
              >
                <template #suffix><kbd>w</kbd></template>
              </el-input>
              <el-button native-type="submit" class="take-typed" :disabled="typed.trim() === ''"
                >Save</el-button
              >
            </form>
          </div>
          <p v-if="!scale && connections.length" class="muted">
            A scale can be read here:
            <template v-for="({ over, connect }, at) in connections" :key="over"
              ><template v-if="at"> or </template
              ><el-button link type="primary" @click="connect"
                >connect one over {{ over }}</el-button
              ></template
            >
          </p>
          <TakeAwayCard
            v-if="away.on.value"
            :started="away.started.value"
            :pieces="away.pieces.value"
            :things="away.draft.value.things"
            :left-over="away.leftOver.value"
            :left-on="away.leftOn.value"
            :container="away.draft.value.container_mg"
            :refusal="away.refusal.value"
            @back="away.putBack"
            @save="(leave: boolean) => away.save(scale ?? 'typed', leave)"
            @stop="away.stop"
            @container="away.setContainer"
          />
          <TakenCard
            :taken="page.taken"
            :correct="correct"
            @take-back="(one) => takeBack(one.weighing.id, one.name)"
          />
        </div>
        <aside aria-label="What to weigh">
          <div>
            <QueueTable
              ref="finder"
              :queue="queue"
              :costs="costTexts"
              :marked="queued?.gear.id"
              @mark="(id) => (marked = { kind: 'gear', id })"
            />
            <el-checkbox v-model="all" class="all">all my gear, not only this list</el-checkbox>
            <el-checkbox v-if="costs.size" v-model="byCost" class="all"
              >first what not knowing costs</el-checkbox
            >
          </div>
          <SimulatedPan v-if="simulated && scale" :address="simulated" :wanted="title" />
          <KitsCard
            ref="kits"
            :kits="page.kits"
            :queue="queue"
            :marked="kit?.id"
            :save="saveKit"
            @mark="(id) => (marked = { kind: 'kit', id })"
            @drop="dropKit"
          />
          <MakersCard :makers="page.makers" />
        </aside>
      </div>
    </Loaded>
  </div>
</template>

<style scoped>
.with-aside {
  --aside: 420px;
}
.left,
aside {
  display: grid;
  gap: var(--s-4);
  min-width: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.deeds {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
}
.deeds :deep(.el-button) {
  margin: 0;
  padding: 0 var(--s-2h);
}
.deeds :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1h);
}
.deeds :deep([aria-pressed='true']) {
  color: var(--lake);
  border-color: var(--lake);
}
.choose {
  display: flex;
}
.typed {
  display: flex;
  gap: var(--s-1);
  margin-left: auto;
}
.typed :deep(.el-input) {
  width: 108px;
}
.typed :deep(input) {
  text-align: right;
}
.take-typed,
.of {
  display: none;
}
.all {
  padding: 0 var(--s-2);
}
@media (max-width: 700px) {
  .deeds :deep(.el-button) {
    min-height: 44px;
  }
  .typed {
    width: 100%;
    margin: 0;
  }
  .typed :deep(.el-input) {
    flex: 1;
    width: auto;
    height: 44px;
  }
  .typed .take-typed {
    display: inline-flex;
  }
  /* While it is typed into, with one thumb: above the keyboard, with what it is of. */
  .typed:focus-within {
    position: fixed;
    inset: auto 0 0;
    z-index: 12;
    align-items: center;
    gap: var(--s-2);
    padding: var(--s-2) var(--s-3);
    background: var(--sheet);
    border-top: 2px solid var(--lake);
  }
  .typed:focus-within .of {
    display: block;
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
}
</style>
