<script setup lang="ts">
// Whole outfits side by side: what up to four lists weigh, cost and hold, how warm they are, and what the grams between them cost.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Outfits } from '@/api/client'
import { outfitsQuery } from '@/api/queries'
import Loaded from '@/controls/Loaded.vue'
import { stepOf, useLists } from '@/domain/lists'
import { CAUTIONS } from '@/domain/words'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
import type { Shown } from '@/quantities/mass'
import { temperature, volume } from '@/quantities/measures'
import ListPages from './ListPages.vue'

const props = defineProps<{ list: string }>()
const units = useUnits()
const route = useRoute()
const router = useRouter()
const { lists } = useLists(() => props.list)
/** The most that stand side by side. */
const MOST = 4

/** Which lists stand beside the one at hand is in the address. */
const beside = computed<string[]>({
  get: () =>
    String(route.query.with ?? '')
      .split(',')
      .filter((id) => id !== props.list && lists.value?.some((one) => one.id === id))
      .slice(0, MOST - 1),
  set: (ids) => void router.replace({ query: { with: ids.join(',') || undefined } }),
})
const ids = computed(() => [props.list, ...beside.value])
const others = computed(() =>
  (lists.value ?? []).filter(
    (one) => one.id !== props.list && (!one.archived || beside.value.includes(one.id)),
  ),
)
const { data, error, refetch } = useQuery(
  computed(() => ({ ...outfitsQuery(ids.value), enabled: props.list !== '' })),
)
const outfits = computed(() => data.value?.outfits ?? [])
const steps = computed(() =>
  (data.value?.between ?? []).map(({ cheaper, dearer, more_minor: more, lighter_mg: lighter }) => ({
    from: outfits.value[cheaper]!.list.name,
    to: outfits.value[dearer]!.list.name,
    text:
      lighter > 0
        ? `${units.moneyText(more)} more and ${units.tableText(lighter)} lighter: ${units.perMass(lighter, more)}.`
        : `${units.moneyText(more)} more, and ${lighter === 0 ? 'the same weight' : `${units.tableText(-lighter)} heavier`}.`,
  })),
)
type Outfit = Outfits['outfits'][number]
interface Cell {
  figure?: Shown & { size?: 'beam'; tone?: 'money' }
  text?: string
  /** Whether it falls short. */
  short?: boolean
  notes?: string[]
  isCaution?: boolean
}
const degreesText = (tenths: number | null | undefined) =>
  tenths == null ? '–' : temperature(tenths, units.measures.value)
const unknown = (many: number, what: string) => (many ? [`at least: ${counted(many, what)} unknown`] : [])
const ROWS: { name: string; cell: (one: Outfit) => Cell }[] = [
  {
    name: 'Base weight',
    cell: (one) => ({
      figure: { ...units.total(one.base_mg), size: 'beam' },
      notes: unknown(one.unknown, 'weight'),
    }),
  },
  {
    name: 'Cost of all of it',
    cell: (one) => ({
      figure: { ...units.money(one.costs_minor), tone: 'money' },
      notes: unknown(one.unpriced, 'price'),
    }),
  },
  { name: 'Of that owned', cell: (one) => ({ text: units.moneyText(one.owned_minor) }) },
  {
    name: 'Carried over the year',
    cell: (one) =>
      one.nights
        ? { text: units.massNightsText(one.gram_nights_mg), notes: [counted(one.nights, 'night')] }
        : { text: '–' },
  },
  {
    name: 'Comfortable down to',
    cell: ({ comfort_tenth_c: comfort, low_tenth_c: low }) => ({
      text: degreesText(comfort),
      short: comfort != null && low != null && comfort > low,
      notes: [`low ${degreesText(low)}`],
    }),
  },
  {
    name: 'Water it holds',
    cell: (one) => ({ text: one.water_ml == null ? '–' : volume(one.water_ml, units.measures.value) }),
  },
  {
    name: 'Heaviest start',
    cell: ({ heaviest_mg: heaviest, comfortable_mg: comfortable }) => ({
      text: units.totalText(heaviest),
      notes: comfortable == null ? [] : [`pack comfortable to ${units.totalText(comfortable)}`],
      isCaution: comfortable != null && heaviest > comfortable,
    }),
  },
  {
    name: 'Cautions',
    cell: (one) =>
      one.list.trip
        ? { notes: [...new Set(one.cautions)].map((caution) => CAUTIONS[caution]), isCaution: true }
        : { text: '–' },
  },
]
const rows = computed(() => ROWS.map(({ name, cell }) => ({ name, cells: outfits.value.map(cell) })))
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What does each outfit weigh, and cost?</h1>
      <ListPages v-if="props.list" :list="props.list" />
    </div>
    <p v-if="props.list === ''" class="muted">Make a list first, at the top left.</p>
    <template v-else>
      <el-form-item label="Beside it">
        <el-select
          v-model="beside"
          multiple
          :multiple-limit="MOST - 1"
          placeholder="up to three other lists"
          aria-label="Lists to compare with"
        >
          <el-option v-for="one in others" :key="one.id" :value="one.id" :label="one.name" />
        </el-select>
      </el-form-item>
      <Loaded what="The lists" :known="data !== undefined" :error="error" :rows="8" @retry="refetch">
        <div class="wide">
          <table class="grid">
            <thead>
              <tr>
                <th><span class="visually-hidden">What</span></th>
                <th v-for="one in outfits" :key="one.list.id" class="n">
                  <RouterLink :to="stepOf(one.list.id, 'list')">{{ one.list.name }}</RouterLink>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in rows" :key="row.name">
                <th scope="row">{{ row.name }}</th>
                <td v-for="(cell, at) in row.cells" :key="outfits[at]!.list.id" class="n">
                  <Figure v-if="cell.figure" v-bind="cell.figure" />
                  <span v-else :class="{ caution: cell.short }">{{ cell.text }}</span>
                  <small
                    v-for="note in cell.notes"
                    :key="note"
                    :class="cell.isCaution ? 'caution' : 'muted'"
                    >{{ note }}</small
                  >
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <section v-if="steps.length" class="card" aria-label="The price of the grams between">
          <h2>The price of the grams between</h2>
          <div class="rows">
            <div v-for="step in steps" :key="step.from">
              <span>From {{ step.from }} to {{ step.to }}</span>
              <b>{{ step.text }}</b>
            </div>
          </div>
          <p class="muted">
            As much as was paid, or as a wished thing would cost. It says nothing of what one of them can do
            that another can’t: the rows above do.
          </p>
        </section>
      </Loaded>
    </template>
  </div>
</template>

<style scoped>
.wide {
  overflow-x: auto;
  margin-bottom: var(--s-4);
}
table {
  width: auto;
}
thead a {
  color: var(--ink);
  font-weight: 650;
}
th[scope='row'] {
  font-weight: 400;
  color: var(--ink-2);
  text-align: left;
  white-space: nowrap;
  border-bottom-color: var(--line);
}
.card p {
  margin-top: var(--s-3);
}
td.n {
  min-width: 150px;
}
td small {
  display: block;
}
.card {
  max-width: 760px;
}
.rows b {
  text-align: right;
}
.el-select {
  width: min(440px, 70vw);
}
</style>
