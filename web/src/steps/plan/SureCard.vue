<script setup lang="ts">
// How sure the plan may be: the cheapest set that the scale agrees with so many times in ten, and what not knowing a weight costs.
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { stepOf } from '@/domain/lists'
import { differences, levelOf, LEVELS } from '@/domain/sure'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer }>()
/** How sure the second flag is; `null` for even at worst. */
const level = defineModel<number | null>({ required: true })
const units = useUnits()
/** How many doubts stand here; the weigh queue has them all. */
const FEW = 3

const rows = computed(() =>
  LEVELS.map(({ percent, name }) => {
    const found = levelOf(props.answer.sure, percent)
    const more = found ? found.net_minor - props.answer.plan.net_minor : 0
    const dearer = more === 0 ? 'the same money' : `${more > 0 ? '+' : '−'}${units.moneyText(Math.abs(more))}`
    const text = found
      ? `${units.totalText(found.base_mg)}, ${props.answer.plan.swaps ? dearer : units.moneyText(found.net_minor)}`
      : 'no set of these swaps'
    return { percent, name, text, isOn: level.value === percent }
  }),
)
const names = (swaps: number[]) => swaps.map((at) => props.answer.swaps[at]?.name ?? '').join(', ')
const change = computed(() => {
  const found = levelOf(props.answer.sure, level.value)
  const planned = props.answer.plan.swaps
  if (!found || !planned) return ''
  const { more, less } = differences(found.swaps, planned)
  const parts = [more.length ? `with ${names(more)}` : '', less.length ? `without ${names(less)}` : '']
  return parts.filter(Boolean).join('; ')
})
const doubts = computed(() => props.answer.sure?.doubts.slice(0, FEW) ?? [])
</script>

<template>
  <section v-if="answer.sure" class="card" aria-label="How sure">
    <h2>How sure</h2>
    <p class="muted">
      The cheapest set that the scale would agree with so often; its flag is the outlined one.
    </p>
    <div class="rows" role="radiogroup" aria-label="How often the scale should agree">
      <div v-for="row in rows" :key="row.name">
        <el-button
          link
          role="radio"
          class="pick"
          :class="{ on: row.isOn }"
          :aria-checked="row.isOn"
          @click="level = row.percent"
          >{{ row.name }}</el-button
        >
        <span class="n">{{ row.text }}</span>
      </div>
    </div>
    <p v-if="change" class="muted">Against the plan: {{ change }}. Pin what comes in to plan for it.</p>
    <template v-if="doubts.length">
      <h3>Not knowing costs</h3>
      <div class="rows">
        <div v-for="doubt in doubts" :key="doubt.line">
          <span>{{ doubt.name }}</span>
          <b class="n">{{ units.moneyText(doubt.costs_minor) }}</b>
        </div>
      </div>
      <p class="muted">
        By so much cheaper would 9 in 10 be if it weighed what is expected.
        <RouterLink class="link" :to="stepOf(answer.list.id, 'weigh')">Weigh it first.</RouterLink>
      </p>
    </template>
  </section>
</template>

<style scoped>
.pick {
  height: auto;
  color: var(--ink);
  font-weight: 400;
}
.pick.on {
  color: var(--lake);
  font-weight: 650;
}
.pick.on::before {
  content: '▸\00a0';
}
h3 {
  margin: var(--s-3) 0 var(--s-1);
  font-size: var(--text);
}
.n {
  text-align: right;
}
</style>
