<script setup lang="ts">
// The pages of the step, and what is done with a list as a whole.
import { useRoute } from 'vue-router'
import { csvParseRows } from 'd3-dsv'
import { useMessages } from '@/controls/messages'
import { copyRows } from '@/controls/rows'
import { stepOf } from '@/domain/lists'

const props = defineProps<{ list: string }>()
const route = useRoute()
const PAGES = [
  { step: 'list', name: 'List' },
  { step: 'list/trip', name: 'Trip' },
  { step: 'list/together', name: 'Together' },
  { step: 'list/compare', name: 'Compare' },
]
const FILES = [
  { name: 'Spreadsheet (CSV)', file: 'list.csv' },
  { name: 'Spreadsheet with prices (CSV)', file: 'list.csv?prices=true' },
  { name: 'Text (Markdown)', file: 'list.md' },
  { name: 'Text with prices (Markdown)', file: 'list.md?prices=true' },
  { name: 'kevyt-list/1 (JSON)', file: 'list.json' },
]
const { done, failed } = useMessages()
/** The spreadsheet, to be pasted into one. */
async function copy() {
  try {
    const answer = await fetch(`/api/lists/${props.list}/list.csv`)
    if (!answer.ok) throw new Error(`The list could not be read (${answer.status}). Try again in a moment.`)
    const rows = csvParseRows((await answer.text()).replace(/^\uFEFF/, ''))
    await copyRows(rows)
    done(`${rows.length - 1} rows copied, to paste into a spreadsheet.`)
  } catch (error) {
    failed(error)
  }
}
const print = () => window.print()
const fetchFile = (file: string) => window.location.assign(`/api/lists/${props.list}/${file}`)
</script>

<template>
  <nav class="pages" aria-label="Pages of the list">
    <RouterLink
      v-for="{ step, name } in PAGES"
      :key="step"
      :to="stepOf(list, step)"
      :aria-current="route.path === stepOf(list, step) ? 'page' : undefined"
      >{{ name }}</RouterLink
    >
    <el-dropdown :teleported="false" trigger="click">
      <el-button link size="small">Print or export …</el-button>
      <template #dropdown>
        <el-dropdown-menu aria-label="Print or export">
          <el-dropdown-item @click="print">Print</el-dropdown-item>
          <el-dropdown-item @click="copy">Copy as rows</el-dropdown-item>
          <el-dropdown-item v-for="{ name, file } in FILES" :key="file" @click="fetchFile(file)">{{
            name
          }}</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </nav>
</template>

<style scoped>
.pages {
  display: flex;
  gap: var(--s-4);
  align-items: baseline;
  margin-left: auto;
}
.pages > a {
  color: var(--ink-2);
  text-decoration: none;
  padding-bottom: var(--s-0h);
}
.pages > a[aria-current] {
  color: var(--ink);
  font-weight: 650;
  border-bottom: 2px solid var(--lake);
}
@media print {
  .pages {
    display: none;
  }
}
</style>
