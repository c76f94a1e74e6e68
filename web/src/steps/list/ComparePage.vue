<script setup lang="ts">
// Whole outfits side by side: what up to four lists weigh, cost and hold, how warm they are, and what the grams between them cost.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { outfitsQuery } from '@/api/queries'
import Loaded from '@/controls/Loaded.vue'
import { stepOf, useLists } from '@/domain/lists'
import { CAUTIONS } from '@/domain/words'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
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
const degreesText = (tenths: number | null | undefined) =>
  tenths == null ? '–' : temperature(tenths, units.measures.value)
const isCold = ({ comfort_tenth_c: comfort, low_tenth_c: low }: (typeof outfits.value)[number]) =>
  comfort != null && low != null && comfort > low
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
              <tr>
                <th scope="row">Base weight</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  <Figure v-bind="units.total(one.base_mg)" size="beam" /><small
                    v-if="one.unknown"
                    class="muted"
                    >at least: {{ counted(one.unknown, 'weight') }} unknown</small
                  >
                </td>
              </tr>
              <tr>
                <th scope="row">Cost of all of it</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  <Figure v-bind="units.money(one.costs_minor)" tone="money" /><small
                    v-if="one.unpriced"
                    class="muted"
                    >at least: {{ counted(one.unpriced, 'price') }} unknown</small
                  >
                </td>
              </tr>
              <tr>
                <th scope="row">Of that owned</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  {{ units.moneyText(one.owned_minor) }}
                </td>
              </tr>
              <tr>
                <th scope="row">Carried over the year</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  {{ one.nights ? units.massNightsText(one.gram_nights_mg) : '–'
                  }}<small v-if="one.nights" class="muted">{{ counted(one.nights, 'night') }}</small>
                </td>
              </tr>
              <tr>
                <th scope="row">Comfortable down to</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  <span :class="{ caution: isCold(one) }">{{ degreesText(one.comfort_tenth_c) }}</span><small
                    class="muted"
                    >low {{ degreesText(one.low_tenth_c) }}</small
                  >
                </td>
              </tr>
              <tr>
                <th scope="row">Water it holds</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  {{ one.water_ml == null ? '–' : volume(one.water_ml, units.measures.value) }}
                </td>
              </tr>
              <tr>
                <th scope="row">Heaviest start</th>
                <td v-for="one in outfits" :key="one.list.id" class="n">
                  {{ units.totalText(one.heaviest_mg)
                  }}<small
                    v-if="one.comfortable_mg != null"
                    :class="one.heaviest_mg > one.comfortable_mg ? 'caution' : 'muted'"
                    >pack comfortable to {{ units.totalText(one.comfortable_mg) }}</small
                  >
                </td>
              </tr>
              <tr>
                <th scope="row">Cautions</th>
                <td v-for="one in outfits" :key="one.list.id" class="n told">
                  <template v-if="!one.list.trip">–</template>
                  <small v-for="caution in new Set(one.cautions)" v-else :key="caution" class="caution">{{
                    CAUTIONS[caution]
                  }}</small>
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
  width: min(440px, 80vw);
}
</style>
