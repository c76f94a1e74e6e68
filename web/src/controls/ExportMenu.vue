<script setup lang="ts">
// What is shown, taken elsewhere: rows to paste into a spreadsheet, a CSV file, the drawing as SVG.
import { useMessages } from './messages'
import { asCsv, asSvg, copyRows, fileName, saveFile, type Rows } from './rows'

const props = defineProps<{
  /** What is exported, in words; its file is named by it. */
  what: string
  rows?: () => Rows
  /** The element that the drawing is in. */
  drawing?: () => Element | null | undefined
}>()
const { done, failed } = useMessages()

async function act(how: string) {
  try {
    if (how === 'copy') {
      const rows = props.rows!()
      await copyRows(rows)
      done(`${props.what} copied: ${rows.length - 1} rows to paste into a spreadsheet.`)
    } else if (how === 'csv') saveFile(`${fileName(props.what)}.csv`, asCsv(props.rows!()), 'text/csv')
    else {
      const drawing = props.drawing!()?.querySelector('svg')
      if (drawing) saveFile(`${fileName(props.what)}.svg`, asSvg(drawing), 'image/svg+xml')
    }
  } catch (error) {
    failed(error)
  }
}
</script>

<template>
  <el-dropdown :teleported="false" trigger="click" class="screen-only export" @command="act">
    <el-button link type="primary" size="small" :aria-label="`Export ${what}`">Export</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-if="rows" command="copy">Copy as rows</el-dropdown-item>
        <el-dropdown-item v-if="rows" command="csv">Spreadsheet (CSV)</el-dropdown-item>
        <el-dropdown-item v-if="drawing" command="svg">Drawing (SVG)</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
