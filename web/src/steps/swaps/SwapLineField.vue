<script setup lang="ts">
// A new swap in one line, and how the line was understood.
import { computed, useTemplateRef } from 'vue'
import { lineExamples } from '@/domain/examples'
import { useUnits } from '@/domain/units'
import { KINDS } from '@/domain/words'
import type { useSwapLine } from './swapLine'

const props = defineProps<{ quick: ReturnType<typeof useSwapLine> }>()
const line = defineModel<string>({ required: true })
const units = useUnits()
const example = computed(() => lineExamples(units))
const { read, trouble, question, typed } = props.quick
const field = useTemplateRef<{ focus: () => void }>('field')
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="line">
    <el-form-item label="In one line">
      <el-input
        ref="field"
        v-model="line"
        data-rows
        name="swap-line"
        size="large"
        :placeholder="example.swap"
        autocomplete="off"
        maxlength="400"
        aria-describedby="swap-read"
        @input="typed"
      />
    </el-form-item>
    <p id="swap-read" class="read" aria-live="polite">
      <template v-if="read">
        <span class="chip"><small>kind</small> {{ KINDS[read.draft.kind] }}</span>
        <template v-for="(chip, at) in read.chips" :key="at">
          <span v-if="chip.kind === 'refused'" class="caution"
            ><u>{{ chip.text }}</u> not understood.</span
          >
          <span v-else class="chip">{{ units.meaning(chip) }}</span>
        </template>
        <span v-for="name in read.gone" :key="name" class="chip"><small>replaces</small> {{ name }}</span>
        <span v-if="question" class="caution" role="alert">{{ question }}</span>
        <span v-else class="muted"><kbd>Enter</kbd> makes it; the fields below can change it first.</span>
      </template>
      <span v-else-if="trouble" class="caution" role="alert">{{ trouble }}</span>
      <span v-else class="muted"
        >Or <b>leave out mug</b>, <b>{{ example.trim }}</b>, <b>{{ example.make }}</b>.</span
      >
    </p>
  </div>
</template>

<style scoped>
.line :deep(.el-form-item) {
  margin-bottom: var(--s-0h);
}
.read {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-1) var(--s-1h);
  font-size: var(--text-m);
  min-height: 24px;
}
.read small {
  font-size: var(--text-xs);
}
.chip {
  overflow-wrap: anywhere;
  font-size: var(--text-m);
}
</style>
