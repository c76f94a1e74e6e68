<script setup lang="ts">
// Where light is to be had: what is heavy for its kind, as places to look for swaps, most grams first.
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Lighter, Swap } from '@/api/client'
import { lighterQuery } from '@/api/queries'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { lighterLine } from './lighter'

const props = defineProps<{ list: string; swaps: Swap[] }>()
/** A swap is begun by a line, its figures a guess. */
const emit = defineEmits<{ begin: [line: string] }>()
const units = useUnits()
const { data } = useQuery(computed(() => ({ ...lighterQuery(props.list), enabled: props.list !== '' })))
// Something of which there are swaps already is looked at there.
const all = computed(() => {
  const swapped = new Set(props.swaps.flatMap((swap) => swap.remove.map(({ line }) => line)))
  return (data.value ?? []).filter((one) => !swapped.has(one.line))
})
/** Made up in euros; near enough where a unit of money is about as much. */
const hasPrices = computed(() => ['EUR', 'USD', 'GBP', 'CHF'].includes(units.currency.value.code))
const price = (euros: number) => units.moneyText(euros * 10 ** units.currency.value.decimals)
const typical = ({ mg, euros }: Lighter['light']) =>
  `${units.tableText(mg)}${hasPrices.value ? ` and cost ${price(euros)}` : ''}`
const begin = (one: Lighter) => emit('begin', lighterLine(one, units.currency.value.code, hasPrices.value))
</script>

<template>
  <section v-if="all.length" class="card" aria-label="Where light is to be had">
    <h2>Where light is to be had</h2>
    <p class="muted">
      Typical figures, to say where to look. A light one may be less warm, smaller or less durable.
    </p>
    <ul class="rows">
      <li v-for="one in all" :key="one.line">
        <span
          ><b>{{ one.name }}</b> {{ units.tableText(one.unit_mg)
          }}<small class="muted"
            >{{ one.kind }}: light ones weigh about {{ typical(one.light) }}, usual ones
            {{ typical(one.usual) }}</small
          ></span
        >
        <span class="right">
          <Figure v-bind="units.table(-one.saving_mg)" size="text" tone="spruce" />
          <el-button size="small" :aria-label="`Begin a swap for ${one.name}`" @click="begin(one)"
            >Begin a swap</el-button
          >
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
small {
  display: block;
  font-size: 12px;
}
.right {
  display: grid;
  justify-items: end;
  gap: 4px;
}
</style>
