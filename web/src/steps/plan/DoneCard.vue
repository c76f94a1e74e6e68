<script setup lang="ts">
// Swaps that are done: what they took and saved, the newest first; each can be undone.
import { computed } from 'vue'
import type { PlanAnswer, Swap } from '@/api/client'
import { day } from '@/quantities/dates'
import { useUnits } from '@/domain/units'

const props = defineProps<{ answer: PlanAnswer }>()
const emit = defineEmits<{ undo: [swap: Swap] }>()
const units = useUnits()
const rows = computed(() => [...props.answer.done].sort((a, b) => b.done!.at.localeCompare(a.done!.at)))
const saved = computed(() =>
  props.answer.done.reduce((sum, { done }) => sum + done!.base_before_mg - done!.base_after_mg, 0),
)
</script>

<template>
  <section v-if="rows.length" class="card" aria-label="Done">
    <h2>
      Done
      <small class="muted">{{ units.tableText(saved) }} for {{ units.moneyText(answer.spent_minor) }}</small>
    </h2>
    <div class="rows">
      <div v-for="swap in rows" :key="swap.id">
        <span
          >{{ swap.name }}<br /><small class="muted"
            >{{ day(swap.done!.at) }}: {{ units.totalText(swap.done!.base_before_mg) }} to
            {{ units.totalText(swap.done!.base_after_mg) }} for
            {{ units.moneyText(swap.done!.paid_minor - swap.done!.got_minor) }}</small
          ></span
        >
        <el-button link type="primary" :aria-label="`Undo ${swap.name}`" @click="emit('undo', swap)"
          >Undo</el-button
        >
      </div>
    </div>
  </section>
</template>
