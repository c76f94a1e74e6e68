<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Swap } from '@/api/client'
import { listQuery } from '@/api/queries'
import Fan from '@/marks/Fan.vue'
import { useHold } from '@/shell/hold'
import { useKeys } from '@/shell/keys'
import { useQuestion } from '@/shell/question'
import { useUnits } from '@/shell/units'
import ChoiceCard from './ChoiceCard.vue'
import RankingTable from './RankingTable.vue'
import SwapDrawer from './SwapDrawer.vue'
import { useSwaps, type Row } from './swaps'

const { answer, error, rows, sections, unavailable, write, removeSwap } = useSwaps()
const { id, target, budget } = useQuestion()
const { data: full } = useQuery(computed(() => ({ ...listQuery(id.value), enabled: id.value !== '' })))
const lines = computed(() => full.value?.lines ?? [])
const units = useUnits()
const hold = useHold()

const selected = ref<number | null>(null)
const opened = ref<Swap | null>(null)
const drawer = ref(false)

function edit(swap: Swap | null) {
  opened.value = swap
  drawer.value = true
}

useKeys('Swaps', [
  { key: 'n', does: 'new swap', run: () => edit(null) },
  // These two act on the row that has the focus; the table handles them.
  { key: 'p', does: 'pin the swap at hand, or let it go', run: () => {} },
  { key: 'x', does: 'rule the swap at hand out, or back in', run: () => {} },
])

const fan = computed(() =>
  rows.value
    .flatMap((row) => [row, ...row.folded])
    .filter((row) => row.saving_mg != null && row.net_minor != null && row.swap.state !== 'ruled_out')
    .map((row) => ({
      key: row.at,
      name: row.swap.name,
      saving: row.saving_mg!,
      net: row.net_minor!,
      inPlan: row.inPlan,
    })),
)
const things = computed(
  () => new Set(answer.value?.swaps.flatMap((swap) => swap.remove.map(({ line }) => line))).size,
)
const reach = computed(() =>
  answer.value && target.value !== null ? answer.value.base_mg - target.value : null,
)
const selectedRow = computed(() =>
  rows.value.flatMap((row) => [row, ...row.folded]).find((row) => row.at === selected.value),
)
const pin = (row: Row) => hold(row.swap, 'pinned')
const rule = (row: Row) => hold(row.swap, 'ruled_out')
</script>

<template>
  <div>
    <div class="head">
      <h1>What to change first</h1>
      <p v-if="answer?.swaps.length">
        {{ answer.swaps.length }} swaps for {{ things }} things, best first. Steeper is better: rise is grams
        saved, run is money.
      </p>
      <el-button v-if="answer" class="new" type="primary" @click="edit(null)"
        >New swap <kbd>n</kbd></el-button
      >
    </div>
    <p v-if="error" class="caution" role="alert">{{ error.message }}</p>
    <div v-else-if="answer && answer.swaps.length === 0" class="empty card">
      <h2>Nothing to compare yet</h2>
      <p v-if="answer.things === 0">
        Put gear on the list first: <RouterLink class="link" to="/list">what comes along?</RouterLink> Then
        name what could replace it.
      </p>
      <p v-else>
        Name one thing on the list and what could stand in for it: lighter, cut down, sewn, borrowed, shared,
        or nothing at all. Kevyt ranks what each saves for the money.
      </p>
      <el-button v-if="answer.things" type="primary" @click="edit(null)">Make the first swap</el-button>
    </div>
    <div v-else-if="answer" class="with-aside">
      <div>
        <RankingTable
          :sections="sections"
          :lines="lines"
          :selected="selected"
          @select="(at) => (selected = at)"
          @open="(row) => edit(row.swap)"
          @pin="pin"
          @rule="rule"
        />
        <section v-if="unavailable.length" class="card unavailable">
          <h2>Can’t be made as the list stands</h2>
          <ul class="rows">
            <li v-for="swap in unavailable" :key="swap.id">
              <span
                ><b>{{ swap.name }}</b> {{ swap.unavailable }}</span
              >
              <el-button size="small" @click="edit(swap)">Change</el-button>
            </li>
          </ul>
        </section>
      </div>
      <aside>
        <section class="card">
          <h2>The fan</h2>
          <Fan
            :swaps="fan"
            :unit-mg="units.system.value === 'metric' ? 1000 : 28349.523125"
            :minor-per-major="10 ** units.currency.value.decimals"
            :money-sign="units.money(0).unit"
            :reach="reach"
            :budget="budget"
            :selected="selected"
            @select="(at) => (selected = at)"
          />
        </section>
        <section v-if="selectedRow" class="card at-hand" aria-label="The swap at hand">
          <h2>{{ selectedRow.swap.name }}</h2>
          <div class="actions">
            <el-button size="small" @click="edit(selectedRow.swap)">Change</el-button>
            <el-button size="small" @click="pin(selectedRow)">{{
              selectedRow.swap.state === 'pinned' ? 'Let it go' : 'Pin'
            }}</el-button>
            <el-button size="small" @click="rule(selectedRow)">{{
              selectedRow.swap.state === 'ruled_out' ? 'Back in' : 'Rule out'
            }}</el-button>
          </div>
        </section>
        <ChoiceCard :answer="answer" :lines="lines" :selected="selected" />
      </aside>
    </div>
    <SwapDrawer v-model="drawer" :swap="opened" :write="write" @remove="removeSwap" />
  </div>
</template>

<style scoped>
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
  top: 92px;
}
.new {
  margin-left: auto;
}
.new :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: 6px;
}
.at-hand {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--s-3);
}
.at-hand h2 {
  margin: 0;
}
.actions {
  display: flex;
  flex: none;
}
</style>
