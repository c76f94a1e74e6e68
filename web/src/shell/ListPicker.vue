<script setup lang="ts">
// Which list is at hand, and a new one.
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useChange } from '@/api/queries'
import { useLists } from './lists'
import { useMessages } from './messages'

const { lists, current, choose } = useLists()
const { failed } = useMessages()
const naming = ref(false)
const name = ref('')

const add = useChange((name: string) => take(api.POST('/api/lists', { body: { name } })))

async function create() {
  try {
    const list = await add.mutateAsync(name.value)
    choose(list.id)
    naming.value = false
    name.value = ''
  } catch (error) {
    if (error instanceof Error) failed(error)
  }
}
</script>

<template>
  <div class="who">
    <el-dropdown trigger="click" @command="(id: string) => (id === 'new' ? (naming = true) : choose(id))">
      <button class="plain name" title="Choose a list">
        <b>{{ current?.name ?? 'No list yet' }}</b>
        <span>{{ current?.note || 'choose a list' }}</span>
      </button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item v-for="list in lists" :key="list.id" :command="list.id">{{
            list.name
          }}</el-dropdown-item>
          <el-dropdown-item command="new" divided>New list …</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
    <el-dialog v-model="naming" title="New list" width="min(380px, 94vw)">
      <form @submit.prevent="create">
        <label for="list-name">What is it for?</label>
        <el-input id="list-name" v-model="name" placeholder="Autumn week" autofocus />
        <el-button type="primary" native-type="submit" :disabled="name.trim() === ''"
          >Make the list</el-button
        >
      </form>
    </el-dialog>
  </div>
</template>

<style scoped>
.who {
  width: 150px;
  flex: none;
}
.name {
  display: flex;
  flex-direction: column;
  width: 150px;
  white-space: nowrap;
  overflow: hidden;
}
.name b {
  font-size: 15px;
  font-weight: 650;
  color: var(--ink);
  overflow: hidden;
  text-overflow: ellipsis;
}
.name span {
  font-size: 12px;
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
}
form {
  display: grid;
  gap: var(--s-3);
  justify-items: start;
}
@media (max-width: 700px) {
  .who,
  .name {
    width: 84px;
  }
}
</style>
