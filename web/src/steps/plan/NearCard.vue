<script setup lang="ts">
// Near misses: at which price a swap would come into the plan, and at which one would fall out.
import { computed, ref } from 'vue'
import type { PlanAnswer } from '@/api/client'
import Loaded from '@/controls/Loaded.vue'
import { useUnits } from '@/domain/units'
import { nearMisses, type Near } from '@/domain/near'
import { listed } from '@/quantities/count'

const props = defineProps<{ answer: PlanAnswer; error: Error | null }>()
const emit = defineEmits<{ retry: [] }>()
const units = useUnits()
const SHOWN = 4
const all = ref(false)
const found = computed(() => nearMisses(props.answer))
const groups = computed(() =>
  [
    { title: 'Buy below', rows: found.value.buyBelow },
    { title: 'Drop above', rows: found.value.dropAbove },
  ]
    .filter((group) => group.rows.length > 0)
    .map(({ title, rows }) => ({ title, rows: all.value ? rows : rows.slice(0, SHOWN), more: rows.length })),
)
const hasMore = computed(() => groups.value.some((group) => group.more > SHOWN))
const money = ({ then, each }: Near) => units.moneyText(then) + (each ? '' : then < 0 ? ' back' : ' in all')
</script>

<template>
  <section v-if="groups.length || found.needed.length || error" class="card near" aria-label="Near misses">
    <Loaded what="At which prices the plan changes" known :error="error" @retry="emit('retry')" />
    <template v-for="group in groups" :key="group.title">
      <h2>{{ group.title }}</h2>
      <div class="rows">
        <div v-for="near in group.rows" :key="near.swap.id">
          <span>{{ near.swap.name }}</span>
          <span class="n"
            ><small class="muted">now {{ units.moneyText(near.now) }}</small>
            <span
              ><small v-if="near.byBudget" class="muted">the budget ends at </small
              ><b class="money">{{ money(near) }}</b></span
            ></span
          >
        </div>
      </div>
    </template>
    <el-button v-if="hasMore" link type="primary" @click="all = !all">{{
      all ? 'Show the nearest' : 'Show all'
    }}</el-button>
    <p v-if="found.needed.length" class="muted">
      Nothing works without {{ listed(found.needed) }}, whatever
      {{ found.needed.length === 1 ? 'it costs' : 'they cost' }}.
    </p>
  </section>
</template>

<style scoped>
.near h2 + .rows {
  margin-bottom: var(--s-2);
}
.n {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  white-space: nowrap;
}
.money {
  color: var(--cloudberry);
}
span {
  overflow-wrap: anywhere;
}
p {
  font-size: var(--text-m);
  margin-top: var(--s-2);
}
</style>
