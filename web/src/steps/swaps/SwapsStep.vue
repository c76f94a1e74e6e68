<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef } from 'vue'
import type { RankBy, Swap, SwapState } from '@/api/client'
import { listQuery, vocabularyQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import { useOpened, useRouteQuery } from '@/controls/route'
import ExportMenu from '@/controls/ExportMenu.vue'
import Loaded from '@/controls/Loaded.vue'
import { useSwapState } from '@/domain/swapState'
import { stepOf } from '@/domain/lists'
import { useQuestion } from '@/domain/question'
import { usePastedRows } from '@/domain/pasted'
import { unavailableWhy } from '@/domain/reasons'
import { baseTarget } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'
import { KINDS } from '@/domain/words'
import Fan from '@/marks/Fan.vue'
import { counted } from '@/quantities/count'
import ChoiceCard from './ChoiceCard.vue'
import { losesNothing } from './gains'
import LightCard from './LightCard.vue'
import PastedSwaps from './PastedSwaps.vue'
import ProposalsCard from './ProposalsCard.vue'
import RankingTable from './RankingTable.vue'
import SwapDrawer from './SwapDrawer.vue'
import { rankingRows } from './rankingRows'
import { useSwaps, type Row } from './swaps'

const props = defineProps<{ list: string }>()
const { answer, error, refetch, rows, sections, unavailable, write, removeSwap } = useSwaps(() => props.list)
const { target, left, askBy } = useQuestion(() => props.list)
const { data: full } = useQuery(computed(() => ({ ...listQuery(props.list), enabled: props.list !== '' })))
const lines = computed(() => full.value?.lines ?? [])
const units = useUnits()
const proposed = useTemplateRef<InstanceType<typeof ProposalsCard>>('proposed')
const setSwapState = useSwapState()

/** By their ids: places in the ranking change whenever something else does. */
const selected = ref<string | null>(null)
/** A swap that is opened by its id, or a new one. */
const NEW = 'new'
const openedId = useOpened('swap')
const all = computed(() => rows.value.flatMap((row) => [row, ...row.folded]))
const selectedRow = computed(() => all.value.find((row) => row.swap.id === selected.value))
const opened = computed(
  () =>
    [...(answer.value?.swaps ?? []), ...unavailable.value].find((swap) => swap.id === openedId.value) ?? null,
)

/** Of one that is not there, or not any more, nothing opens. */
const drawer = computed({
  get: () => openedId.value === NEW || opened.value !== null,
  set: (is) => is || (openedId.value = ''),
})

/** The line that a new swap begins with. */
const begun = ref('')
function edit(swap: Swap | null, line = '') {
  begun.value = line
  openedId.value = swap?.id ?? NEW
}
const holdSelected = (state: SwapState) => {
  if (selectedRow.value) void setSwapState(selectedRow.value.swap, state)
}

useKeys('Swaps', [
  { key: 'n', does: 'new swap', run: () => edit(null) },
  { key: 'a', does: 'make a swap of the first proposal', run: () => void proposed.value?.takeFirst() },
  { key: 'p', does: 'pin the selected swap, or allow it again', run: () => holdSelected('pinned') },
  { key: 'x', does: 'rule out the selected swap, or allow it again', run: () => holdSelected('ruled_out') },
])

const pasted = ref('')
usePastedRows((text) => {
  drawer.value = false
  pasted.value = text
})

const { data: vocabulary } = useQuery(vocabularyQuery)
/** Only swaps of a system or a kind are shown; places stay those of all. */
const system = useRouteQuery('system')
const kind = useRouteQuery('kind')
const systemsOf = (swap: Swap) =>
  swap.remove.map(({ line }) => lines.value.find((one) => one.id === line)?.gear.system ?? '')
const systems = computed(() => {
  const used = new Set(all.value.flatMap((row) => systemsOf(row.swap)))
  return (vocabulary.value?.systems ?? []).filter((one) => used.has(one.key))
})
const kinds = computed(() => [...new Set(all.value.map((row) => row.swap.kind))])
/** Only those that by themselves lose nothing that the trip asks. */
const keeps = useRouteQuery('keeps')
const keepsAll = computed({ get: () => keeps.value !== '', set: (is) => (keeps.value = is ? 'all' : '') })
const fits = (row: Row) =>
  (!keepsAll.value || losesNothing(row)) &&
  (!kind.value || row.swap.kind === kind.value) &&
  (!system.value || systemsOf(row.swap).includes(system.value))
const shown = computed(() =>
  sections.value
    .map(({ key, rows }) => ({ key, rows: rows.filter((row) => fits(row) || row.folded.some(fits)) }))
    .filter((section) => section.rows.length > 0),
)
const fan = computed(() =>
  all.value
    .filter((row) => row.saving_mg != null && row.net_minor != null && row.swap.state !== 'ruled_out')
    .map((row) => ({
      key: row.swap.id,
      name: row.swap.name,
      saving: row.saving_mg!,
      net: row.net_minor!,
      inPlan: row.inPlan,
    })),
)
const fanCard = useTemplateRef<HTMLElement>('fanCard')
const exported = () =>
  rankingRows(
    shown.value.flatMap(({ rows }) => rows),
    lines.value,
    units,
  )
const things = computed(
  () => new Set(answer.value?.swaps.flatMap((swap) => swap.remove.map(({ line }) => line))).size,
)
const reach = computed(() =>
  answer.value && target.value !== null && baseTarget(answer.value.list) !== null
    ? answer.value.base_mg - target.value
    : null,
)
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What should I change first?</h1>
      <p v-if="answer?.swaps.length">
        {{ counted(answer.swaps.length, 'swap') }} for {{ counted(things, 'thing') }}, best first. Steeper is
        better: rise is weight saved, run is money.
      </p>
      <el-button v-if="answer" class="new" type="primary" @click="edit(null)"
        >New swap <kbd>n</kbd></el-button
      >
    </div>
    <p v-if="list === ''" class="muted">Swaps belong to a list. Make one at the top left.</p>
    <Loaded
      v-else
      what="The ranking"
      :known="answer !== undefined"
      :error="error"
      :rows="10"
      @retry="refetch"
    >
      <div v-if="answer && answer.swaps.length === 0 && unavailable.length === 0" class="empty card">
        <h2>Nothing to compare yet</h2>
        <p v-if="answer.things === 0">
          Put gear on the list first:
          <RouterLink class="link" :to="stepOf(list, 'list')">what comes along?</RouterLink> Then name what
          could replace it.
        </p>
        <p v-else>
          Name one thing on the list and what could replace it: lighter, trimmed, sewn, borrowed, shared, or
          nothing at all. Kevyt ranks what each saves for the money.
        </p>
        <el-button v-if="answer.things" type="primary" @click="edit(null)">Make the first swap</el-button>
        <LightCard :list="list" :swaps="[]" class="light" @begin="(line) => edit(null, line)" />
      </div>
      <div v-else-if="answer" class="with-aside">
        <div>
          <div class="narrow">
            <el-radio-group
              :model-value="answer.list.terms.rank_by"
              size="small"
              aria-label="What ranks"
              @update:model-value="(by) => askBy({ rank_by: by as RankBy })"
            >
              <el-radio-button value="base">Base weight</el-radio-button>
              <el-radio-button value="everything">Worn and carried</el-radio-button>
            </el-radio-group>
            <el-select v-model="system" size="small" clearable placeholder="Any system" aria-label="System">
              <el-option v-for="one in systems" :key="one.key" :value="one.key" :label="one.name" />
            </el-select>
            <el-select v-model="kind" size="small" clearable placeholder="Any kind" aria-label="Kind of swap">
              <el-option v-for="one in kinds" :key="one" :value="one" :label="KINDS[one]" />
            </el-select>
            <el-checkbox
              v-model="keepsAll"
              title="Hides swaps that by themselves leave the night colder, or the list shorter of something that the trip asks, than today"
              >Keeps all the trip asks</el-checkbox
            >
            <ExportMenu :what="`Ranking of ${answer.list.name}`" :rows="exported" />
          </div>
          <RankingTable
            :sections="shown"
            :lines="lines"
            :selected="selected"
            @select="(id) => (selected = id)"
            @open="(row) => edit(row.swap)"
          />
          <section v-if="unavailable.length" class="card unavailable">
            <h2>Not possible with the list as it is</h2>
            <ul class="rows">
              <li v-for="swap in unavailable" :key="swap.id">
                <span
                  ><b>{{ swap.name }}</b> {{ swap.unavailable ? unavailableWhy(swap.unavailable) : '' }}</span
                >
                <el-button size="small" @click="edit(swap)">Open</el-button>
              </li>
            </ul>
          </section>
        </div>
        <aside aria-label="Swaps side by side">
          <section ref="fanCard" class="card">
            <div class="fan-head">
              <h2>All swaps as slopes</h2>
              <ExportMenu :what="`Swaps of ${answer.list.name}`" :drawing="() => fanCard" />
            </div>
            <Fan
              :swaps="fan"
              :unit-mg="units.system.value === 'metric' ? 1000 : 28349.523125"
              :minor-per-major="10 ** units.currency.value.decimals"
              :money="units.withSign"
              :reach="reach"
              :budget="left"
              :selected="selected"
              @select="(id) => (selected = id)"
            />
          </section>
          <section v-if="selectedRow" class="card at-hand" aria-label="The selected swap">
            <h2>{{ selectedRow.swap.name }}</h2>
            <div class="actions">
              <el-button size="small" @click="edit(selectedRow.swap)">Open</el-button>
              <el-button size="small" @click="holdSelected('pinned')">{{
                selectedRow.swap.state === 'pinned' ? 'Unpin' : 'Pin'
              }}</el-button>
              <el-button size="small" @click="holdSelected('ruled_out')">{{
                selectedRow.swap.state === 'ruled_out' ? 'Allow again' : 'Rule out'
              }}</el-button>
            </div>
          </section>
          <ProposalsCard ref="proposed" :list="list" />
          <LightCard :list="list" :swaps="answer.swaps" @begin="(line) => edit(null, line)" />
          <ChoiceCard :answer="answer" :lines="lines" :selected="selected" />
        </aside>
      </div>
    </Loaded>
    <SwapDrawer
      v-model="drawer"
      :list="list"
      :swap="opened"
      :begun="begun"
      :write="write"
      @remove="removeSwap"
      @set-state="(state) => opened && setSwapState(opened, state)"
    />
    <PastedSwaps :list="list" :text="pasted" :write="write" @close="pasted = ''" />
  </div>
</template>

<style scoped>
.light {
  margin-top: var(--s-4);
}
.narrow {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
  margin-bottom: var(--s-2);
}
.narrow :deep(.el-select) {
  width: 150px;
}
.fan-head {
  display: flex;
  justify-content: space-between;
}
.unavailable {
  margin-top: var(--s-4);
}
.unavailable ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
aside {
  display: grid;
  gap: var(--s-4);
  position: sticky;
  top: calc(var(--beam-height) + var(--s-4h));
}
.new {
  margin-left: auto;
}
.new :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1h);
}
.at-hand {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--s-3);
}
.at-hand h2 {
  margin: 0;
  min-width: 0;
  overflow-wrap: anywhere;
}
.at-hand {
  flex-wrap: wrap;
}
.actions {
  display: flex;
  flex: none;
}
.narrow :deep(.export) {
  margin-left: auto;
}
@media (max-width: 700px) {
  .narrow :deep(.el-select) {
    flex: 1 1 40%;
  }
  aside {
    position: static;
  }
}
</style>
