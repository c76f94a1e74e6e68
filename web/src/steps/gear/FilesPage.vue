<script setup lang="ts">
import { computed } from 'vue'
import { useQuery } from '@tanstack/vue-query'
import type { Source } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { counted } from '@/quantities/count'
import { useImport, useRestore } from './files'

const { data: vocabulary } = useQuery(vocabularyQuery)
const csv = useImport()
const { preview, refusal, asked, name } = csv
const restoring = useRestore()
const { backup, refusal: backupRefusal } = restoring

const SOURCES = { maker: 'the maker', weighed: 'your own scale', estimate: 'a guess' }
const UNITS = { g: 'grams', kg: 'kilograms', oz: 'ounces', lb: 'pounds' }
const hasWeight = computed(() => asked.columns?.includes('weight_g') ?? false)

function chosen(event: Event, open: (file: File) => Promise<void>) {
  const field = event.target as HTMLInputElement
  const file = field.files?.[0]
  if (file) void open(file)
  // The same file can be chosen again once it has been changed.
  field.value = ''
}
</script>

<template>
  <div>
    <div class="head">
      <h1>Files</h1>
      <p>Gear in and out as CSV, and the whole account as one file.</p>
      <RouterLink class="link" to="/gear">Back to gear</RouterLink>
    </div>
    <div class="with-aside">
      <section class="card">
        <h2>Read gear from a file</h2>
        <p class="muted">
          A CSV file with a line of headers; comma, semicolon or tab. Nothing is written before you have seen
          what would happen.
        </p>
        <label class="file">
          <input type="file" accept=".csv,.tsv,.txt,text/csv" @change="chosen($event, csv.open)" />
          {{ name ? 'Choose another file' : 'Choose a file' }}
        </label>
        <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
        <template v-if="preview">
          <h2>{{ name }}: what each column holds</h2>
          <table class="grid mapping">
            <thead>
              <tr>
                <th>In the file</th>
                <th>Such as</th>
                <th class="holds">Holds</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(column, at) in preview.columns" :key="at">
                <td>
                  <b>{{ column.header || `column ${at + 1}` }}</b>
                </td>
                <td class="muted such">{{ column.examples.join(', ') }}</td>
                <td>
                  <el-select
                    :model-value="column.holds ?? ''"
                    size="small"
                    :aria-label="`What ${column.header} holds`"
                    @change="(holds: string) => csv.map(at, holds || null)"
                  >
                    <el-option value="" label="left out" />
                    <el-option
                      v-for="choice in preview.choices"
                      :key="choice.key"
                      :value="choice.key"
                      :label="choice.key.replaceAll('_', ' ')"
                    />
                  </el-select>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="hasWeight" class="unit">
            Bare weights are in
            <el-select
              :model-value="preview.unit"
              size="small"
              aria-label="Unit of bare weights"
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
          <div
            v-if="preview.unknown_systems.length || Object.keys(asked.systems ?? {}).length"
            class="systems"
          >
            <h2>Words for systems</h2>
            <label
              v-for="word in new Set([...preview.unknown_systems, ...Object.keys(asked.systems ?? {})])"
              :key="word"
            >
              <span>{{ word }}</span>
              <el-select
                :model-value="asked.systems?.[word] ?? ''"
                size="small"
                placeholder="which system?"
                :aria-label="`System for ${word}`"
                @change="
                  (system: string) => ((asked.systems = { ...asked.systems, [word]: system }), csv.look())
                "
              >
                <el-option
                  v-for="system in vocabulary?.systems"
                  :key="system.key"
                  :value="system.key"
                  :label="system.name"
                />
              </el-select>
            </label>
          </div>
          <p class="sums" role="status">
            <span
              ><b>{{ preview.added }}</b> to add</span
            >
            <span
              ><b>{{ preview.changed }}</b> to change</span
            >
            <span
              ><b>{{ preview.same }}</b> the same</span
            >
            <span :class="{ caution: preview.refused }"
              ><b>{{ preview.refused }}</b> refused</span
            >
          </p>
          <div class="deeds">
            <el-button type="primary" :disabled="preview.added + preview.changed === 0" @click="csv.write">
              Write {{ preview.added + preview.changed }} of them
            </el-button>
            <el-button @click="csv.drop">Leave it</el-button>
          </div>
          <ul v-if="preview.refusals.length" class="rows refusals">
            <li v-for="(cell, at) in preview.refusals" :key="at">
              <span class="muted line">line {{ cell.line }}</span>
              <span
                ><b v-if="cell.header">{{ cell.header }}:</b> {{ cell.why }}</span
              >
            </li>
          </ul>
          <ul v-if="preview.lines.length" class="rows">
            <li v-for="line in preview.lines" :key="line.line">
              <span class="muted line">line {{ line.line }}</span>
              <span class="what"
                ><b>{{ line.name }}</b> {{ line.says }}</span
              >
              <span class="muted">{{ line.outcome }}</span>
            </li>
          </ul>
        </template>
      </section>
      <aside>
        <section class="card">
          <h2>Write gear</h2>
          <p class="muted">For a spreadsheet, or for whoever asks what you carry.</p>
          <p class="links">
            <a class="link" href="/api/files/gear.csv" download>kevyt-gear.csv</a>
            <a class="link" href="/api/files/gear.zip" download>with its description (Data Package)</a>
          </p>
        </section>
        <section class="card">
          <h2>The whole account</h2>
          <p class="muted">Gear, weighings, kits, lists and swaps, as one JSON file that is yours.</p>
          <p class="links"><a class="link" href="/api/files/account.json" download>kevyt-account.json</a></p>
          <label class="file">
            <input type="file" accept=".json,application/json" @change="chosen($event, restoring.open)" />
            Restore from a backup
          </label>
          <p v-if="backupRefusal" class="caution" role="alert">{{ backupRefusal }}</p>
          <template v-if="backup">
            <p class="warn">
              {{ backup.name }} holds {{ counted(backup.gear, 'thing') }} and
              {{ counted(backup.lists, 'list') }}. They take the place of everything that is here now; it can
              be undone.
            </p>
            <div class="deeds">
              <el-button type="primary" @click="restoring.restore">Restore it</el-button>
              <el-button @click="restoring.drop">Leave it</el-button>
            </div>
          </template>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.with-aside {
  --aside: 360px;
}
.with-aside > section,
aside,
aside > section {
  display: grid;
  gap: var(--s-3);
  align-content: start;
}
h2 {
  margin: 0;
}
.file {
  justify-self: start;
  cursor: pointer;
  padding: 5px 14px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  font-weight: 600;
}
.file:focus-within {
  outline: 2px solid var(--lake);
  outline-offset: 2px;
}
.file input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.holds {
  width: 190px;
}
@media (max-width: 700px) {
  /* Each column of the file on two lines: what it is called and holds, and what stands in it. */
  .mapping thead {
    display: none;
  }
  .mapping tr {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 190px;
    align-items: center;
    border-bottom: 1px solid var(--line);
  }
  .mapping td {
    border: 0;
  }
  .mapping .such {
    grid-area: 2 / 1 / auto / -1;
    padding-bottom: var(--s-2);
  }
}
.unit,
.deeds,
.systems label {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--s-2);
}
.unit :deep(.el-select) {
  width: 120px;
}
.systems {
  display: grid;
  gap: var(--s-2);
}
.systems label span {
  min-width: 160px;
  font-weight: 600;
}
.systems :deep(.el-select) {
  width: 180px;
}
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-5);
}
.sums b {
  font-size: 26px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.line {
  min-width: 58px;
}
.what {
  flex: 1;
}
.links {
  display: grid;
  gap: var(--s-1);
  justify-items: start;
}
.warn {
  border-left: 4px solid var(--lingonberry);
  padding-left: var(--s-3);
}
</style>
