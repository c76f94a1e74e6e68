<script setup lang="ts">
// A trip looked back on: its list as it was, each thing used or not, in one pass down; what was met, and what was used up.
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import type { TripSaid, TripThing } from '@/api/client'
import { gearQuery, vocabularyQuery } from '@/api/queries'
import { useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { reason } from '@/controls/messages'
import TypedField from '@/controls/TypedField.vue'
import { stepOf } from '@/domain/lists'
import { useUnits } from '@/domain/units'
import { dayOfTrip } from '@/quantities/dates'
import SaidRow from './SaidRow.vue'
import { useTrip } from './trips'
import WalkedCard from './WalkedCard.vue'

const props = defineProps<{ list: string; trip: string }>()
const units = useUnits()
const { data, error, refetch, change, sayOf, wish, unwish } = useTrip(() => props.trip)
const { data: gear } = useQuery(gearQuery)
const { data: vocabulary } = useQuery(vocabularyQuery)
const record = computed(() => data.value?.trip)

/** What came along by its system, and what stayed home or was wished for. */
const groups = computed(() => {
  const things = data.value?.things ?? []
  const names = new Map(vocabulary.value?.systems.map(({ key, name }) => [key, name]))
  const along = new Map<string, TripThing[]>()
  for (const thing of things.filter(({ pieces }) => pieces > 0)) {
    const name = names.get(thing.system) ?? thing.system
    along.set(name, [...(along.get(name) ?? []), thing])
  }
  const home = things.filter(({ pieces }) => pieces === 0)
  const order = [...names.values()]
  const bySystem = [...along].sort(([one], [other]) => order.indexOf(one) - order.indexOf(other))
  return [...bySystem, ...(home.length ? [['Stayed home, or not owned', home] as [string, TripThing[]]] : [])]
})
const along = computed(() => data.value?.things.filter(({ pieces }) => pieces > 0) ?? [])
const judged = computed(() => along.value.filter(({ used }) => used != null).length)

const rows = () => [...document.querySelectorAll<HTMLElement>('[data-said]')]
const current = () =>
  (document.activeElement as HTMLElement | null)?.closest<HTMLElement>('[data-said]') ?? null
/** The row so many after the one that has the focus; the first that nothing is said of where none has. */
function go(by: number) {
  const all = rows()
  const at = current()
  if (at) all[Math.min(Math.max(0, all.indexOf(at) + by), all.length - 1)]?.focus()
  else (all.find((row) => row.dataset.said === '') ?? all[0])?.focus()
}
function said(thing: TripThing, what: TripSaid) {
  void sayOf(thing, what)
  if ('used' in what && what.used != null) go(1)
}
useKeys('Trip', [
  { key: 'ArrowDown', does: 'the next thing; ↑ the one before', run: () => go(current() ? 1 : 0) },
  { key: 'u', does: 'used, and on to the next', run: () => go(0) },
  { key: 'n', does: 'not used, and on to the next', run: () => go(0) },
  { key: 'f', does: 'failed; c too cold, h too heavy, l lent, o lost, w wished for', run: () => go(0) },
  { key: 'Enter', does: 'a line of words for the thing', run: () => go(0) },
])

async function saveNights(text: string) {
  if (!/^\d+$/.test(text.trim()))
    throw new Error(`“${text}” is not read as nights. Type a whole number, from 0 to 365.`)
  return change({ nights: Number(text) })
}

const wished = ref('')
const refusal = ref('')
const offered = (text: string) =>
  (gear.value ?? [])
    .filter(({ name }) => name.toLowerCase().includes(text.trim().toLowerCase()))
    .slice(0, 6)
    .map(({ id, name }) => ({ value: name, id }))
async function addWish() {
  const name = wished.value.trim()
  refusal.value = ''
  if (name === '') return
  const owned = gear.value?.find((thing) => thing.name.toLowerCase() === name.toLowerCase())
  try {
    await wish(owned ? { gear: owned.id } : { name })
    wished.value = ''
  } catch (problem) {
    refusal.value = reason(problem)
  }
}
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">{{ record?.name ?? 'Trip' }}</h1>
      <p v-if="record">
        {{ dayOfTrip(record.starts_on)
        }}<template v-if="record.base_mg != null"
          >, {{ units.totalText(record.base_mg) }} base weight</template
        ><template v-if="record.kept_at">. {{ judged }} of {{ along.length }} reviewed</template>.
      </p>
      <RouterLink class="link" :to="stepOf(props.list, 'trips')">All trips</RouterLink>
    </div>
    <!-- Named groups that come later would move the row under the hand. -->
    <Loaded
      what="The trip"
      :known="data !== undefined && vocabulary !== undefined"
      :error="error"
      :rows="12"
      @retry="refetch"
    >
      <div v-if="data && record" class="with-aside">
        <section class="card" aria-label="What was used">
          <template v-if="!record.kept_at">
            <h2>Still to come</h2>
            <p class="muted">
              On the day, its list is kept as it is: under
              <RouterLink class="link" :to="stepOf(record.list ?? props.list, 'pack')">Pack</RouterLink>, or
              in the table of trips. Then it stands here, to be reviewed.
            </p>
          </template>
          <template v-else>
            <p class="muted keys">
              <kbd>u</kbd> used <kbd>n</kbd> not used <kbd>f</kbd> failed <kbd>c</kbd> too cold
              <kbd>h</kbd> too heavy <kbd>l</kbd> lent <kbd>o</kbd> lost <kbd>w</kbd> wished for
              <kbd>Enter</kbd> words <kbd>↑</kbd><kbd>↓</kbd>
            </p>
            <div v-for="[system, things] in groups" :key="system" role="group" :aria-label="system">
              <h3>{{ system }}</h3>
              <SaidRow
                v-for="thing in things"
                :key="thing.id"
                :thing="thing"
                @said="said(thing, $event)"
                @gone="unwish(thing.id, thing.name)"
              />
            </div>
            <el-form class="wish" @submit.prevent="addWish">
              <el-form-item label="What did you wish for?" :error="refusal">
                <div class="pair">
                  <el-autocomplete
                    v-model="wished"
                    name="wish"
                    maxlength="120"
                    :fetch-suggestions="offered"
                    :trigger-on-focus="false"
                    placeholder="pillow, waterproof mitts"
                    aria-label="What did you wish for?"
                  />
                  <el-button native-type="submit" :disabled="wished.trim() === ''">Note it</el-button>
                </div>
              </el-form-item>
            </el-form>
          </template>
        </section>
        <aside aria-label="About the trip">
          <section class="card" aria-label="The trip">
            <h2>The trip</h2>
            <el-form label-position="top" size="small" @submit.prevent>
              <TypedField label="Name" :text="record.name" :save="(name) => change({ name })" />
              <div class="pair">
                <el-form-item label="First day">
                  <el-date-picker
                    :model-value="record.starts_on"
                    value-format="YYYY-MM-DD"
                    :clearable="false"
                    @update:model-value="(starts_on: string) => change({ starts_on })"
                  />
                </el-form-item>
                <TypedField label="Nights" :text="String(record.nights)" :save="saveNights" />
              </div>
              <TypedField
                label="With"
                :text="record.people"
                placeholder="alone"
                :save="(people) => change({ people })"
              />
              <TypedField label="In a line" :text="record.note" :save="(note) => change({ note })" />
            </el-form>
          </section>
          <WalkedCard v-if="record.kept_at" :trip="record" :change="change" />
        </aside>
      </div>
    </Loaded>
  </div>
</template>

<style scoped>
h3 {
  margin: var(--s-3) 0 var(--s-0h);
  font-size: var(--text-m);
  font-weight: 650;
  border-bottom: 1px solid var(--line-strong);
}
aside {
  display: grid;
  gap: var(--s-3);
  align-content: start;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--s-2);
  width: 100%;
}
.pair :deep(.el-date-editor) {
  width: 100%;
}
.wish {
  margin-top: var(--s-4);
}
.keys {
  font-size: var(--text-s);
}
@media (max-width: 700px) {
  .keys {
    display: none;
  }
}
</style>
