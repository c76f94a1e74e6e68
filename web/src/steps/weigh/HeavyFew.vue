<script setup lang="ts">
// Where an empty account begins: three things, one minute, a base weight.
import { reactive, ref } from 'vue'
import { api, take, type Source } from '@/api/client'
import { useChange } from '@/api/queries'
import { useLists } from '@/shell/lists'

const { current } = useLists()
const few = (system: string, name: string) => ({
  system,
  name,
  weight: '',
  refusal: '',
  /** Its id once it is gear, so that trying again does not add it twice. */
  id: null as string | null,
  added: false,
})
const rows = reactive([few('pack', 'Pack'), few('shelter', 'Shelter'), few('sleep', 'Sleeping bag or quilt')])
/** Where the figures come from: a maker's is the one that most people have in their heads. */
const source = ref<Source>('maker')
const SOURCES: Partial<Record<Source, string>> = {
  maker: 'the maker says so',
  weighed: 'off my own scale',
  estimate: 'guessed',
}

const add = useChange(async (row: (typeof rows)[number]) => {
  if (row.id === null) {
    const body = {
      name: row.name,
      system: row.system,
      weight: row.weight.trim() || null,
      source: source.value,
    }
    row.id = (await take(api.POST('/api/gear', { body }))).id
  }
  const list = current.value?.id
  if (list) {
    await take(
      api.PUT('/api/lists/{id}/lines/{gear}', {
        params: { path: { id: list, gear: row.id } },
        body: { carried: 1, worn: 0, used_up: 0 },
      }),
    )
  }
})

async function enter() {
  for (const row of rows) {
    if (row.added) continue
    row.refusal = ''
    try {
      await add.mutateAsync(row)
      row.added = true
    } catch (error) {
      row.refusal = error instanceof Error ? error.message : String(error)
    }
  }
}
</script>

<template>
  <section class="card heavy">
    <h2>Start with the heavy few</h2>
    <p>
      Pack, shelter and sleep insulation are most of a base weight. Weigh these three, or type what you know:
      a figure to work on in a minute.
    </p>
    <form @submit.prevent="enter">
      <div v-for="row in rows" :key="row.system" class="row">
        <input
          v-model="row.name"
          :aria-label="`What is your ${row.system}`"
          maxlength="120"
          :disabled="row.added"
        />
        <input
          v-model="row.weight"
          :aria-label="`Weight of ${row.name}`"
          placeholder="unknown, or 1680 g"
          inputmode="text"
          :disabled="row.added"
        />
        <span v-if="row.added" class="spruce">added</span>
        <span v-if="row.refusal" class="caution" role="alert">{{ row.refusal }}</span>
      </div>
      <p class="from">Where do these weights come from?</p>
      <el-radio-group v-model="source" aria-label="Where these weights come from">
        <el-radio v-for="(words, key) in SOURCES" :key="key" :value="key">{{ words }}</el-radio>
      </el-radio-group>
      <el-button type="primary" native-type="submit">Put them on the list <kbd>Enter</kbd></el-button>
    </form>
    <p class="muted file">
      You have a list already? <RouterLink class="link" to="/gear/files">Read it from a file.</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.from {
  margin: var(--s-2) 0 calc(-1 * var(--s-2));
}
.heavy {
  max-width: 640px;
}
form {
  display: grid;
  gap: var(--s-3);
  justify-items: start;
  margin-top: var(--s-4);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
  align-items: center;
}
.row input {
  font: 500 17px var(--font);
  height: 38px;
  width: 250px;
  padding: 0 var(--s-3);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
}
.row input + input {
  width: 190px;
  text-align: right;
}
.row input::placeholder {
  color: var(--ink-2);
  font-weight: 400;
}
.file {
  margin-top: var(--s-4);
}
form :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: 4px;
}
</style>
