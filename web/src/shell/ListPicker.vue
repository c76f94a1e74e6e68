<script setup lang="ts">
// Which list is at hand; a new one, another name, or none of it.
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, unwrap, unwrapChange } from '@/api/client'
import { useChange, useCacheUpdates, useUndo } from '@/api/changes'
import { reason, useMessages } from '@/controls/messages'
import { useOpened } from '@/controls/route'
import { stepOf, useLists } from '@/domain/lists'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { temperature } from '@/quantities/measures'

const props = defineProps<{ list: string }>()
const { lists, current } = useLists(() => props.list)
const route = useRoute()
const router = useRouter()
const { done, failed } = useMessages()
const undo = useUndo()
const queries = useQueryClient()
const cache = useCacheUpdates()

const units = useUnits()
const NAMINGS = ['new', 'rename', 'copy'] as const
const opened = useOpened('open')
const naming = computed({
  get: () => NAMINGS.find((one) => `${one}-list` === opened.value) ?? null,
  set: (what) => (opened.value = what ? `${what}-list` : ''),
})
const name = ref('')
const refusal = ref('')
const field = useTemplateRef<{ focus: () => void; select: () => void }>('field')

const add = useChange(
  (name: string) => unwrapChange(api.POST('/api/lists', { body: { name } })),
  (cache, made) => cache.list(made.value),
)
const rename = useChange(
  (name: string) =>
    unwrapChange(
      api.PATCH('/api/lists/{id}', {
        params: {
          path: { id: props.list },
          query: { version: cache.newestList(props.list)?.version ?? 0 },
        },
        body: { name },
      }),
    ),
  (cache, changed) => cache.list(changed.value),
)
const copy = useChange(
  (name: string) =>
    unwrapChange(
      api.POST('/api/lists/{id}/copies', { params: { path: { id: props.list } }, body: { name } }),
    ),
  (cache, made) => cache.list(made.value),
)
const archive = useChange(
  (archived: boolean) =>
    unwrapChange(
      api.PATCH('/api/lists/{id}', {
        params: { path: { id: props.list }, query: { version: cache.newestList(props.list)?.version ?? 0 } },
        body: { archived },
      }),
    ),
  (cache, changed) => cache.list(changed.value),
)
const remove = useChange(
  ({ id, version }: { id: string; version: number }) =>
    unwrapChange(api.DELETE('/api/lists/{id}', { params: { path: { id }, query: { version } } })),
  (cache, _, { id }) => cache.listGone(id),
)

/** The same step for another list. */
const stepAt = () => route.path.replace(/^\/lists\/[^/]+/, '').replace(/^\//, '') || 'list'
const go = (id: string) => void router.push(stepOf(id, stepAt()))

watch(
  naming,
  (what) => {
    if (!what) return
    name.value = what === 'new' ? '' : (current.value?.name ?? '') + (what === 'copy' ? ', copy' : '')
    refusal.value = ''
  },
  { immediate: true },
)
const ask = (what: 'new' | 'rename' | 'copy') => (naming.value = what)

let busy = false
async function submit() {
  if (busy) return
  busy = true
  refusal.value = ''
  try {
    if (naming.value === 'rename') {
      const before = current.value?.name
      const changed = await rename.mutateAsync(name.value)
      done(`${before} is now called ${changed.value.name}.`, undo(changed))
      naming.value = null
    } else {
      const made = await (naming.value === 'copy' ? copy : add).mutateAsync(name.value)
      done(`List ${made.value.name} made.`, undo(made))
      // In the place of the page with the dialog.
      void router.replace(stepOf(made.value.id, stepAt()))
    }
  } catch (error) {
    refusal.value = reason(error)
  } finally {
    busy = false
  }
}

async function removeList() {
  const list = cache.newestList(props.list)
  if (!list) return
  try {
    const gone = await remove.mutateAsync(list)
    const other = lists.value?.find(({ id }) => id !== list.id)
    done(`List ${list.name} removed. Its gear stays in your inventory.`, async () => {
      await undo(gone)?.()
      await queries.fetchQuery({ queryKey: ['mine', 'lists'], queryFn: () => unwrap(api.GET('/api/lists')) })
      go(list.id)
    })
    go(other?.id ?? '')
  } catch (error) {
    failed(error)
  }
}

async function putAway(archived: boolean) {
  try {
    const changed = await archive.mutateAsync(archived)
    done(`${changed.value.name} is ${archived ? 'archived' : 'restored'}.`, undo(changed))
  } catch (error) {
    failed(error)
  }
}

/** What the menu offers: lists at hand; those that are archived, on demand. */
const showAway = ref(false)
const atHand = computed(() => lists.value?.filter((one) => !one.archived || showAway.value) ?? [])
const away = computed(() => lists.value?.filter((one) => one.archived).length ?? 0)
/** A line about the trip: its figures, or the walker’s own words. */
const summary = computed(() => {
  const { note, trip } = current.value ?? {}
  if (!trip) return note
  return `${counted(trip.days, 'day')}, low ${temperature(trip.low_tenth_c, units.measures.value)}`
})
const TITLES = { new: 'New list', rename: 'Rename the list', copy: 'Copy the list' }

function choose(command: string) {
  if (command === 'new' || command === 'rename' || command === 'copy') ask(command)
  else if (command === 'away') showAway.value = true
  else if (command === 'archive') void putAway(!current.value?.archived)
  else if (command === 'remove') void removeList()
  else go(command)
}
defineExpose({ make: () => ask('new') })
</script>

<template>
  <div class="who">
    <el-dropdown trigger="click" :teleported="false" @command="choose">
      <el-button link class="name" data-print :title="current?.name ?? 'Choose a list'">
        <span class="both">
          <b>{{ current?.name ?? 'No list yet' }}</b>
          <span>{{ summary || (current ? 'no trip yet' : 'choose a list') }}</span>
        </span>
      </el-button>
      <template #dropdown>
        <el-dropdown-menu aria-label="Lists">
          <el-dropdown-item v-for="one in atHand" :key="one.id" :command="one.id"
            >{{ one.name }}<span v-if="one.of" class="muted">, {{ one.of }}’s</span></el-dropdown-item
          >
          <el-dropdown-item v-if="away && !showAway" command="away">{{ away }} archived …</el-dropdown-item>
          <el-dropdown-item command="new" divided>New list …</el-dropdown-item>
          <template v-if="current">
            <el-dropdown-item command="copy">Copy this list …</el-dropdown-item>
            <template v-if="!current.of">
              <el-dropdown-item command="rename">Rename this list …</el-dropdown-item>
              <el-dropdown-item command="archive">{{
                current.archived ? 'Bring this list back' : 'Put this list away'
              }}</el-dropdown-item>
              <el-dropdown-item command="remove">Remove this list</el-dropdown-item>
            </template>
          </template>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
    <el-dialog
      :model-value="naming !== null"
      :title="naming ? TITLES[naming] : ''"
      width="min(23.75rem, 94vw)"
      @close="naming = null"
      @opened="(field?.focus(), field?.select())"
    >
      <el-form label-position="top" @submit.prevent="submit">
        <el-form-item label="Name of the list" :error="refusal">
          <el-input ref="field" v-model="name" name="list-name" placeholder="Autumn week" maxlength="120" />
        </el-form-item>
        <el-button type="primary" native-type="submit" :disabled="name.trim() === ''">{{
          naming === 'rename' ? 'Rename' : naming === 'copy' ? 'Copy' : 'Make the list'
        }}</el-button>
      </el-form>
    </el-dialog>
  </div>
</template>

<style scoped>
.who {
  width: 150px;
  flex: none;
}
.name {
  width: 150px;
  justify-content: flex-start;
  height: auto;
}
.name :deep(> span) {
  max-width: 100%;
}
.both {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  width: 150px;
  line-height: 1.3;
  font-weight: 400;
}
.both > * {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.both b {
  font-size: var(--text-ml);
  font-weight: 650;
  color: var(--ink);
}
.both span {
  font-size: var(--text-s);
  color: var(--ink-2);
}
@media (max-width: 700px) {
  .who,
  .name,
  .both {
    width: 92px;
  }
}
</style>
