<script setup lang="ts">
// Two lists, thing by thing: what is on the back of one and not of the other, or weighs something else.
import { useUnits } from '@/domain/units'
import type { Difference } from './equation'

defineProps<{ here: string; there: string; differences: Difference[] }>()
const isOpen = defineModel<boolean>({ required: true })
const units = useUnits()
const text = (mg: number | null) => (mg === null ? '–' : units.tableText(mg))
</script>

<template>
  <el-drawer v-model="isOpen" :title="`${here}, and ${there}`" size="min(32.5rem, 100vw)">
    <el-table :data="differences" size="small">
      <el-table-column prop="name" label="Thing" />
      <el-table-column label="On this list" align="right" width="110">
        <template #default="{ row }">{{ text((row as Difference).here) }}</template>
      </el-table-column>
      <el-table-column label="There" align="right" width="90">
        <template #default="{ row }">{{ text((row as Difference).there) }}</template>
      </el-table-column>
      <el-table-column label="Difference" align="right" width="100">
        <template #default="{ row }">{{
          units.signed(((row as Difference).there ?? 0) - ((row as Difference).here ?? 0))
        }}</template>
      </el-table-column>
    </el-table>
  </el-drawer>
</template>
