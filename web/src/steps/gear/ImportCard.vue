<script setup lang="ts">
// A list from a spreadsheet: chosen or pasted, what each column holds, what would happen, and what can be done next.
import { useQuery } from '@tanstack/vue-query'
import type { UploadFile } from 'element-plus'
import { computed, onMounted } from 'vue'
import type { Source } from '@/api/client'
import { listQuery, vocabularyQuery } from '@/api/queries'
import { stepOf, useLists } from '@/domain/lists'
import { takePasted, usePastedRows } from '@/domain/pasted'
import { useUnits } from '@/domain/units'
import { counted } from '@/quantities/count'
import { useImport } from './files'

const props = defineProps<{ list: string }>()
const { lists, current } = useLists(() => props.list)
const { data: full } = useQuery(computed(() => ({ ...listQuery(props.list), enabled: props.list !== '' })))
const { data: vocabulary } = useQuery(vocabularyQuery)
const units = useUnits()
const csv = useImport(() =>
  current.value ? { id: current.value.id, isEmpty: full.value?.lines.length === 0 } : null,
)
const { preview, refusal, asked, name, busy, onto, read } = csv

const SOURCES = { maker: 'the maker', weighed: 'my own scale', estimate: 'a guess' }
const UNITS = { g: 'grams', kg: 'kilograms', oz: 'ounces', lb: 'pounds' }
const hasWeight = computed(() => asked.columns?.includes('weight_g') ?? false)
const isParts = computed(() => asked.columns?.includes('weight_minor') ?? false)
const words = computed(() => [
  ...new Set([...(preview.value?.unknown_systems ?? []), ...Object.keys(asked.systems ?? {})]),
])
const taken = computed(() =>
  preview.value ? preview.value.added + preview.value.changed + preview.value.same : 0,
)
const listRead = computed(() => lists.value?.find((one) => one.id === read.value?.list))
const sums = computed(() => {
  const { carried_mg = 0, worn_mg = 0, used_up_mg = 0, unknown = 0 } = preview.value?.sums ?? {}
  return [
    `${unknown ? 'at least ' : ''}${units.totalText(carried_mg)} base weight`,
    worn_mg ? `${units.totalText(worn_mg)} worn` : '',
    used_up_mg ? `${units.totalText(used_up_mg)} used up` : '',
    unknown ? `${counted(unknown, 'weight')} unknown` : '',
  ]
    .filter(Boolean)
    .join(', ')
})
const OUTCOMES = { add: 'new', change: 'changed', same: 'there already', left_out: 'left out' }

// Rows that are pasted, here or where gear is typed, go the way of a file.
const openRows = (text: string, onto?: 'list' | 'none') =>
  csv.open(new File([text], PASTED, { type: 'text/tab-separated-values' }), onto)
const PASTED = 'Pasted rows.tsv'
usePastedRows((text) => void openRows(text))
onMounted(() => {
  const pasted = takePasted()
  if (pasted) void openRows(pasted.text, pasted.onto)
})

function chosen(file: UploadFile) {
  if (file.raw) void csv.open(file.raw)
}
</script>

<template>
  <section class="card">
    <h2>Import a list</h2>
    <section v-if="read" class="next" aria-label="What was read">
      <h3>
        {{ read.file }} is read: {{ counted(read.added, 'thing') }} added<template v-if="read.changed"
          >, {{ read.changed }} changed</template
        >
      </h3>
      <p v-if="listRead">All of it is on the list {{ listRead.name }}.</p>
      <div class="deeds">
        <RouterLink v-if="read.list" v-slot="{ navigate }" custom :to="stepOf(read.list, 'list')">
          <el-button type="primary" @click="navigate">Look at the list</el-button>
        </RouterLink>
        <RouterLink v-slot="{ navigate }" custom :to="stepOf(read.list ?? list, 'weigh')">
          <el-button @click="navigate">{{
            read.unknown ? `Weigh the ${counted(read.unknown, 'unknown')}` : 'Weigh the least certain'
          }}</el-button>
        </RouterLink>
        <RouterLink v-slot="{ navigate }" custom :to="stepOf(read.list ?? list, 'swaps')">
          <el-button @click="navigate">Next: swaps for something lighter</el-button>
        </RouterLink>
      </div>
    </section>
    <p class="muted">
      From a spreadsheet: saved as CSV or text, or its rows copied and pasted here. Nothing is written before
      you have seen what would happen.
    </p>
    <el-upload
      class="file"
      drag
      :auto-upload="false"
      :show-file-list="false"
      accept=".csv,.tsv,.txt,text/csv"
      @change="chosen"
    >
      {{ name ? 'Choose another file' : 'Choose a file, or drop it here' }}
    </el-upload>
    <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
    <el-skeleton v-if="busy && !preview" :rows="5" animated />
    <template v-if="preview">
      <p class="sums" role="status">
        <span
          ><b>{{ preview.added }}</b> new</span
        >
        <span v-if="preview.changed"
          ><b>{{ preview.changed }}</b> changed</span
        >
        <span v-if="preview.same"
          ><b>{{ preview.same }}</b> there already</span
        >
        <span v-if="preview.leave.length"
          ><b>{{ preview.leave.length }}</b> left out</span
        >
        <span v-if="preview.refused" class="caution"
          ><b>{{ preview.refused }}</b> refused</span
        >
      </p>
      <p>{{ sums }}.</p>
      <el-radio-group v-model="onto.kind" class="onto" aria-label="Where it goes">
        <el-radio value="new">onto a new list</el-radio>
        <el-radio v-if="current" value="list">onto {{ current.name }}</el-radio>
        <el-radio value="none">only into my gear</el-radio>
      </el-radio-group>
      <el-input
        v-if="onto.kind === 'new'"
        v-model="onto.name"
        class="list-name"
        aria-label="Name of the new list"
        maxlength="120"
      />
      <div class="deeds">
        <el-button
          type="primary"
          :loading="busy"
          :disabled="taken === 0 || (onto.kind === 'new' && onto.name.trim() === '')"
          @click="csv.write"
        >
          Import {{ taken }}
        </el-button>
        <el-button @click="csv.drop">Cancel</el-button>
      </div>
      <h3>{{ name }}: what each column holds</h3>
      <el-table :data="preview.columns" class="mapping" size="small">
        <el-table-column label="In the file" min-width="110">
          <template #default="{ row, $index }">
            <b>{{ row.header || `column ${$index + 1}` }}</b>
            <div class="muted such">{{ row.examples.join(', ') }}</div>
          </template>
        </el-table-column>
        <el-table-column label="Holds" width="200">
          <template #default="{ row, $index }">
            <el-select
              :model-value="row.holds ?? ''"
              size="small"
              filterable
              default-first-option
              :aria-label="`What ${row.header} holds`"
              @change="(holds: string) => csv.map($index, holds || null)"
            >
              <el-option value="" label="not imported" />
              <el-option
                v-for="choice in preview.choices"
                :key="choice.key"
                :value="choice.key"
                :label="choice.title"
              />
            </el-select>
          </template>
        </el-table-column>
      </el-table>
      <p v-if="hasWeight && !isParts" class="unit">
        Weights without a unit are in
        <el-select
          :model-value="preview.unit"
          size="small"
          aria-label="Unit of weights without one"
          @change="(unit: string) => ((asked.unit = unit), csv.look())"
        >
          <el-option v-for="(word, key) in UNITS" :key="key" :value="key" :label="word" />
        </el-select>
        <span v-if="preview.unit_from" class="muted">as {{ preview.unit_from }} says</span>
        <span v-else class="caution">nothing in the file says so: check it</span>
      </p>
      <p v-if="hasWeight" class="unit">
        Weights come from
        <el-select
          :model-value="preview.source"
          size="small"
          aria-label="Where the weights come from"
          @change="(source: Source) => ((asked.source = source), csv.look())"
        >
          <el-option v-for="(word, key) in SOURCES" :key="key" :value="key" :label="word" />
        </el-select>
        <span class="muted">where a line does not say it</span>
      </p>
      <div v-if="words.length" class="systems">
        <h3>Words for systems</h3>
        <div v-for="word in words" :key="word" class="word">
          <b>{{ word }}</b>
          <el-select
            :model-value="asked.systems?.[word] ?? ''"
            size="small"
            placeholder="as the name says"
            :aria-label="`System for ${word}`"
            @change="(system: string) => ((asked.systems = { ...asked.systems, [word]: system }), csv.look())"
          >
            <el-option
              v-for="system in vocabulary?.systems"
              :key="system.key"
              :value="system.key"
              :label="system.name"
            />
          </el-select>
        </div>
      </div>
      <ul v-if="preview.refusals.length" class="rows" aria-label="Refused">
        <li v-for="(cell, at) in preview.refusals" :key="at">
          <span class="muted line">line {{ cell.line }}</span>
          <span class="what caution"
            ><b v-if="cell.header">{{ cell.header }}:</b> {{ cell.why }}</span
          >
        </li>
      </ul>
      <ul v-if="preview.lines.length" class="rows lines" aria-label="Lines of the file">
        <li v-for="line in preview.lines" :key="line.line" :class="{ left: line.outcome === 'left_out' }">
          <el-checkbox
            :model-value="line.outcome !== 'left_out'"
            :aria-label="`Import line ${line.line}, ${line.name}`"
            @change="(on) => csv.tick(line.line, on === true)"
          />
          <span class="what"
            ><b>{{ line.name }}</b> {{ line.says
            }}<span
              v-if="line.kind"
              class="kind"
              title="What it is taken as: it can be said otherwise in Gear"
              >{{ line.kind }}</span
            ></span
          >
          <span class="muted outcome">{{ OUTCOMES[line.outcome] }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--s-3);
  align-content: start;
  min-width: 0;
}
h2 {
  margin: 0;
}
h3 {
  margin: var(--s-2) 0 0;
  font-size: var(--text);
}
.next {
  border-left: 4px solid var(--spruce);
  padding-left: var(--s-3);
  display: grid;
  gap: var(--s-2);
}
.next h3 {
  margin: 0;
}
.file :deep(.el-upload-dragger) {
  padding: var(--s-4);
  font-weight: 600;
}
.unit,
.deeds,
.word {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
}
.deeds :deep(.el-button) {
  margin: 0;
}
.onto {
  gap: 0 var(--s-4);
}
.list-name {
  max-width: 320px;
}
.such {
  font-size: var(--text-s);
  overflow-wrap: anywhere;
}
.unit :deep(.el-select) {
  width: 130px;
}
.systems {
  display: grid;
  gap: var(--s-2);
}
.word b {
  min-width: 160px;
}
.word :deep(.el-select) {
  width: 180px;
}
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2) var(--s-5);
}
.sums b {
  font-size: var(--figure-m);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.lines li {
  align-items: center;
  padding: var(--s-0h) 0;
}
.line {
  min-width: 58px;
}
.what {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.left .what {
  color: var(--ink-2);
  text-decoration: line-through;
}
.outcome {
  white-space: nowrap;
}
.kind {
  margin-left: var(--s-1h);
  padding: 0 var(--s-1h);
  border: 1px solid var(--line);
  border-radius: 3px;
  font-size: var(--text-s);
  white-space: nowrap;
}
</style>
