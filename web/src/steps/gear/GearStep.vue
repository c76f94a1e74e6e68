<script setup lang="ts">
import { computed, reactive, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Gear } from '@/api/client'
import { focusTitle } from '@/controls/focus'
import { useKeys } from '@/controls/keys'
import ExportMenu from '@/controls/ExportMenu.vue'
import Loaded from '@/controls/Loaded.vue'
import { useMessages } from '@/controls/messages'
import { useOpened, useRouteQuery } from '@/controls/route'
import { nextNeed } from '@/domain/kinds'
import { stepOf } from '@/domain/lists'
import { usePastedRows, usePasteToFiles } from '@/domain/pasted'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { ORDERS, SHOWN, useGear } from './gear'
import { gearRows } from './gearRows'
import GearDrawer from './GearDrawer.vue'
import GearTable from './GearTable.vue'
import KindsCard from './KindsCard.vue'
import QuickLine from './QuickLine.vue'
import SeveralBar from './SeveralBar.vue'

const props = defineProps<{ list: string }>()
const find = useRouteQuery('find')
const [which, order] = [useRouteQuery('which'), useRouteQuery('order')]
/** A word of the address, if it is one of these. */
const oneOf = <T extends string>(words: Record<T, string>, word: string, usual: T) =>
  word in words ? (word as T) : usual
const view = reactive({
  shown: computed({ get: () => oneOf(SHOWN, which.value, 'here'), set: (is) => (which.value = is) }),
  order: computed({ get: () => oneOf(ORDERS, order.value, 'name'), set: (is) => (order.value = is) }),
})
const {
  gear,
  error,
  refetch,
  found,
  systems,
  tags,
  unsaid,
  kits,
  vocabulary,
  change,
  removeThing,
  changeSeveral,
} = useGear(find, view)
const units = useUnits()
const { failed } = useMessages()
const router = useRouter()
usePastedRows(usePasteToFiles(() => props.list, 'none'))
const openedId = useOpened('thing')
const opened = computed(() => gear.value?.find((thing) => thing.id === openedId.value) ?? null)
const chosen = ref(new Set<string>())
const chosenThings = computed(() => found.value.filter((thing) => chosen.value.has(thing.id)))
const finder = useTemplateRef<{ focus: () => void; blur: () => void }>('finder')

/** The thing whose row has the focus. */
const atHand = () => {
  const id = document.activeElement?.closest<HTMLElement>('[data-thing]')?.dataset.thing
  return found.value.find((thing) => thing.id === id)
}
useKeys('Gear', [
  { key: '/', does: 'find gear', run: () => finder.value?.focus() },
  {
    key: 'f',
    does: 'files: import, export, back up',
    run: () => void router.push(stepOf(props.list, 'gear/files')),
  },
  {
    key: 'h',
    does: 'history: what was done, and undo',
    run: () => void router.push(stepOf(props.list, 'gear/history')),
  },
  {
    key: 'e',
    does: 'choose the thing in focus, to change several at once',
    run: () => {
      const thing = atHand()
      if (thing) choose([thing.id], !chosen.value.has(thing.id))
    },
  },
  {
    key: 'n',
    does: 'need, want or undecided, of the thing in focus',
    run: () => {
      const thing = atHand()
      if (thing) change(thing, { need: nextNeed(thing.need) }).catch(failed)
    },
  },
  { key: 'o', does: 'open the thing in focus', run: () => (openedId.value = atHand()?.id ?? '') },
])
// What is no longer shown is no longer chosen.
watch(found, (things) => {
  const shown = new Set(things.map((thing) => thing.id))
  if ([...chosen.value].some((id) => !shown.has(id))) {
    chosen.value = new Set([...chosen.value].filter((id) => shown.has(id)))
  }
})

function choose(ids: string[], on: boolean) {
  const next = new Set(chosen.value)
  for (const id of ids) {
    if (on) next.add(id)
    else next.delete(id)
  }
  chosen.value = next
}

const exported = () => gearRows(systems.value, units)
const summary = computed(() => {
  const things = found.value
  const unknown = things.filter((thing) => !thing.weight).length
  const mg = things.reduce((sum, thing) => sum + (thing.weight?.unit_mg ?? 0) * thing.count, 0)
  const paid = things.reduce((sum, thing) => sum + (thing.paid_minor ?? 0) * thing.count, 0)
  const missing =
    unknown === 0 ? '' : unknown === 1 ? ' One weight is unknown.' : ` ${unknown} weights are unknown.`
  return `${counted(things.length, 'thing')}, ${unknown ? 'at least ' : ''}${units.totalText(mg)}, ${units.moneyText(paid)} paid.${missing}`
})
</script>

<template>
  <div>
    <div class="head">
      <h1 tabindex="-1">What do I own?</h1>
      <p v-if="gear?.length">{{ summary }}</p>
      <nav class="pages" aria-label="More about gear">
        <RouterLink class="link" :to="stepOf(list, 'gear/files')">Files <kbd>f</kbd></RouterLink>
        <RouterLink class="link" :to="stepOf(list, 'gear/history')">History <kbd>h</kbd></RouterLink>
      </nav>
    </div>
    <QuickLine :list="list" />
    <Loaded what="Your gear" :known="gear !== undefined" :error="error" :rows="10" @retry="refetch">
      <template v-if="gear?.length">
        <div class="tools">
          <el-input
            ref="finder"
            v-model="find"
            class="find"
            type="search"
            clearable
            placeholder="Find"
            aria-label="Find gear"
            @keydown.esc="focusTitle"
          />
          <el-select v-model="view.shown" size="small" aria-label="Which things">
            <el-option v-for="(name, key) in SHOWN" :key="key" :value="key" :label="name" />
          </el-select>
          <el-select v-model="view.order" size="small" aria-label="Order">
            <el-option v-for="(name, key) in ORDERS" :key="key" :value="key" :label="name" />
          </el-select>
          <ExportMenu what="Gear" :rows="exported" />
          <span v-if="tags.length" class="tags">
            <el-button v-for="tag in tags.slice(0, 8)" :key="tag" size="small" @click="find = `#${tag}`">
              #{{ tag }}
            </el-button>
          </span>
        </div>
        <KindsCard v-if="unsaid.length" :things="unsaid" :change="change" :change-several="changeSeveral" />
        <SeveralBar
          v-if="chosenThings.length"
          :things="chosenThings"
          :vocabulary="vocabulary"
          :change="changeSeveral"
          @clear="chosen = new Set()"
        />
        <GearTable
          v-if="systems.length"
          :systems="systems"
          :vocabulary="vocabulary"
          :change="change"
          :chosen="chosen"
          :kits="kits"
          @choose="choose"
          @open="(thing: Gear) => (openedId = thing.id)"
          @remove="removeThing"
        />
        <p v-else-if="find" class="muted">No gear matches “{{ find }}” among {{ SHOWN[view.shown] }}.</p>
        <p v-else class="muted">Nothing among {{ SHOWN[view.shown] }}.</p>
      </template>
      <div v-else class="empty card">
        <h2>Start with the heavy few</h2>
        <p>
          Pack, shelter and sleep insulation are most of a base weight. Type these three into the line above,
          each with its weight and what you paid, and you have a figure to work on in a minute.
        </p>
        <p class="muted">
          pack 1680g 240eur &nbsp;·&nbsp; two-skin tent 1910g 320eur &nbsp;·&nbsp; sleeping bag 1120g 130eur
        </p>
        <p>
          Do you have a list already?
          <RouterLink class="link" :to="stepOf(list, 'gear/files')">Import it from a file.</RouterLink>
        </p>
      </div>
    </Loaded>
    <GearDrawer
      :thing="opened"
      :vocabulary="vocabulary"
      :change="change"
      @close="openedId = ''"
      @remove="(thing: Gear) => ((openedId = ''), removeThing(thing))"
    />
  </div>
</template>

<style scoped>
.pages {
  margin-left: auto;
  display: flex;
  gap: var(--s-4);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2) var(--s-3);
  margin-bottom: var(--s-2);
}
.tools :deep(.el-select) {
  width: 156px;
}
.tools :deep(.find) {
  width: 200px;
}
.tags :deep(.el-button) {
  margin: 0;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-1);
}
@media (max-width: 700px) {
  .tools :deep(.el-select) {
    width: calc(50% - 6px);
  }
  .tools :deep(.find) {
    width: 100%;
  }
  .tags {
    display: none;
  }
}
</style>
