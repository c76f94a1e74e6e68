<script setup lang="ts">
// Which list is at hand; a new one, another name, or none of it.
import { useQueryClient } from '@tanstack/vue-query'
import { ref, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take, takeChanged } from '@/api/client'
import { useChange, useShown, useUndo } from '@/api/queries'
import { reason, useMessages } from '@/controls/messages'
import { stepOf, useLists } from '@/domain/lists'

const props = defineProps<{ list: string }>()
const { lists, current } = useLists(() => props.list)
const route = useRoute()
const router = useRouter()
const { done, failed } = useMessages()
const undo = useUndo()
const queries = useQueryClient()
const shown = useShown()

const naming = ref<'new' | 'rename' | null>(null)
const name = ref('')
const refusal = ref('')
const field = useTemplateRef<{ focus: () => void; select: () => void }>('field')

const add = useChange(
  (name: string) => takeChanged(api.POST('/api/lists', { body: { name } })),
  (shown, made) => shown.list(made.value),
)
const rename = useChange(
  (name: string) =>
    takeChanged(
      api.PATCH('/api/lists/{id}', {
        params: {
          path: { id: props.list },
          query: { version: shown.newestList(props.list)?.version ?? 0 },
        },
        body: { name },
      }),
    ),
  (shown, changed) => shown.list(changed.value),
)
const remove = useChange(
  ({ id, version }: { id: string; version: number }) =>
    takeChanged(api.DELETE('/api/lists/{id}', { params: { path: { id }, query: { version } } })),
  (shown, _, { id }) => shown.listGone(id),
)

/** The same step for another list. */
function go(id: string) {
  const step = route.path.replace(/^\/lists\/[^/]+/, '').replace(/^\//, '') || 'list'
  void router.push(stepOf(id, step))
}

function ask(what: 'new' | 'rename') {
  naming.value = what
  name.value = what === 'rename' ? (current.value?.name ?? '') : ''
  refusal.value = ''
}

async function submit() {
  refusal.value = ''
  try {
    if (naming.value === 'rename') {
      const before = current.value?.name
      const changed = await rename.mutateAsync(name.value)
      done(`${before} is now called ${changed.value.name}.`, undo(changed))
    } else {
      const made = await add.mutateAsync(name.value)
      done(`List ${made.value.name} made.`, undo(made))
      go(made.value.id)
    }
    naming.value = null
  } catch (error) {
    refusal.value = reason(error)
  }
}

async function removeList() {
  const list = shown.newestList(props.list)
  if (!list) return
  try {
    const gone = await remove.mutateAsync(list)
    const other = lists.value?.find(({ id }) => id !== list.id)
    done(`List ${list.name} removed. Its gear stays in your inventory.`, async () => {
      await undo(gone)?.()
      await queries.fetchQuery({ queryKey: ['mine', 'lists'], queryFn: () => take(api.GET('/api/lists')) })
      go(list.id)
    })
    go(other?.id ?? '')
  } catch (error) {
    failed(error)
  }
}

function choose(command: string) {
  if (command === 'new' || command === 'rename') ask(command)
  else if (command === 'remove') void removeList()
  else go(command)
}
defineExpose({ make: () => ask('new') })
</script>

<template>
  <div class="who">
    <el-dropdown trigger="click" :teleported="false" @command="choose">
      <el-button link class="name" :title="current?.name ?? 'Choose a list'">
        <span class="both">
          <b>{{ current?.name ?? 'No list yet' }}</b>
          <span>{{ current?.note || 'choose a list' }}</span>
        </span>
      </el-button>
      <template #dropdown>
        <el-dropdown-menu aria-label="Lists">
          <el-dropdown-item v-for="one in lists" :key="one.id" :command="one.id">{{
            one.name
          }}</el-dropdown-item>
          <el-dropdown-item command="new" divided>New list …</el-dropdown-item>
          <template v-if="current">
            <el-dropdown-item command="rename">Rename this list …</el-dropdown-item>
            <el-dropdown-item command="remove">Remove this list</el-dropdown-item>
          </template>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
    <el-dialog
      :model-value="naming !== null"
      :title="naming === 'rename' ? 'Rename the list' : 'New list'"
      width="min(380px, 94vw)"
      @close="naming = null"
      @opened="(field?.focus(), field?.select())"
    >
      <el-form label-position="top" @submit.prevent="submit">
        <el-form-item label="Name of the list" :error="refusal">
          <el-input ref="field" v-model="name" name="list-name" placeholder="Autumn week" maxlength="120" />
        </el-form-item>
        <el-button type="primary" native-type="submit" :disabled="name.trim() === ''">{{
          naming === 'rename' ? 'Rename' : 'Make the list'
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
  font-size: 15px;
  font-weight: 650;
  color: var(--ink);
}
.both span {
  font-size: 12px;
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
