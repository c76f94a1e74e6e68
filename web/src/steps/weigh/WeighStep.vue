<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { gearQuery } from '@/api/queries'
import MakersPlot from '@/marks/MakersPlot.vue'
import { exactGrams } from '@/quantities/mass'
import { useKeys } from '@/shell/keys'
import { useUnits } from '@/shell/units'
import HeavyFew from './HeavyFew.vue'
import KitsCard from './KitsCard.vue'
import QueueTable from './QueueTable.vue'
import ReadingCard from './ReadingCard.vue'
import { useScale } from './scale'
import SimulatedPan from './SimulatedPan.vue'
import TakeAwayCard from './TakeAwayCard.vue'
import { useTakeAway } from './takeAway'
import TakenCard from './TakenCard.vue'
import { KNOWN_FROM, trustSentence, useWeigh } from './weigh'

const { all, page, error, queue, marked, queued, kit, step, take, correct, takeBack, saveKit, dropKit } =
  useWeigh()
const { data: gear } = useQuery(gearQuery)
const { name: scale, reading, trouble, simulated, hasHid, connectSimulated, connectReal } = useScale()
const away = useTakeAway()
const units = useUnits()

const container = ref(0)
const divided = ref(false)
const used = ref(false)
const typed = ref('')
const refusal = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
const kits = useTemplateRef<InstanceType<typeof KitsCard>>('kits')

watch(simulated, (address) => address && connectSimulated(), { immediate: true })
// A reading is taken once: the next has to come from another load.
watch(
  () => reading.value?.state,
  (state) => {
    // A scale that falls silent for a moment still carries what it carried.
    if (state && state !== 'steady' && state !== 'silent') used.value = false
    // What was in the way of the last reading says nothing of this one.
    refusal.value = ''
  },
)
watch(queued, () => (divided.value = false))

const pieces = computed(() => (divided.value ? (queued.value?.gear.count ?? 1) : 1))
const title = computed(() => kit.value?.name ?? queued.value?.gear.name ?? 'Nothing to weigh')
const known = computed(() => {
  if (kit.value) return `kit of ${kit.value.parts.length} things`
  const weight = queued.value?.gear.weight
  if (!queued.value) return ''
  if (!weight) return 'unknown'
  const { alone, low_mg, high_mg } = queued.value
  const doubt = alone ? `±${units.fineText(Math.round((high_mg - low_mg) / 2 / alone))}` : 'counts in its kit'
  return `${KNOWN_FROM[weight.source]} ${units.tableText(weight.unit_mg)} ${doubt}`
})
const sentence = computed(() => {
  if (!page.value || page.value.queue.length === 0) return ''
  return trustSentence(page.value, all.value ? 'the sum' : 'your base', units.fineText)
})
const makersSaid = computed(() => {
  const { errors = [], median = null, own = false } = page.value?.makers ?? {}
  if (median === null) return null
  const off = `${(Math.abs(median) / 10_000).toFixed(1)} % ${median >= 0 ? 'light' : 'heavy'}`
  return { off, pairs: errors.length, own }
})

/** Why the reading can't be taken; nothing if it can. */
function hindrance() {
  const state = reading.value?.state
  if (!scale.value) return 'There is no scale. Type what yours shows.'
  // When the last piece is off, nothing is left: that is a reading too.
  if (state !== 'steady' && !(state === 'empty' && away.started.value))
    return 'The reading is not steady. Wait for it, or type what the scale shows.'
  return used.value ? 'This reading was taken already. Change what is on the pan first.' : ''
}

async function enter() {
  refusal.value = hindrance()
  const now = reading.value
  if (refusal.value || now?.mass_mg == null) return
  const step_mg = now.step_mg ?? 1_000
  if (away.on.value) {
    const thing = queued.value && {
      gear: queued.value.gear.id,
      name: queued.value.gear.name,
      count: queued.value.pieces,
    }
    const first = !away.started.value
    if (await away.reading(now.mass_mg, step_mg, thing)) {
      used.value = true
      if (!first) step(1)
    }
    return
  }
  const net = now.mass_mg - container.value
  await keep(
    {
      total: exactGrams(now.mass_mg),
      container: container.value ? exactGrams(container.value) : undefined,
      pieces: pieces.value,
      step_mg,
      scale: scale.value ?? undefined,
    },
    units.tableText(net),
  )
  used.value = refusal.value === ''
}

async function keep(what: Parameters<typeof take>[0], shown: string) {
  try {
    await take(what, shown)
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
}

async function enterTyped() {
  if (typed.value.trim() === '') return
  refusal.value = ''
  await keep({ total: typed.value, pieces: pieces.value }, typed.value.trim())
  if (refusal.value === '') typed.value = ''
}

function tare() {
  container.value = container.value || reading.value?.state !== 'steady' ? 0 : (reading.value.mass_mg ?? 0)
  used.value = container.value !== 0
}

function takeAwayMode() {
  if (away.on.value) away.stop()
  else away.start(container.value)
  used.value = container.value !== 0 && reading.value?.state === 'steady'
}

useKeys('Weigh', [
  { key: 'Enter', does: 'take the steady reading for what is marked', run: () => void enter() },
  { key: 'ArrowDown', does: 'mark the next', run: () => step(1) },
  { key: 'ArrowUp', does: 'mark the one before', run: () => step(-1) },
  { key: 'w', does: 'type what the scale shows', run: () => field.value?.focus() },
  { key: 't', does: 'take what is on the pan off as the container, or stop doing so', run: tare },
  { key: 'd', does: 'divide by how many pieces there are', run: () => (divided.value = !divided.value) },
  { key: 'o', does: 'take away one by one, or stop', run: takeAwayMode },
  {
    key: 's',
    does: 'save what was taken away',
    run: () => away.on.value && void away.save(scale.value ?? 'typed'),
  },
  { key: 'b', does: 'put the last piece back on', run: () => away.on.value && void away.putBack() },
  // This one acts on the weighing that has the focus; its row handles it.
  { key: 'x', does: 'take the weighing at hand back', run: () => {} },
  { key: 'k', does: 'new kit', run: () => kits.value?.make() },
])
</script>

<template>
  <div>
    <div class="head">
      <h1>What does it really weigh</h1>
      <p>{{ sentence }}</p>
    </div>
    <p v-if="error" class="caution" role="alert">{{ error.message }}</p>
    <HeavyFew v-if="gear && gear.length === 0" />
    <div v-else-if="page" class="with-aside">
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
        <div class="deeds">
          <button class="plain" :disabled="reading?.state !== 'steady'" @click="enter">
            <kbd>Enter</kbd> take it
          </button>
          <button class="plain" @click="tare">
            <kbd>t</kbd> {{ container ? 'no container' : 'container' }}
          </button>
          <button
            v-if="(queued?.gear.count ?? 1) > 1"
            class="plain"
            :aria-pressed="divided"
            @click="divided = !divided"
          >
            <kbd>d</kbd> {{ divided ? 'one piece' : `divide by ${queued?.gear.count}` }}
          </button>
          <button class="plain" :aria-pressed="away.on.value" @click="takeAwayMode">
            <kbd>o</kbd> take away one by one
          </button>
          <span class="choose">
            <button class="plain" aria-label="Mark the one before" @click="step(-1)">↑</button>
            <button class="plain" aria-label="Mark the next" @click="step(1)">↓</button> choose
          </span>
          <form class="typed" @submit.prevent="enterTyped">
            <kbd>w</kbd>
            <input
              ref="field"
              v-model="typed"
              aria-label="What the scale shows"
              placeholder="or type it"
              autocomplete="off"
              @keydown.esc="field?.blur()"
            />
          </form>
        </div>
        <p v-if="!scale && hasHid" class="muted">
          A USB scale can be read here: <button class="plain link" @click="connectReal">connect it</button>.
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
        />
        <TakenCard
          :taken="page.taken"
          :correct="correct"
          @take-back="(one) => takeBack(one.weighing.id, one.name)"
        />
      </div>
      <aside>
        <div>
          <QueueTable
            :queue="queue"
            :marked="queued?.gear.id"
            @mark="(id) => (marked = { kind: 'gear', id })"
          />
          <label class="muted all"
            ><input v-model="all" type="checkbox" /> all my gear, not only this list</label
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
        <section class="card">
          <h2>Makers’ figures against your scale</h2>
          <template v-if="makersSaid">
            <MakersPlot :errors="page.makers.errors" :median="page.makers.median ?? null" />
            <p class="muted">
              Makers’ figures you checked ran <b>{{ makersSaid.off }}</b> (median of {{ makersSaid.pairs }}).
              {{
                makersSaid.own
                  ? 'Your own pairs say how far the others are trusted.'
                  : 'From five pairs on, your own say how far the others are trusted.'
              }}
            </p>
          </template>
          <p v-else class="muted">
            Weigh something of which you know the maker’s figure, and it stands here against your scale.
          </p>
        </section>
      </aside>
    </div>
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
}
.deeds {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) 18px;
  padding: 0 2px;
}
.deeds button:disabled {
  color: var(--ink-3);
  cursor: default;
}
.deeds [aria-pressed='true'] {
  color: var(--lake);
  font-weight: 600;
}
.choose button {
  border: 1px solid var(--line-strong);
  border-radius: 3px;
  padding: 0 6px;
}
.typed {
  margin-left: auto;
}
.typed input {
  font: inherit;
  width: 130px;
  height: 30px;
  padding: 0 var(--s-2);
  text-align: right;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
}
.typed input::placeholder {
  color: var(--ink-2);
}
.all {
  display: block;
  padding: 4px var(--s-2);
  font-size: 13px;
}
section b {
  color: var(--ink);
}
@media (max-width: 700px) {
  .deeds button {
    padding: 8px 12px;
    border: 1px solid var(--line-strong);
    border-radius: var(--radius);
    background: var(--sheet);
  }
  .typed,
  .typed input {
    margin: 0;
    width: 100%;
    height: 40px;
  }
}
</style>
