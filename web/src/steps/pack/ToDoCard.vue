<script setup lang="ts">
// What is to be done before leaving: what the things and the trip ask for, and what the walker has written down.
import { computed, ref } from 'vue'
import type { Noted, Packing, PackingNotes } from '@/api/client'
import { reason, useMessages } from '@/controls/messages'
import { doneAs, written, type Task } from './words'

const props = defineProps<{
  packing: Packing
  tasks: Task[]
  note: (notes: PackingNotes, report?: string) => Promise<unknown>
  setDone: (noted: string, isDone: boolean) => void
}>()
const { failed } = useMessages()
const typed = ref('')
/** A second Enter waits for nothing: the first is on its way. */
let busy = false
const refusal = ref('')
/** `wipes @Vesper`: what, and who does it. */
const read = computed(() => {
  const [what = '', by = ''] = typed.value.split('@', 2)
  return { what: what.trim(), by: by.trim() }
})
async function add() {
  refusal.value = ''
  if (read.value.what === '' || busy) return
  busy = true
  try {
    const id = `${Date.now().toString(36)}${Math.random().toString(36).slice(2, 8)}`
    await props.note({ to_do: { [id]: read.value } })
    typed.value = ''
  } catch (error) {
    refusal.value = reason(error)
  } finally {
    busy = false
  }
}
async function setTaskDone(task: Task, isDone: boolean) {
  try {
    await props.note(doneAs(task, isDone))
  } catch (error) {
    failed(error)
  }
}
async function remove({ id, what }: Noted) {
  try {
    await props.note({ to_do: { [id]: null } } as unknown as PackingNotes, `${what} crossed out.`)
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <section class="card" aria-label="Before leaving">
    <h2>Before leaving</h2>
    <dl v-if="tasks.length">
      <div v-for="task in tasks" :key="task.name">
        <dt>
          <el-checkbox
            :model-value="task.done"
            :label="task.name"
            @change="(is) => setTaskDone(task, is === true)"
          />
        </dt>
        <dd :class="{ done: task.done }">{{ task.what }}</dd>
      </div>
    </dl>
    <ul v-if="written(packing).length">
      <li v-for="one in written(packing)" :key="one.id" :class="{ done: one.done }">
        <el-checkbox :model-value="one.done" @change="(is) => setDone(one.id, is === true)">
          {{ one.what }}<small v-if="one.by"> · {{ one.by }}</small>
        </el-checkbox>
        <el-button link :aria-label="`Cross out ${one.what}`" @click="remove(one)">×</el-button>
      </li>
    </ul>
    <el-form class="screen-only" @submit.prevent="add">
      <el-form-item :error="refusal">
        <div class="add">
          <el-input
            v-model="typed"
            name="to-do"
            size="small"
            maxlength="120"
            placeholder="Something to do, @somebody"
            aria-label="Something to do; after an @, who does it"
          />
          <el-button native-type="submit" size="small" :disabled="read.what === ''">Add</el-button>
        </div>
      </el-form-item>
    </el-form>
  </section>
</template>

<style scoped>
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 118px minmax(0, 1fr);
  gap: var(--s-2);
  align-items: center;
  padding: var(--s-1h) 0;
  border-top: 1px solid var(--line);
}
dt {
  font-weight: 600;
}
dt :deep(.el-checkbox) {
  margin: 0;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: var(--s-2);
  min-height: 32px;
}
li :deep(.el-checkbox) {
  --el-checkbox-checked-bg-color: var(--spruce);
  --el-checkbox-checked-input-border-color: var(--spruce);
  height: auto;
  white-space: normal;
}
li :deep(.el-checkbox__label) {
  color: var(--ink);
}
dd.done,
.done :deep(.el-checkbox__label) {
  color: var(--ink-2);
  text-decoration: line-through;
}
.add {
  display: flex;
  gap: var(--s-2);
  width: 100%;
}
.el-form-item {
  margin: var(--s-2) 0 0;
}
@media (max-width: 700px) {
  li {
    min-height: 44px;
  }
}
</style>
