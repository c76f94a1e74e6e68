<script setup lang="ts">
// A figure with its unit small behind it and, where wanted, a bar under it on its column's scale.
import { computed } from 'vue'

const props = defineProps<{
  figure: string
  unit: string
  /** Whether the unit stands before the figure. */
  leads?: boolean
  size?: 'text' | 'table' | 'beam' | 'large'
  tone?: 'ink' | 'quiet' | 'spruce' | 'money' | 'chosen'
  /** Share of the column's largest, 0 to 1. */
  bar?: number
  barWidth?: number
  barTone?: 'spruce' | 'money'
}>()
/** A minus stands before the sign: −$45. */
const isBelow = computed(() => props.figure.startsWith('−'))
/** Pounds before ounces: their unit stands small, too. */
const pounds = computed(() => /^(.+) lb (.+)$/.exec(props.figure))
</script>

<template>
  <span
    class="figure"
    :class="[{ barred: bar !== undefined }, `size-${size ?? 'table'}`, `tone-${tone ?? 'ink'}`]"
  >
    <span class="line"
      ><small v-if="leads && unit">{{ isBelow ? '−' : '' }}{{ unit }}</small
      ><template v-if="pounds"
        ><b>{{ pounds[1] }}</b
        ><small>&thinsp;lb </small><b>{{ pounds[2] }}</b></template
      ><b v-else>{{ leads && unit && isBelow ? figure.slice(1) : figure }}</b
      ><small v-if="!leads && unit">&thinsp;{{ unit }}</small></span
    >
    <svg v-if="bar !== undefined" class="bar" :width="barWidth ?? 60" height="3" aria-hidden="true">
      <rect
        :x="(barWidth ?? 60) * (1 - Math.max(0, Math.min(1, bar)))"
        width="100%"
        height="3"
        :fill="barTone === 'money' ? 'var(--cloudberry)' : 'var(--spruce)'"
      />
    </svg>
  </span>
</template>

<style scoped>
.figure {
  line-height: 1.15;
}
.barred {
  display: inline-flex;
  flex-direction: column;
  align-items: flex-end;
}
.line {
  white-space: nowrap;
}
b {
  font-weight: 650;
}
small {
  color: var(--ink-2);
  font-size: var(--text-s);
  font-weight: 400;
}
.size-text b {
  font-weight: 400;
}
.size-table b {
  font-size: var(--text-l);
}
.size-beam b {
  font-size: var(--figure-m);
}
.size-large b {
  font-size: var(--figure-l);
}
.size-large small {
  font-size: var(--text-field);
  font-weight: 500;
}
.tone-quiet b {
  color: var(--ink-2);
}
.tone-spruce b {
  color: var(--spruce);
}
.tone-money b {
  color: var(--cloudberry);
}
.tone-chosen b {
  color: var(--lake);
}
.bar {
  margin-top: 1px;
}
</style>
