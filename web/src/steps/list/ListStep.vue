<script setup lang="ts">
// Which gear is on the list, and how many pieces are carried, worn and used up.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { vocabularyQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { stepOf } from '@/domain/lists'
import { useQuestion } from '@/domain/question'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
import { jobName, jobText } from '@/quantities/jobs'
import { useList } from './list'
import ListTable from './ListTable.vue'
import TripDrawer from './TripDrawer.vue'

const props = defineProps<{ list: string }>()
const {
  error,
  refetch,
  lines,
  systems,
  shelf,
  list: packList,
  count,
  add,
  remove,
  changeTrip,
} = useList(() => props.list)
const { answer } = useQuestion(() => props.list)
const tripOpen = ref(false)
const find = ref('')
const { data: vocabulary } = useQuery(vocabularyQuery)
const requires = computed(() => {
  const known = new Map(vocabulary.value?.jobs.map((job) => [job.key, job]))
  return Object.entries(packList.value?.requires ?? {}).map(([key, amount]) =>
    jobText(jobName(key, known), known.get(key)?.unit ?? 'count', amount),
  )
})
const found = computed(() => {
  const words = find.value.trim().toLowerCase().split(/\s+/)
  return shelf.value.filter((thing) => words.every((word) => thing.name.toLowerCase().includes(word)))
})
useKeys('List', [
  { key: 'r', does: 'say what the trip requires', run: () => (tripOpen.value = true) },
  {
    key: '/',
    does: 'find gear on the shelf',
    run: () => document.querySelector<HTMLElement>('.shelf input')?.focus(),
  },
])
const units = useUnits()

const weighedKits = computed(() => answer.value?.kits.filter((kit) => kit.correction_mg !== 0) ?? [])
const unknown = computed(() => answer.value?.unknown ?? 0)
/** Enter puts the first that is found on the list. */
function enter() {
  const first = found.value[0]
  if (find.value.trim() === '' || !first) return
  void add(first)
  find.value = ''
}
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What comes along?</h1>
      <p v-if="answer">
        {{ counted(lines.length, 'thing') }}. Base weight is {{ unknown ? 'at least ' : ''
        }}{{ units.totalText(answer.base_mg)
        }}<template v-if="unknown"
          >: {{ unknown === 1 ? 'one weight is' : `${unknown} weights are` }} unknown</template
        >.
      </p>
    </div>
    <div v-if="list === ''" class="empty card">
      <h2>No list yet</h2>
      <p>
        A list is what comes along on one trip. Make one at the top left, “New list …”; gear that you add then
        goes onto it.
      </p>
    </div>
    <Loaded v-else what="The list" :known="packList !== undefined" :error="error" :rows="10" @retry="refetch">
      <div class="columns">
        <section class="card shelf" aria-label="On the shelf">
          <h2>On the shelf</h2>
          <p v-if="shelf.length === 0" class="muted">
            Everything you own is on this list.
            <RouterLink class="link" :to="stepOf(list, 'gear')">Add gear</RouterLink>
          </p>
          <form v-else @submit.prevent="enter">
            <el-input
              v-model="find"
              size="small"
              type="search"
              clearable
              placeholder="Find, then Enter"
              aria-label="Find gear on the shelf"
            />
          </form>
          <p v-if="find && !found.length" class="muted">No gear matches “{{ find }}”.</p>
          <el-button v-for="thing in found" :key="thing.id" link class="thing" @click="add(thing)">
            <span class="visually-hidden">Put on the list: </span>
            <span class="what">{{ thing.name }}</span>
            <span class="muted">{{ thing.weight ? units.tableText(thing.weight.unit_mg) : '?' }}</span>
          </el-button>
        </section>
        <div>
          <ListTable v-if="lines.length" :systems="systems" :count="count" @remove="remove" />
          <div v-else class="empty card">
            <h2>Nothing on this list yet</h2>
            <p v-if="shelf.length">
              Click gear on the shelf to put it on the list, carried. Then change its counts: what you wear is
              not base weight.
            </p>
            <p v-else>
              <RouterLink class="link" :to="stepOf(list, 'weigh')">Start with the heavy few</RouterLink>, or
              <RouterLink class="link" :to="stepOf(list, 'gear/files')">import a list from a file</RouterLink
              >.
            </p>
          </div>
        </div>
        <section v-if="answer" class="card sums" aria-label="Sums">
          <div class="rows">
            <div><span>Base weight</span><Figure v-bind="units.total(answer.base_mg)" size="large" /></div>
            <div><span>Pack with food, water, fuel</span><Figure v-bind="units.total(answer.pack_mg)" /></div>
            <div><span>Total with worn</span><Figure v-bind="units.total(answer.everything_mg)" /></div>
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
            <el-button link type="primary" @click="tripOpen = true">Change</el-button>
          </div>
        </section>
      </div>
    </Loaded>
    <TripDrawer v-model="tripOpen" :list="packList" :save="changeTrip" />
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
.shelf p,
.shelf form {
  padding: 0 12px;
}
.shelf form {
  margin-bottom: var(--s-2);
}
.shelf :deep(.thing) {
  display: flex;
  width: 100%;
  height: auto;
  margin: 0;
  padding: 6px 12px;
  border: 0;
  border-top: 1px solid var(--line);
  border-radius: 0;
  font-weight: 400;
  color: var(--ink);
}
.shelf :deep(.thing > span) {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  width: 100%;
}
.shelf .what {
  white-space: normal;
  text-align: left;
  line-height: 1.25;
  min-width: 0;
  overflow-wrap: anywhere;
}
.shelf :deep(.thing:hover) {
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
