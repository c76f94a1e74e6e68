<script setup lang="ts">
// Finds gear, lists, swaps, trips, pages and what can be done, and goes there.
import { useQuery } from '@tanstack/vue-query'
import { useEventListener } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { gearQuery, lessonsQuery, planQuery } from '@/api/queries'
import { useMessages } from '@/controls/messages'
import { stepOf, useLists } from '@/domain/lists'
import { useDark } from './dark'
import { found, indexed, type Findable } from './finder'

const props = defineProps<{ list: string; pages: { name: string; step: string }[] }>()
const open = defineModel<boolean>({ required: true })
const router = useRouter()
const { undoLast, redoLast } = useMessages()
const { toggle } = useDark()
const { lists, current } = useLists(() => props.list)
const { data: gear } = useQuery(computed(() => ({ ...gearQuery, enabled: open.value })))
const { data: lessons } = useQuery(computed(() => ({ ...lessonsQuery, enabled: open.value })))
const { data: plan } = useQuery(
  computed(() => ({
    ...planQuery(props.list),
    enabled: open.value && current.value !== undefined && !current.value.of,
  })),
)
const MOST = 12
const typed = ref('')
const at = ref(0)
const field = useTemplateRef<{ focus: () => void }>('field')

const PAGES = [
  { name: 'Files: import, export, back up', step: 'gear/files' },
  { name: 'History', step: 'gear/history' },
  { name: 'Trip: days, weather, water', step: 'list/trip' },
  { name: 'Together: who walks along', step: 'list/together' },
  { name: 'Compare lists', step: 'list/compare' },
]
// What was opened to find something is not where Back goes to.
const to =
  (path: string, query: Record<string, string> = {}) =>
  () =>
    void router.replace({ path, query })
/** Does something here. */
const here = (act: () => void) => () => {
  open.value = false
  act()
}
const all = computed<Findable[]>(() => [
  ...[...props.pages, ...PAGES].map(({ name, step }) => ({
    name,
    sort: 'page',
    go: to(stepOf(props.list, step)),
  })),
  { name: 'Undo', sort: 'action', words: 'take back', go: here(() => void undoLast()) },
  { name: 'Redo', sort: 'action', words: 'do again', go: here(() => void redoLast()) },
  { name: 'Light or dark', sort: 'action', words: 'colours night', go: here(toggle) },
  { name: 'New swap', sort: 'action', go: to(stepOf(props.list, 'swaps'), { swap: 'new' }) },
  ...(lists.value ?? []).map(({ id, name }) => ({ name, sort: 'list', go: to(stepOf(id, 'list')) })),
  ...(gear.value ?? []).map(({ id, name, tags, kept_at, note }) => ({
    name,
    sort: 'gear',
    words: [...(tags ?? []), kept_at, note].join(' '),
    go: to(stepOf(props.list, 'gear'), { thing: id }),
  })),
  ...(plan.value?.swaps ?? []).map(({ id, name }) => ({
    name,
    sort: 'swap',
    go: to(stepOf(props.list, 'swaps'), { swap: id }),
  })),
  ...(lessons.value?.trips ?? []).map(({ trip: { id, name, starts_on } }) => ({
    name,
    sort: 'trip',
    words: starts_on,
    go: to(stepOf(props.list, `trips/${id}`)),
  })),
])
const index = computed(() => (open.value ? indexed(all.value) : []))
const shown = computed(() => found(index.value, typed.value, MOST))
watch(shown, () => (at.value = 0))
watch(open, (is) => is && (typed.value = ''))
useEventListener('keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey || event.key.toLowerCase() !== 'k')
    return
  event.preventDefault()
  open.value = !open.value
})

function step(by: number) {
  at.value = Math.min(Math.max(0, at.value + by), shown.value.length - 1)
}
function go(one: Findable | undefined) {
  one?.go()
}
</script>

<template>
  <el-dialog
    v-model="open"
    title="Find"
    width="min(35rem, 94vw)"
    top="12vh"
    :z-index="3100"
    @open-auto-focus="field?.focus()"
    @opened="field?.focus()"
  >
    <el-input
      ref="field"
      v-model="typed"
      size="large"
      placeholder="gear, list, swap, trip, page or action"
      aria-label="What to find"
      role="combobox"
      aria-controls="found"
      aria-expanded="true"
      :aria-activedescendant="shown.length ? `found-${at}` : undefined"
      autocomplete="off"
      @keydown.down.prevent="step(1)"
      @keydown.up.prevent="step(-1)"
      @keydown.enter.prevent="go(shown[at])"
    />
    <ul id="found" role="listbox" aria-label="Found">
      <!-- Keys move within the field above. -->
      <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events -->
      <li
        v-for="(one, place) in shown"
        :id="`found-${place}`"
        :key="`${one.sort} ${one.name} ${place}`"
        role="option"
        tabindex="-1"
        :aria-selected="place === at"
        :class="{ at: place === at }"
        @mousemove="at = place"
        @click="go(one)"
      >
        <span>{{ one.name }}</span><small class="muted">{{ one.sort }}</small>
      </li>
    </ul>
    <p v-if="!shown.length" class="muted">Nothing is called “{{ typed }}”.</p>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: var(--s-2) 0 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: var(--s-3);
  padding: var(--s-2);
  border-radius: var(--radius);
  cursor: pointer;
}
li span {
  min-width: 0;
  overflow-wrap: anywhere;
}
li.at {
  background: var(--spruce-soft);
}
@media (pointer: coarse) {
  li {
    min-height: 44px;
    align-items: center;
  }
}
</style>
