<script setup lang="ts">
// Where an empty account begins: three things, one minute, a base weight.
import { useQueryClient } from '@tanstack/vue-query'
import { useSessionStorage } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import type { Source } from '@/api/client'
import { keys } from '@/api/queries'
import { focusTitle } from '@/controls/focus'
import { reason } from '@/controls/messages'
import { addLine } from '@/domain/gearLine'
import { stepOf, useLists } from '@/domain/lists'
import TakenAs from '@/domain/TakenAs.vue'
import { useUnits } from '@/domain/units'

const props = defineProps<{ list: string }>()
const emit = defineEmits<{ begin: []; done: [] }>()
const units = useUnits()
const examples = computed(() =>
  units.system.value === 'metric' ? ['1680 g', '1910 g', '1120 g'] : ['3 lb 11 oz', '4 lb 3 oz', '2 lb 8 oz'],
)
const { current } = useLists(() => props.list)
const queries = useQueryClient()

/** What is typed of one thing; kept with the window until all are added. */
interface Row {
  system: string
  name: string
  weight: string
  refusal: string
  added: boolean
}
const few = (system: string, name: string): Row => ({
  system,
  name,
  weight: '',
  refusal: '',
  added: false,
})
const rows = useSessionStorage<Row[]>('kevyt-heavy-few', () => [
  few('pack', 'Pack'),
  few('shelter', 'Tent'),
  few('sleep', 'Sleeping bag'),
])
/** Where the figures come from: a maker's is the one that most people have in their heads. */
const source = ref<Source>('maker')
const FROM: Partial<Record<Source, string>> = {
  maker: 'the maker’s figures',
  weighed: 'off my own scale',
  estimate: 'my guess',
}
const busy = ref(false)

let focused = false
/** The first figure can be typed at once. */
function focusOnce(field: { focus: () => void } | null) {
  if (field && !focused) void nextTick(() => field.focus())
  focused = true
}

/** A figure with the account's unit where it has none: the line reads `1680` as part of a name. */
const withUnit = (weight: string) =>
  /[a-z]/i.test(weight) ? weight : `${weight} ${units.system.value === 'metric' ? 'g' : 'oz'}`

async function add(row: Row) {
  const name = row.name.replaceAll('"', '').trim()
  const weight = row.weight.trim()
  const line = [`"${name}"`, weight && withUnit(weight), `#${row.system}`].filter(Boolean).join(' ')
  await addLine(line, current.value?.id ?? null, source.value)
}

async function enter() {
  if (busy.value) return
  busy.value = true
  emit('begin')
  for (const row of rows.value) {
    if (row.added) continue
    row.refusal = ''
    try {
      await add(row)
      row.added = true
    } catch (error) {
      row.refusal = reason(error)
    }
  }
  busy.value = false
  void queries.invalidateQueries({ queryKey: keys.mine })
  if (rows.value.every((row) => row.added)) finish()
}

function finish() {
  rows.value = null as never
  emit('done')
}
</script>

<template>
  <section class="card heavy">
    <h2>Start with the heavy few</h2>
    <p>
      Pack, shelter and sleep insulation are most of a base weight. Weigh these three, or type what you know:
      a base weight to work on in a minute.
    </p>
    <form @submit.prevent="enter">
      <div v-for="(row, at) in rows" :key="row.system" class="row">
        <el-input
          :ref="(field) => at === 0 && focusOnce(field as { focus: () => void } | null)"
          v-model="row.weight"
          size="large"
          class="weight"
          :aria-label="`Weight of ${row.name}`"
          :placeholder="`${row.name.toLowerCase()}, ${examples[at]}`"
          inputmode="decimal"
          :disabled="row.added"
          @keydown.esc="focusTitle"
        />
        <el-input
          v-model="row.name"
          size="large"
          class="name"
          :aria-label="`Name of your ${row.system}`"
          maxlength="100"
          :disabled="row.added"
          @keydown.esc="focusTitle"
        />
        <span v-if="row.added" class="spruce">added</span>
        <TakenAs v-else :name="row.name" />
        <span v-if="row.refusal" class="caution" role="alert">{{ row.refusal }}</span>
      </div>
      <p id="few-from" class="from">Where do these weights come from?</p>
      <el-radio-group v-model="source" aria-labelledby="few-from">
        <el-radio v-for="(words, key) in FROM" :key="key" :value="key">{{ words }}</el-radio>
      </el-radio-group>
      <div>
        <el-button type="primary" size="large" native-type="submit" :loading="busy"
          >Put them on the list <kbd>Enter</kbd></el-button
        >
        <el-button v-if="rows.some((row) => row.added)" size="large" @click="finish"
          >Go on without the rest</el-button
        >
      </div>
    </form>
    <p class="muted file">
      Do you have a list already?
      <RouterLink class="link" :to="stepOf(list, 'gear/files')">Import it from a file.</RouterLink>
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
.row :deep(.weight) {
  width: 220px;
  font-size: var(--text-l);
}
.row :deep(.name) {
  width: 200px;
}
.file {
  margin-top: var(--s-4);
}
form :deep(kbd) {
  color: inherit;
  border-color: currentColor;
  margin-left: var(--s-1);
}
@media (max-width: 700px) {
  .row :deep(.weight) {
    width: 180px;
  }
  .row :deep(.name) {
    width: 130px;
  }
}
</style>
