<script setup lang="ts">
// A plain step for now: which gear is on the list, and how many pieces are carried, worn and used up.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Figure from '@/marks/Figure.vue'
import { vocabularyQuery } from '@/api/queries'
import { jobText } from '@/quantities/jobs'
import { useKeys } from '@/shell/keys'
import { useQuestion } from '@/shell/question'
import { useUnits } from '@/shell/units'
import { useList } from './list'
import ListTable from './ListTable.vue'
import TripDrawer from './TripDrawer.vue'

const { current, isPending, error, lines, systems, shelf, list, count, add, remove, changeTrip } = useList()
const { answer } = useQuestion()
const tripOpen = ref(false)
const { data: vocabulary } = useQuery(vocabularyQuery)
const requires = computed(() => {
  const known = new Map(vocabulary.value?.jobs.map((job) => [job.key, job]))
  return Object.entries(list.value?.requires ?? {}).map(([key, amount]) =>
    jobText(known.get(key)?.name ?? key, known.get(key)?.unit ?? 'count', amount),
  )
})
useKeys('List', [{ key: 'r', does: 'say what the trip requires', run: () => (tripOpen.value = true) }])
const units = useUnits()

const weighedKits = computed(() => answer.value?.kits.filter((kit) => kit.correction_mg !== 0) ?? [])
const unknown = computed(() => answer.value?.unknown ?? 0)
</script>

<template>
  <div>
    <div class="head">
      <h1>What comes along</h1>
      <p v-if="answer">
        {{ lines.length }} things. Base is {{ unknown ? 'at least ' : '' }}{{ units.totalText(answer.base_mg)
        }}<template v-if="unknown"
          >: {{ unknown === 1 ? 'one weight is' : `${unknown} weights are` }} unknown</template
        >.
      </p>
    </div>
    <p v-if="error" class="caution" role="alert">{{ error.message }}</p>
    <div v-else-if="!current && !isPending" class="empty card">
      <h2>No list yet</h2>
      <p>
        A list is what comes along on one trip. Make one at the top left, “New list …”; gear that you add then
        goes onto it.
      </p>
    </div>
    <div v-else class="columns">
      <section class="card shelf" aria-label="On the shelf">
        <h2>On the shelf</h2>
        <p v-if="shelf.length === 0" class="muted">
          Everything you own is on this list. <RouterLink class="link" to="/gear">Add gear</RouterLink>
        </p>
        <button v-for="thing in shelf" :key="thing.id" class="plain thing" @click="add(thing)">
          <span><span class="visually-hidden">Put on the list:</span> {{ thing.name }}</span>
          <span class="muted">{{ thing.weight ? units.tableText(thing.weight.unit_mg) : '?' }}</span>
        </button>
      </section>
      <div>
        <ListTable v-if="lines.length" :systems="systems" :count="count" @remove="remove" />
        <div v-else class="empty card">
          <h2>Nothing on this list yet</h2>
          <p>
            Click gear on the shelf to put it on the list, carried. Then change its counts: what you wear is
            not base weight.
          </p>
        </div>
      </div>
      <section v-if="answer" class="card sums" aria-label="Sums">
        <div class="rows">
          <div><span>Base weight</span><Figure v-bind="units.total(answer.base_mg)" size="large" /></div>
          <div><span>Pack, with what is used up</span><Figure v-bind="units.total(answer.pack_mg)" /></div>
          <div><span>Everything on me</span><Figure v-bind="units.total(answer.everything_mg)" /></div>
        </div>
        <p v-for="kit in weighedKits" :key="kit.name" class="muted">
          {{ kit.name }} counts as it was weighed together: {{ units.tableText(kit.weighed_mg) }},
          {{ units.signed(kit.correction_mg) }} against its parts.
        </p>
        <p class="muted">Base weight is what is carried, without food, water, gas and what is worn.</p>
        <div class="trip">
          <h2>The trip requires</h2>
          <p v-if="requires.length">{{ requires.join(', ') }}</p>
          <p v-else class="muted">Nothing said yet. What it requires, no plan will drop.</p>
          <button class="plain link" @click="tripOpen = true">Change</button>
        </div>
      </section>
    </div>
    <TripDrawer v-model="tripOpen" :list="list" :save="changeTrip" />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr) 260px;
  gap: 22px;
  align-items: start;
}
.shelf,
.sums {
  position: sticky;
  top: 92px;
  max-height: calc(100vh - 112px);
  overflow: auto;
}
.shelf {
  padding: 12px 0;
}
.shelf h2,
.shelf p {
  padding: 0 12px;
}
.thing {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  width: 100%;
  padding: 6px 12px;
  border-top: 1px solid var(--line);
}
.thing:hover {
  background: var(--lake-soft);
}
.trip {
  margin-top: var(--s-4);
  padding-top: var(--s-3);
  border-top: 1px solid var(--line);
}
.sums p {
  margin-top: var(--s-3);
  font-size: 13px;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .shelf,
  .sums {
    position: static;
    max-height: none;
  }
  .sums {
    order: -1;
  }
  .shelf {
    order: 1;
  }
}
</style>
