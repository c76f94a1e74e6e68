<script setup lang="ts">
// The list as an equation, under the gram ruler. Two more pages of the step: the trip, and who walks together.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { afterQuery, lessonsQuery, planQuery, sheetQuery, vocabularyQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { useDialog, useRouteQuery } from '@/controls/route'
import { hint } from '@/domain/lessons'
import { stepOf, useLists } from '@/domain/lists'
import LoadedPack from '@/domain/LoadedPack.vue'
import { usePastedRows, usePasteToFiles } from '@/domain/pasted'
import { baseTarget } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import GramRuler from '@/marks/GramRuler.vue'
import { counted } from '@/quantities/count'
import CautionCards from './CautionCards.vue'
import CompareDrawer from './CompareDrawer.vue'
import Equation from './Equation.vue'
import { carriedAfter, differences, spans, type Span } from './equation'
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
const { data: vocabulary } = useQuery(vocabularyQuery)
const { lists } = useLists()
const { data: lessons } = useQuery(lessonsQuery)
const systems = computed(() => new Map(vocabulary.value?.systems.map((system) => [system.key, system.name])))
const chosen = ref<string | null>(null)
const names = computed(() => sheet.value?.lines.map((line) => line.name) ?? [])

const isOwner = computed(() => sheet.value?.role === 'owner')
const above = computed(() => (sheet.value ? spans(sheet.value.lines, sheet.value.me) : []))

// What the list is held against: the plan, the list before its last change, or another list. The plan is its owner's.
const picked = useRouteQuery('against')
const against = computed({
  get: () => picked.value || (isOwner.value ? 'plan' : 'before'),
  set: (other) => (picked.value = other),
})
const { data: plan } = useQuery(
  computed(() => ({ ...planQuery(props.list), enabled: props.list !== '' && isOwner.value })),
)
/** The list as it stands after the plan. */
const planned = computed(() => {
  const { plan: answer, swaps } = plan.value ?? {}
  return answer?.swaps?.map((at) => swaps![at]!.id) ?? null
})
const { data: after } = useQuery(
  computed(() => ({
    ...afterQuery(props.list, planned.value ?? []),
    enabled: against.value === 'plan' && planned.value !== null,
  })),
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
const other = computed(() => (['plan', 'before'].includes(against.value) ? '' : against.value))
const { data: otherSheet } = useQuery(
  computed(() => ({ ...sheetQuery(other.value), enabled: other.value !== '' })),
)
const held = computed<Span[] | null>(() => {
  if (!sheet.value) return null
  if (against.value === 'before') return before.value
  if (against.value === 'plan') return after.value ? carriedAfter(after.value) : null
  return otherSheet.value ? spans(otherSheet.value.lines, otherSheet.value.me) : null
})
const sum = (all: Span[]) => all.reduce((total, span) => total + span.mg, 0)
/** By how much it is lighter than what it is compared with: base weights where they are known, which count kits as they were weighed. */
const lighter = computed(() => {
  const base = sheet.value?.totals.base_mg ?? 0
  if (against.value === 'plan') return base - (after.value?.base_after_mg ?? base)
  if (otherSheet.value && other.value) return base - otherSheet.value.totals.base_mg
  return sum(above.value) - sum(held.value ?? [])
})
const heldBy = computed(() => {
  const less = lighter.value
  return less === 0
    ? 'the same weight'
    : `${units.tableText(Math.abs(less))} ${less > 0 ? 'lighter' : 'heavier'}`
})
const heldName = computed(() => {
  if (!held.value) return ''
  const what =
    against.value === 'plan'
      ? 'as planned'
      : against.value === 'before'
        ? 'before the last change'
        : (otherSheet.value?.list.name ?? '')
  return `${what}, ${heldBy.value}`
})
const differing = computed(() => (held.value ? differences(above.value, held.value) : []))
const inShort = computed(() =>
  differing.value
    .slice(0, 4)
    .map(({ name, here, there }) =>
      here === null
        ? `+ ${name} ${units.tableText(there!)}`
        : there === null
          ? `− ${name} ${units.tableText(here)}`
          : `${name} ${units.signed(there - here)}`,
    )
    .join(', '),
)
const isComparing = useDialog('differences')

const sentence = computed(() => {
  if (!sheet.value) return ''
  const mine = sheet.value.lines.filter((line) => line.walker === sheet.value!.me)
  const home = mine.filter(
    (line) => line.left > 0 && line.carried + line.worn + line.used_up + line.apart === 0,
  ).length
  const makers = mine.filter((line) => line.weight?.source === 'maker').length
  const { unknown } = sheet.value.totals
  const weights = [
    makers > 0
      ? makers === 1
        ? '1 weight is the maker’s figure'
        : `${makers} weights are makers’ figures`
      : '',
    unknown > 0 ? (unknown === 1 ? 'one is unknown' : `${unknown} are unknown`) : '',
  ].filter(Boolean)
  const doubt = sheet.value.doubt
  const likely = Math.max(doubt.likely_below_mg, doubt.likely_above_mg)
  if (mine.length === 0) return ''
  return [
    `${counted(mine.length - home, 'thing')} come${mine.length - home === 1 ? 's' : ''} along${home ? `, ${home} stay${home === 1 ? 's' : ''} home` : ''}.`,
    weights.length ? `${weights.join(', ')}.`.replace(/^./, (first) => first.toUpperCase()) : '',
    likely > 500 ? `Base ±${units.fineText(likely)} or so.` : '',
  ]
    .filter(Boolean)
    .join(' ')
})

// Gear that is found by its name goes onto the list with Enter.
const find = ref('')
const field = useTemplateRef<{ focus: () => void }>('field')
const found = computed(() => {
  const words = find.value.trim().toLowerCase().split(/\s+/)
  return find.value.trim() === ''
    ? []
    : shelf.value
        .filter((thing) => words.every((word) => thing.name.toLowerCase().includes(word)))
        .slice(0, 8)
})
function enter() {
  const first = found.value[0]
  if (!first) return
  find.value = ''
  void add(first)
}
useKeys('List', [
  { key: '/', does: 'add gear to the list', run: () => field.value?.focus() },
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
        <section v-if="sheet.lines.length" class="above" aria-label="Gram ruler">
          <GramRuler
            :spans="above"
            :other="held ? { spans: held, name: heldName } : null"
            :target="baseTarget(sheet.list)"
            :unit-mg="units.scale.value.mg"
            :unit-name="units.total(0).unit === '' ? 'lb' : units.scale.value.name"
            :systems="systems"
            :text="units.tableText"
            :chosen="chosen"
            @choose="chosen = $event"
          />
          <div class="held">
            <el-select v-model="against" size="small" aria-label="Compare the list with">
              <template #prefix>compare with</template>
              <el-option v-if="isOwner" value="plan" label="the plan" />
              <el-option value="before" label="before the last change" :disabled="!before" />
              <el-option
                v-for="one in (lists ?? []).filter((one) => one.id !== list)"
                :key="one.id"
                :value="one.id"
                :label="one.name"
              />
            </el-select>
            <span v-if="held && differing.length" class="muted">{{ heldBy }}: {{ inShort }}</span>
            <span v-else-if="held" class="muted">The same things.</span>
            <el-button v-if="held && differing.length" link size="small" @click="isComparing = true"
              >All differences ({{ differing.length }})</el-button
            >
          </div>
        </section>
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
        <form class="adding screen-only" @submit.prevent="enter">
          <el-input
            ref="field"
            v-model="find"
            size="small"
            clearable
            placeholder="Add gear: type its name, then Enter"
            aria-label="Add gear to the list"
          />
          <el-button v-for="thing in found" :key="thing.id" size="small" @click="((find = ''), add(thing))"
            >{{ thing.name }} {{ thing.weight ? units.tableText(thing.weight.unit_mg) : '?' }}</el-button
          >
          <span v-if="find.trim() && !found.length" class="muted">No gear matches “{{ find }}”.</span>
        </form>
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
    <CompareDrawer
      v-if="sheet"
      v-model="isComparing"
      :here="sheet.list.name"
      :there="heldName"
      :differences="differing"
    />
  </div>
</template>

<style scoped>
.above {
  margin-bottom: var(--s-2);
}
.held {
  display: flex;
  gap: var(--s-3);
  align-items: center;
  margin: 2px 0 0;
  font-size: var(--text-s);
}
.held :deep(.el-select) {
  flex: none;
  width: 190px;
}
.held .muted {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.adding {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
  align-items: center;
  margin: 6px 0 10px;
}
.adding :deep(.el-input) {
  width: 280px;
}
.adding :deep(.el-button) {
  margin: 0;
}
.days {
  padding: var(--s-2) 14px;
}
.days p {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  margin: 0;
  padding: 3px 0;
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
    gap: 6px;
    margin: 0 0 var(--s-3);
    padding: 6px 0;
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
  .adding :deep(.el-input) {
    width: 100%;
  }
  .keys {
    display: none;
  }
}
@media (max-width: 700px) {
  .held {
    flex-wrap: wrap;
    gap: 2px var(--s-3);
  }
}
@media print {
  .adding,
  .held {
    display: none;
  }
}
</style>
