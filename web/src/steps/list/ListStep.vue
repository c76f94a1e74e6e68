<script setup lang="ts">
// The list as an equation, under the gram ruler. Two more pages of the step: the trip, and who walks together.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { lessonsQuery, planQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { hint } from '@/domain/lessons'
import { stepOf } from '@/domain/lists'
import LoadedPack from '@/domain/LoadedPack.vue'
import { usePastedRows, usePasteToFiles } from '@/domain/pasted'
import { useUnits } from '@/domain/units'
import AddGear from './AddGear.vue'
import { alongWords } from './along'
import CautionCards from './CautionCards.vue'
import ComparedRuler from './ComparedRuler.vue'
import Equation from './Equation.vue'
import HeavyFewRow from './HeavyFewRow.vue'
import ListPages from './ListPages.vue'
import { useSheet } from './sheet'
import WaysCard from './WaysCard.vue'

const props = defineProps<{ list: string }>()
const {
  sheet,
  error,
  refetch,
  shelf,
  wants,
  before,
  move,
  add,
  bring,
  remove,
  countBy,
  change,
  know,
  confirm,
} = useSheet(() => props.list)
const units = useUnits()
const router = useRouter()
usePastedRows(usePasteToFiles(() => props.list, 'list'))
const { data: lessons } = useQuery(lessonsQuery)
const chosen = ref<string | null>(null)
const names = computed(() => sheet.value?.lines.map((line) => line.name) ?? [])
const sentence = computed(() => (sheet.value ? alongWords(sheet.value, units.fineText) : ''))
const adding = useTemplateRef<InstanceType<typeof AddGear>>('adding')

const isOwner = computed(() => sheet.value?.role === 'owner')
const { data: plan } = useQuery(
  computed(() => ({ ...planQuery(props.list), enabled: props.list !== '' && isOwner.value })),
)
/** What a want costs of the plan, by its line; a lesson of trips by the gear. */
const prices = computed(() => {
  const wants = plan.value?.keeps.filter((one) => one.need === 'want') ?? []
  return new Map(wants.map((one) => [one.line, units.moneyText(one.costs_minor)]))
})
const hints = computed(() => {
  const all = new Map(lessons.value?.things.map((thing) => [thing.gear, hint(thing)]))
  for (const line of sheet.value?.lines ?? []) {
    const costs = prices.value.get(line.id)
    const want = costs ? `want, ${costs}` : wants.value.has(line.gear) ? 'want' : ''
    if (want) all.set(line.gear, [want, all.get(line.gear)].filter(Boolean).join(', '))
  }
  return all
})
useKeys('List', [
  { key: '/', does: 'add gear to the list', run: () => adding.value?.focus() },
  { key: 'r', does: 'open the trip', run: () => void router.push(stepOf(props.list, 'list/trip')) },
  { key: 'g', does: 'open together', run: () => void router.push(stepOf(props.list, 'list/together')) },
  {
    key: 'c u m a x',
    does: 'move the thing: back, used up, me, apart, home; with Shift one piece',
    run: () => {},
  },
])
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What comes along</h1>
      <p>{{ sentence }}</p>
      <ListPages v-if="list" :list="list" />
    </div>
    <div v-if="list === ''" class="empty card">
      <h2>No list yet</h2>
      <p>
        A list is what comes along on one trip. Make one at the top left, “New list …”; gear that you add then
        goes onto it.
      </p>
    </div>
    <Loaded v-else what="The list" :known="sheet !== undefined" :error="error" :rows="10" @retry="refetch">
      <template v-if="sheet">
        <dl class="narrow-sums">
          <div>
            <dt>Back</dt>
            <dd>{{ units.total(sheet.totals.base_mg).figure }}</dd>
          </div>
          <div>
            <dt>+ used up</dt>
            <dd>{{ units.total(sheet.totals.pack_mg - sheet.totals.base_mg).figure }}</dd>
          </div>
          <div>
            <dt>+ on me</dt>
            <dd>{{ units.total(sheet.totals.everything_mg - sheet.totals.pack_mg).figure }}</dd>
          </div>
          <div>
            <dt>= everything</dt>
            <dd>{{ units.total(sheet.totals.everything_mg).figure }} {{ units.total(0).unit }}</dd>
          </div>
        </dl>
        <ComparedRuler v-if="sheet.lines.length" v-model:chosen="chosen" :sheet="sheet" :before="before" />
        <div v-else class="empty card">
          <h2>Nothing on this list yet</h2>
          <p v-if="shelf.length">
            Type the name of a thing you own into “Add gear” and press Enter. Then say where it counts: what
            you wear is not base weight.
          </p>
          <p v-else>
            <RouterLink class="link" :to="stepOf(list, 'weigh')">Start with the heavy few</RouterLink>, or
            <RouterLink class="link" :to="stepOf(list, 'gear/files')">import a list from a file</RouterLink>.
          </p>
        </div>
        <AddGear ref="adding" :shelf="shelf" @add="add" />
        <Equation
          v-if="sheet.lines.length"
          :sheet="sheet"
          :chosen="chosen"
          :hints="hints"
          @choose="chosen = $event"
          @move="move"
          @remove="remove"
        >
          <WaysCard
            :sheet="sheet"
            :can-change="isOwner"
            :save-ways="(ways) => change(() => ({ ways }), 'Counting rules changed.')"
            @count="countBy"
          />
          <section v-if="sheet.trip" class="card days" aria-label="The pack on the trip">
            <p><span>Loaded at the start</span><LoadedPack :loaded="sheet.loaded" :names="names" /></p>
            <p>
              <span>Heaviest start, day {{ sheet.trip.heaviest_day }}</span
              ><b>{{ units.totalText(sheet.trip.heaviest_mg) }}</b>
            </p>
            <p>
              <span>Last day</span><b>{{ units.totalText(sheet.trip.days_mg.at(-1)!) }}</b>
            </p>
            <HeavyFewRow :grams="sheet.heavy_few_mg" :base="sheet.totals.base_mg" :class-at="sheet.class" />
          </section>
          <section v-else class="card days">
            <p class="muted">
              Say what the trip is, and the list is checked for it: cold, water, load, food.
              <RouterLink class="link" :to="stepOf(list, 'list/trip')">Set the trip</RouterLink>
            </p>
          </section>
          <p v-for="kit in sheet.kits.filter((kit) => kit.correction_mg !== 0)" :key="kit.name" class="muted">
            {{ kit.name }} counts as it was weighed together: {{ units.tableText(kit.weighed_mg) }},
            {{ units.signed(kit.correction_mg) }} compared with its parts.
          </p>
          <p class="muted keys screen-only">
            <kbd>c</kbd> back <kbd>u</kbd> used <kbd>m</kbd> me <kbd>a</kbd> apart <kbd>x</kbd> home; with
            Shift one piece.
          </p>
          <template #below>
            <CautionCards
              :sheet="sheet"
              :can-add="true"
              :can-know="isOwner"
              @bring="bring"
              @know="know"
              @confirm="confirm"
            />
          </template>
        </Equation>
      </template>
    </Loaded>
  </div>
</template>

<style scoped>
.days {
  padding: var(--s-2) var(--s-3h);
}
.days p {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  margin: 0;
  padding: var(--s-0h) 0;
}
.days p.muted {
  display: block;
}
.keys {
  font-size: var(--text-s);
}
.narrow-sums {
  display: none;
}
@media (max-width: 700px) {
  .narrow-sums {
    position: sticky;
    top: 64px;
    z-index: 5;
    display: flex;
    justify-content: space-between;
    gap: var(--s-1h);
    margin: 0 0 var(--s-3);
    padding: var(--s-1h) 0;
    background: var(--paper);
    border-bottom: 1px solid var(--line-strong);
  }
  .narrow-sums dt {
    font-size: var(--text-xs);
    color: var(--ink-2);
  }
  .narrow-sums dd {
    margin: 0;
    font-weight: 650;
    font-size: var(--text-l);
  }
  .keys {
    display: none;
  }
}
</style>
