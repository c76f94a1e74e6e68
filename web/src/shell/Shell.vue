<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { useStorage } from '@vueuse/core'
import { computed, nextTick, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { readAhead } from '@/api/queries'
import { resetToSignIn } from '@/api/session'
import { focusTitle } from '@/controls/focus'
import { ANYWHERE, useKeyListener, useKeys } from '@/controls/keys'
import Loaded from '@/controls/Loaded.vue'
import { useMessages, wordFiguresBy } from '@/controls/messages'
import { useDialog } from '@/controls/route'
import { restoredAs, stepOf, useLists } from '@/domain/lists'
import { figureWords } from '@/domain/refusals'
import { useUnits } from '@/domain/units'
import AccountMenu from './AccountMenu.vue'
import NetworkStrip from './NetworkStrip.vue'
import Beam from './Beam.vue'
import Finder from './Finder.vue'
import FirstVisit from './FirstVisit.vue'
import { howItWorks } from './howItWorks'
import Messages from './Messages.vue'
import StepHelp from './StepHelp.vue'
import SignInAgain from './SignInAgain.vue'

// The steps are numbered as the work goes.
const steps = [
  { number: '1', name: 'Weigh', step: 'weigh' },
  { number: '2', name: 'Gear', step: 'gear' },
  { number: '3', name: 'List', step: 'list' },
  { number: '4', name: 'Swaps', step: 'swaps' },
  { number: '5', name: 'Plan', step: 'plan' },
  { number: '6', name: 'Pack', step: 'pack' },
  { number: '7', name: 'Trips', step: 'trips' },
  { number: '8', name: 'Year', step: 'year' },
]

const route = useRoute()
const router = useRouter()
const help = useDialog('help')
const finding = useDialog('find')
const how = computed(() => howItWorks(route.path))
const { undoLast, redoLast } = useMessages()
const units = useUnits()
wordFiguresBy((figure) => figureWords(figure, units))
const list = computed(() => (typeof route.params.list === 'string' ? route.params.list : ''))
const { lists, current, error, refetch } = useLists(list)
const to = (step: string) => stepOf(list.value, step)

useKeyListener()
useKeys(ANYWHERE, [
  ...steps.map(({ number, name, step }) => ({
    key: number,
    does: `go to ${name}`,
    run: () => void router.push(to(step)),
  })),
  { key: 'z', does: 'undo the last change', run: () => void undoLast() },
  { key: 'Z', does: 'do again what was undone', run: () => void redoLast() },
  { key: '?', does: 'how this step works, and its keys', run: () => (help.value = !help.value) },
])

// An address that names no list leads to the one that was looked at last.
const last = useStorage('kevyt-list', '')
watch(
  [list, lists],
  () => {
    if (current.value) last.value = current.value.id
    else if (list.value === '' && lists.value?.length) {
      const chosen = lists.value.find(({ id }) => id === last.value) ?? lists.value[0]!
      void router.replace({ path: stepOf(chosen.id, route.path.slice(1)), query: route.query })
    }
  },
  { immediate: true },
)
watch(lists, (now = [], before = []) => {
  const gone = current.value ? undefined : before.find(({ id }) => id === list.value)
  const anew = gone && restoredAs(gone, before, now)
  if (anew) void router.replace({ path: route.path.replace(gone.id, anew.id), query: route.query })
})
// Once somebody looks at a list for a while, the rest of it is read for where there is no network.
const READ_AHEAD_MS = 6_000
const queries = useQueryClient()
watch(
  () => current.value?.id,
  (id, _, cleanUp) => {
    if (!id || current.value?.of || !import.meta.env.PROD) return
    const due = setTimeout(() => void readAhead(queries, id), READ_AHEAD_MS)
    cleanUp(() => clearTimeout(due))
  },
  { immediate: true },
)
const isGone = computed(() => list.value !== '' && lists.value !== undefined && !current.value)

const isAnothers = computed(
  () => current.value?.of !== undefined && [to('swaps'), to('plan')].includes(route.path),
)

watch(
  [() => route.meta.title, () => current.value?.name],
  ([title, name]) => (document.title = [title, name, 'Kevyt'].filter(Boolean).join(' · ')),
  { immediate: true },
)
// A step begins at its title, for a screen reader and for whoever goes on with Tab.
watch(
  () => route.path,
  async () => {
    await nextTick()
    focusTitle()
  },
)
</script>

<template>
  <div>
    <nav aria-label="Steps">
      <div class="mark">
        <svg width="34" height="26" viewBox="0 0 34 26" aria-hidden="true">
          <path
            d="M2 24H32V3Z"
            fill="none"
            stroke="currentColor"
            stroke-width="2.5"
            stroke-linejoin="round"
          />
        </svg>
        <b>kevyt</b>
      </div>
      <RouterLink
        v-for="{ number, name, step } in steps"
        :key="step"
        :to="to(step)"
        :class="{ on: route.path.startsWith(to(step)) }"
        :aria-current="route.path.startsWith(to(step)) ? 'page' : undefined"
      >
        <i>{{ number }}</i>{{ name }}
      </RouterLink>
      <el-button link class="entry last wide-only" @click="finding = true"><i>Ctrl k</i>Find</el-button>
      <el-button link class="entry wide-only" @click="help = true"><i>?</i>Help</el-button>
      <AccountMenu />
    </nav>
    <Beam :list="list" />
    <main>
      <NetworkStrip />
      <Loaded what="Your lists" :known="lists !== undefined" :error="error" @retry="refetch">
        <el-empty v-if="isGone" description=" ">
          <h1 tabindex="-1">This list is not here any more</h1>
          <p class="muted">It was removed, or it belongs to somebody else.</p>
          <p v-for="one in lists" :key="one.id">
            <RouterLink class="link" :to="stepOf(one.id, 'list')">{{ one.name }}</RouterLink>
          </p>
        </el-empty>
        <el-empty v-else-if="isAnothers" description=" ">
          <h1 tabindex="-1">{{ current?.of }} plans this list</h1>
          <p class="muted">
            Your gear on it is yours to change, on
            <RouterLink class="link" :to="to('list')">List</RouterLink>. To plan swaps of your own, copy the
            list at the top left.
          </p>
        </el-empty>
        <template v-else>
          <FirstVisit :how="how" />
          <RouterView :key="list" />
          <p v-if="how" class="help">
            <el-button link type="primary" @click="help = true">How {{ how.name }} works</el-button>
          </p>
        </template>
      </Loaded>
      <!-- Within the main part, where the heads of dialogs are no second banner of the page. -->
      <StepHelp v-model="help" :how="how" />
      <Finder v-model="finding" :list="list" :pages="steps" />
      <SignInAgain @leave="resetToSignIn" />
    </main>
    <Messages />
  </div>
</template>

<style scoped>
nav {
  position: fixed;
  left: 0;
  top: 0;
  bottom: 0;
  width: var(--rail-width);
  z-index: 11;
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  flex-direction: column;
  padding: var(--s-3h) 0 var(--s-2h);
}
.mark {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: var(--s-0h);
  margin-bottom: var(--s-4);
}
.mark b {
  font-size: var(--text);
  letter-spacing: 0.06em;
  font-weight: 600;
}
nav a,
nav :deep(.entry),
nav :deep(.entry > span) {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 1px;
}
nav :deep(.entry) {
  margin: 0;
  height: auto;
  border-radius: 0;
}
nav a,
nav :deep(.entry) {
  padding: var(--s-2) 0;
  width: 100%;
  line-height: 1.35;
  font-weight: 400;
  color: var(--rail-2);
  font-size: var(--text-m);
  text-decoration: none;
  border-left: 3px solid transparent;
  border-right: 3px solid transparent;
}
nav a:hover,
nav :deep(.entry:hover),
nav :deep(.entry:focus-visible) {
  color: var(--rail-ink);
}
nav :is(a, :deep(.entry)):focus-visible {
  outline-color: #e3a24a;
  outline-offset: -2px;
}
nav i,
nav :deep(i) {
  font-style: normal;
  font-size: var(--text-xs);
}
nav a.on {
  color: var(--rail-ink);
  border-left-color: #e3a24a;
  background: rgb(255 255 255 / 6%);
  font-weight: 600;
}
.last {
  margin-top: auto;
}
.help {
  margin: var(--s-5) 0 0;
}
main {
  margin-left: var(--rail-width);
  padding: calc(var(--beam-height) + var(--s-4h)) var(--s-5) var(--s-5);
}
@media (max-width: 700px) {
  nav {
    top: auto;
    right: 0;
    width: auto;
    flex-direction: row;
    padding: 0;
    overflow-x: auto;
    scrollbar-width: none;
  }
  .mark,
  nav :deep(.entry.wide-only) {
    display: none;
  }
  /* Eight steps and the account side by side. */
  nav a,
  nav :deep(.entry) {
    flex: 1 0 44px;
    width: auto;
    min-width: 44px;
    margin-inline: -0.4px;
    font-size: var(--text-xs);
    border-left-width: 0;
    border-right-width: 0;
  }
  nav a.on {
    box-shadow: inset 0 3px #e3a24a;
  }
  main {
    margin-left: 0;
    padding: calc(var(--beam-height) + var(--s-1)) var(--s-3) calc(var(--beam-height) + var(--s-3));
  }
}
</style>
