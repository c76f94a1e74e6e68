<script setup lang="ts">
// A swap read before it is edited: what it saves and costs, before and after fact by fact, and what it does to cautions and jobs.
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted, useTemplateRef } from 'vue'
import type { ListLine, PlanAnswer, Swap } from '@/api/client'
import { afterQuery } from '@/api/queries'
import AfterCautions from '@/domain/AfterCautions.vue'
import { useUnits } from '@/domain/units'
import { turnOf } from '@/domain/near'
import { unavailableWhy } from '@/domain/reasons'
import { KINDS } from '@/domain/words'
import Figure from '@/marks/Figure.vue'
import Slope from '@/marks/Slope.vue'
import { medianRatio } from '@/domain/median'
import { doubtOf, factsOf, neededByOf } from './facts'
import { rankedOf } from './swaps'

const props = defineProps<{ swap: Swap; lines: ListLine[]; answer: PlanAnswer }>()
const emit = defineEmits<{ edit: []; 'set-state': [state: 'pinned' | 'ruled_out'] }>()
const units = useUnits()
const at = computed(() => props.answer.swaps.findIndex((one) => one.id === props.swap.id))
const ranking = computed(() => rankedOf(props.answer))
/** Its row, with the saving that ranks: what is said of it is counted as the ranking counts. */
const ranked = computed(() => ranking.value.find((row) => row.swap === at.value))
const everything = computed(() => props.answer.list.terms.rank_by === 'everything')
const near = computed(() => props.answer.near_misses.find((one) => one.swap === props.swap.id))
const inPlan = computed(() => props.answer.plan.swaps?.includes(at.value) ?? false)
const { data: after, isError } = useQuery(
  computed(() => ({ ...afterQuery(props.swap.list, [props.swap.id]), enabled: at.value >= 0 })),
)
const facts = computed(() =>
  factsOf(props.swap, props.lines, {
    table: units.tableText,
    money: units.moneyText,
    measures: units.measures.value,
  }),
)
/** The swap in the plan's words. */
const standing = computed(() => {
  if (props.swap.unavailable) return unavailableWhy(props.swap.unavailable)
  if (props.swap.state === 'ruled_out') return 'Ruled out: no plan includes it.'
  const row = ranked.value
  if (!row) return ''
  if (row.missing.length) return `Not ranked: the ${row.missing.join(' and the ')} is missing.`
  const place =
    `Place ${row.place}` +
    (row.best_place === row.worst_place ? '' : `, could be ${row.best_place} to ${row.worst_place}`)
  const turn = turnOf(props.answer, props.swap.id, units.moneyText)
  const beside = turn === '' ? '' : `; ${turn}`
  const planned = inPlan.value
    ? near.value?.why === 'needed'
      ? 'in the plan, and nothing works without it'
      : `in the plan${beside}`
    : near.value?.why === 'never'
      ? 'not in the plan, at no price'
      : `not in the plan${beside}`
  return `${place}. It is ${planned}.`
})
const doubt = computed(() => (ranked.value ? doubtOf(ranked.value, units.tableText) : ''))
/** Why the resale counts as it does, where that is not what was typed. */
const resale = computed(() => {
  const needed = neededByOf(props.swap)
  return needed === '' || props.swap.sells_needed ? '' : `${needed}, so its resale counts for nothing.`
})
/** With what its delivery is shared. */
const parcel = computed(() => {
  const { parcel } = props.swap
  const others = props.answer.swaps.filter((one) => one.id !== props.swap.id && one.parcel === parcel)
  if (!parcel || others.length === 0) return ''
  const some = others.slice(0, 3).map(({ name }) => name)
  const more = others.length > some.length ? `${others.length - some.length} more` : []
  return `From the same place: ${some.concat(more).join(', ')}. Ordered together, delivery is paid once.`
})
const button = useTemplateRef<{ $el: HTMLElement }>('button')
onMounted(() => button.value?.$el.focus())
</script>

<template>
  <article class="read">
    <div class="sums">
      <Slope
        v-if="ranked?.saving_mg != null && ranked.net_minor != null"
        :saving="ranked.saving_mg"
        :net="ranked.net_minor"
        :median="medianRatio(ranking)"
        :height="56"
      />
      <div v-if="ranked?.saving_mg != null">
        <Figure v-bind="units.table(ranked.saving_mg)" size="large" tone="spruce" />
        <span class="muted"
          >{{ ranked.saving_mg < 0 ? 'heavier' : 'saved' }}{{ everything ? ', worn and carried' : '' }}</span
        >
      </div>
      <div v-if="ranked?.net_minor != null">
        <Figure v-bind="units.money(ranked.net_minor)" size="large" tone="money" />
        <span class="muted">{{ KINDS[swap.kind] }}</span>
      </div>
    </div>
    <p class="muted">{{ standing }}</p>
    <p v-if="resale" class="muted">{{ resale }}</p>
    <p v-if="parcel" class="muted">{{ parcel }}</p>
    <p v-if="doubt" class="muted">{{ doubt }}</p>
    <table class="facts">
      <thead>
        <tr>
          <th><span class="visually-hidden">Fact</span></th>
          <th>Now</th>
          <th>Then</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="fact in facts" :key="fact.name">
          <th scope="row">{{ fact.name }}</th>
          <td :class="{ better: fact.better === 'now' }">{{ fact.now }}</td>
          <td :class="{ better: fact.better === 'then' }">{{ fact.then }}</td>
        </tr>
      </tbody>
    </table>
    <AfterCautions v-if="after" :after="after" :list="answer.list" />
    <p v-else-if="isError" class="caution">
      What it does to cautions can’t be said now. Open it again in a moment.
    </p>
    <p v-if="swap.kind === 'make'" class="muted">
      Try a shelter, pack or quilt that you made close to home first.
    </p>
    <div class="actions">
      <el-button ref="button" type="primary" @click="emit('edit')">Edit</el-button>
      <template v-if="!swap.unavailable">
        <el-button @click="emit('set-state', 'pinned')">{{
          swap.state === 'pinned' ? 'Unpin' : 'Pin'
        }}</el-button>
        <el-button @click="emit('set-state', 'ruled_out')">{{
          swap.state === 'ruled_out' ? 'Allow again' : 'Rule out'
        }}</el-button>
      </template>
    </div>
  </article>
</template>

<style scoped>
.read {
  display: grid;
  gap: var(--s-3);
}
.sums {
  display: flex;
  align-items: center;
  gap: var(--s-5);
}
.sums > div {
  display: grid;
  justify-items: start;
}
.facts {
  border-collapse: collapse;
  width: 100%;
}
.facts th,
.facts td {
  text-align: left;
  padding: var(--s-1h) var(--s-2) var(--s-1h) 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
  overflow-wrap: anywhere;
}
.facts th {
  font-weight: 400;
  color: var(--ink-2);
  font-size: var(--text-m);
}
.better {
  color: var(--spruce);
  font-weight: 650;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2);
}
</style>
