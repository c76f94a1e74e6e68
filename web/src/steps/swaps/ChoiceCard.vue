<script setup lang="ts">
// Choices for the same gear: what each step's extra grams cost against the step before.
import { computed } from 'vue'
import { listed } from '@/quantities/count'
import type { ListLine, PlanAnswer } from '@/api/client'
import Figure from '@/marks/Figure.vue'
import { useUnits } from '@/domain/units'
import { rankedOf } from './swaps'

const props = defineProps<{ answer: PlanAnswer; lines: ListLine[]; selected: string | null }>()
const units = useUnits()

/** The group of the selected swap, else the one that can save most. */
const group = computed(() => {
  const { choices } = props.answer
  const selected = choices.find((group) =>
    group.some((choice) => props.answer.swaps[choice.swap]?.id === props.selected),
  )
  const saving = (group: PlanAnswer['choices'][number]) =>
    Math.max(...group.map((choice) => figures(choice.swap)?.saving_mg ?? 0))
  return selected ?? [...choices].sort((a, b) => saving(b) - saving(a))[0]
})

const ranking = computed(() => rankedOf(props.answer))
const figures = (swap: number) => ranking.value.find((row) => row.swap === swap)
const kept = computed(() => {
  const removed = props.answer.swaps[group.value?.[0]?.swap ?? -1]?.remove ?? []
  return listed(
    removed.flatMap(({ line }) => props.lines.find((other) => other.id === line)?.gear.name ?? []),
  )
})

function why(choice: PlanAnswer['choices'][number][number]) {
  if (choice.standing === 'beaten_by_keeping') return 'saves no more than keeping what you have'
  if (choice.standing === 'never_best_step') return 'another choice is always better value'
  return `beaten by ${props.answer.swaps[choice.by ?? -1]?.name}: saves no more, costs no less`
}
</script>

<template>
  <section v-if="group" class="card">
    <h2>{{ kept }}: what the extra grams cost</h2>
    <div class="rows">
      <div><span>Keep it</span><Figure v-bind="units.money(0)" size="text" tone="quiet" /></div>
      <div v-for="choice in group" :key="choice.swap" :class="{ muted: choice.standing !== 'step' }">
        <span>
          <b v-if="choice.standing === 'step'">{{ answer.swaps[choice.swap]!.name }}</b>
          <template v-else
            >{{ answer.swaps[choice.swap]!.name }}<br /><small>{{ why(choice) }}</small></template
          >
          <template
            v-if="choice.standing === 'step' && choice.extra_saving_mg !== figures(choice.swap)?.saving_mg"
          >
            <br /><small class="muted"
              >{{ units.tableText(choice.extra_saving_mg!) }} more than the step before for
              {{ units.moneyText(choice.extra_net_minor!) }} more</small
            >
          </template>
        </span>
        <span class="n">
          <Figure
            v-bind="units.table(figures(choice.swap)!.saving_mg!)"
            :size="choice.standing === 'step' ? 'table' : 'text'"
          />
          <small v-if="choice.standing === 'step' && choice.extra_net_minor! > 0" class="money">
            {{ units.moneyText(choice.extra_net_minor!) }},
            {{ units.perMass(choice.extra_saving_mg!, choice.extra_net_minor!) }}
          </small>
          <small v-else>{{ units.moneyText(figures(choice.swap)!.net_minor!) }}</small>
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.n {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  text-align: right;
  white-space: nowrap;
}
small {
  font-size: var(--text-s);
}
.muted b {
  font-weight: 400;
}
</style>
