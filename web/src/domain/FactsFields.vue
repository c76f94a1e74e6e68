<script setup lang="ts">
// What a trip asks of a thing beside its jobs: how warm it is rated, what it adds to a bag, the gas in a full can.
import { useUnits } from './units'
import { RATINGS, type TypedFacts } from './facts'

const facts = defineModel<TypedFacts>({ required: true })
const props = defineProps<{ refusalFor: (field: string) => string; path?: string }>()
const units = useUnits()
const field = (name: string) => `${props.path ?? ''}facts.${name}`
</script>

<template>
  <div class="facts">
    <el-form-item label="Rated to" :error="refusalFor(field('rating'))">
      <el-input
        v-model="facts.rating"
        name="rating"
        :placeholder="
          units.measures.value === 'metric' ? 'bag or quilt, such as -2' : 'bag or quilt, such as 28'
        "
      />
    </el-form-item>
    <el-form-item label="The rating is">
      <el-select v-model="facts.rating_kind" aria-label="The rating is">
        <el-option v-for="(name, kind) in RATINGS" :key="kind" :value="kind" :label="name" />
      </el-select>
    </el-form-item>
    <el-form-item label="Adds to a bag" :error="refusalFor(field('warms'))">
      <el-input v-model="facts.warms" name="warms" placeholder="a liner, such as 3" />
    </el-form-item>
    <el-form-item label="Gas in a full can" :error="refusalFor(field('contents'))">
      <el-input
        v-model="facts.contents"
        name="contents"
        :placeholder="units.measures.value === 'metric' ? '230 g' : '8.1 oz'"
      />
    </el-form-item>
  </div>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 var(--s-4);
}
</style>
