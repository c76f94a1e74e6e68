<script setup lang="ts">
// What it costs to bring what the plan leaves alone: by how much the plan would be cheaper without it, wants first. Of a need it is not
// said: nobody should weigh a map or a warm jacket against money.
import { computed, ref } from 'vue'
import type { PlanAnswer } from '@/api/client'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer }>()
const units = useUnits()
/** How many stand there at first. */
const FEW = 5
const showsAll = ref(false)
const nights = computed(() => Math.max(0, (props.answer.list.trip?.days ?? 1) - 1))
const all = computed(() => props.answer.keeps.filter((one) => one.need !== 'need'))
const rows = computed(() => {
  const wants = all.value.filter((one) => one.need === 'want').length
  return showsAll.value ? all.value : all.value.slice(0, Math.max(FEW, wants))
})
const byNight = (minor: number) =>
  nights.value > 1 ? `, ${units.moneyText(Math.round(minor / nights.value))} a night` : ''
</script>

<template>
  <section v-if="all.length" class="card" aria-label="What it costs to bring">
    <h2>What it costs to bring</h2>
    <p class="muted">The plan would be so much cheaper if it stayed at home.</p>
    <div class="rows">
      <div v-for="one in rows" :key="one.line">
        <span
          >{{ one.name }} {{ units.tableText(one.mass_mg)
          }}<small v-if="one.need === 'want'" class="want"> want</small></span
        >
        <b class="n"
          >{{ units.moneyText(one.costs_minor)
          }}<small v-if="one.need === 'want'" class="muted">{{ byNight(one.costs_minor) }}</small></b
        >
      </div>
    </div>
    <el-button v-if="rows.length < all.length" link type="primary" @click="showsAll = true"
      >All {{ all.length }}</el-button
    >
  </section>
</template>

<style scoped>
.want {
  color: var(--cloudberry);
}
.n {
  white-space: nowrap;
}
</style>
