<script setup lang="ts">
// What the plan counts on: by how much it clears the target as weights are stated, as they are expected, and at worst.
import { computed } from 'vue'
import type { Counting, PlanAnswer } from '@/api/client'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer }>()
const emit = defineEmits<{ count: [counting: Counting] }>()
const units = useUnits()
const NAMES: Record<Counting, [string, string]> = {
  stated: ['Weights as stated', ''],
  expected: ['As your scale finds them', 'makers’ figures moved by your own median'],
  worst: ['Worst case', 'every weight at its heaviest'],
}
const rows = computed(() =>
  props.answer.plan.clears.map(({ counting, mg }) => ({
    counting,
    name: NAMES[counting][0],
    note: NAMES[counting][1],
    clears: mg >= 0,
    text: units.tableText(Math.abs(mg)),
    isOn: props.answer.list.terms.counting === counting,
  })),
)
/** "7 in 10", and nothing surer than 99 in 100. */
const chance = computed(() => {
  const percent = props.answer.chance_percent
  if (percent == null) return ''
  if (percent >= 99 || percent <= 1) return percent >= 99 ? 'At least 99 in 100' : 'At most 1 in 100'
  return `${Math.round(percent / 10)} in 10`
    .replace(/^10 in 10$/, 'Over 9 in 10')
    .replace(/^0 in 10$/, 'Under 1 in 10')
})
</script>

<template>
  <section v-if="rows.length" class="card" aria-label="Weights used">
    <h2>Weights used</h2>
    <div class="rows" role="radiogroup" aria-label="The plan counts on">
      <div v-for="row in rows" :key="row.counting">
        <el-button
          link
          role="radio"
          class="pick"
          :class="{ on: row.isOn }"
          :aria-checked="row.isOn"
          @click="emit('count', row.counting)"
          ><span
            >{{ row.name }}<small v-if="row.note" class="muted">{{ row.note }}</small></span
          ></el-button
        >
        <span :class="['n', { caution: !row.clears }]"
          >{{ row.clears ? 'under the target by' : 'over the target by' }} <b>{{ row.text }}</b></span
        >
      </div>
    </div>
    <p v-if="chance" class="muted">
      <b>{{ chance }}</b> that the scale agrees: base weight at or under the target.
    </p>
  </section>
</template>

<style scoped>
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
.n {
  white-space: nowrap;
}
</style>
