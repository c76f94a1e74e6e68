<script setup lang="ts" generic="Value extends string | number | null">
// One of several, each on a row with a figure to its right.
defineProps<{
  label: string
  rows: { value: Value; name: string; note?: string }[]
}>()
const picked = defineModel<Value>({ required: true })
</script>

<template>
  <div class="rows" role="radiogroup" :aria-label="label">
    <div v-for="row in rows" :key="row.name">
      <el-button
        link
        role="radio"
        class="pick"
        :class="{ on: row.value === picked }"
        :aria-checked="row.value === picked"
        @click="picked = row.value"
        ><span
          >{{ row.name }}<small v-if="row.note" class="muted">{{ row.note }}</small></span
        ></el-button
      >
      <span class="figure"><slot :value="row.value" /></span>
    </div>
  </div>
</template>

<style scoped>
.rows > div {
  align-items: baseline;
}
.pick {
  height: auto;
  white-space: normal;
  text-align: left;
}
.pick span {
  display: block;
  font-weight: 400;
  color: var(--ink);
}
.pick.on span {
  color: var(--lake);
  font-weight: 650;
}
.pick.on span::before {
  content: '▸ ';
}
.pick small {
  display: block;
  font-size: 12px;
  font-weight: 400;
}
.figure {
  text-align: right;
}
</style>
