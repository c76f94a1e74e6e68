<script setup lang="ts" generic="Value extends string | number | null">
// One of several, each on a row with a figure to its right.
import { computed } from 'vue'

const props = defineProps<{
  label: string
  rows: { value: Value; name: string; note?: string }[]
}>()
const picked = defineModel<Value>({ required: true })
/** A radio's value is a text; nothing may be one of the values. */
const place = computed({
  get: () => String(props.rows.findIndex((row) => row.value === picked.value)),
  set: (at) => (picked.value = props.rows[Number(at)]!.value),
})
</script>

<template>
  <el-radio-group v-model="place" class="rows" :aria-label="label">
    <div v-for="(row, at) in rows" :key="row.name">
      <el-radio :value="String(at)" class="pick">
        {{ row.name }}<small v-if="row.note" class="muted">{{ row.note }}</small>
      </el-radio>
      <span class="figure"><slot :value="row.value" /></span>
    </div>
  </el-radio-group>
</template>

<style scoped>
.rows {
  display: block;
}
.rows > div {
  align-items: baseline;
}
.pick {
  height: auto;
  margin: 0;
  white-space: normal;
}
.pick :deep(.el-radio__label) {
  line-height: 1.35;
}
.pick.is-checked :deep(.el-radio__label) {
  font-weight: 650;
}
.pick small {
  display: block;
  font-size: var(--text-s);
  font-weight: 400;
}
.figure {
  text-align: right;
}
</style>
