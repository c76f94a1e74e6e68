<script setup lang="ts">
// The beam along the top of every screen: now → planned → target, and money planned against the budget.
import { useWindowSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import Figure from '@/marks/Figure.vue'
import GramScale from '@/marks/GramScale.vue'
import MoneyScale from '@/marks/MoneyScale.vue'
import { zoom } from '@/marks/room'
import { totalMass } from '@/quantities/mass'
import { typedAmount } from '@/quantities/money'
import EditableFigure from '@/controls/EditableFigure.vue'
import { ANYWHERE, useKeys } from '@/controls/keys'
import ListPicker from './ListPicker.vue'
import { useQuestion } from '@/domain/question'
import { TARGETS } from '@/domain/targetOf'
import { useUnits } from '@/domain/units'

const props = defineProps<{ list: string }>()
const { answer, plan, target, budget, spent, ask } = useQuestion(() => props.list)
const units = useUnits()
const { width: pixels } = useWindowSize()
const width = computed(() => pixels.value / zoom)
const narrow = computed(() => width.value <= 700)

const targetField = useTemplateRef('targetField')
const budgetField = useTemplateRef('budgetField')
useKeys(ANYWHERE, [
  { key: 't', does: 'change the target', run: () => targetField.value?.edit() },
  { key: 'b', does: 'change the budget', run: () => budgetField.value?.edit() },
])

/** A figure with its unit under it, beside its caption; ounces stand beside their pounds, but on a phone pounds have decimals. */
function written(mg: number) {
  const { figure, unit } =
    narrow.value && units.system.value === 'pounds_and_ounces'
      ? totalMass(mg, 'decimal_pounds')
      : units.total(mg)
  const isInPounds = figure.includes(' lb ')
  return { figure, unit: isInPounds ? unit : '', under: isInPounds ? '' : unit }
}
const now = computed(() => written(answer.value?.aim_mg ?? 0))
const planned = computed(() => (plan.value?.hasPlan ? written(plan.value.base_mg) : null))
const aim = computed(() => (target.value === null ? null : written(target.value)))
const wide = computed(() => width.value >= 1100)
const scaleWidth = computed(() => Math.min(330, Math.max(160, (width.value - 950) * 1)))
const spentCaption = computed(() =>
  spent.value > 0 ? `planned, ${units.money(spent.value).figure} of it spent` : 'planned',
)
const COUNTED = { stated: '', expected: ', as expected', worst: ', at worst' }
const nowCaption = computed(() => {
  const { counting = 'stated', target_of: of = 'base' } = answer.value?.list.terms ?? {}
  return TARGETS[of].caption + COUNTED[counting] + (answer.value?.unknown ? ', at least' : '')
})
const budgetCaption = computed(() =>
  budget.value === null ? 'no budget' : `planned of ${units.money(budget.value).figure}`,
)
</script>

<template>
  <header class="beam-bar" aria-label="Base weight and money">
    <ListPicker ref="picker" :list="list" />
    <template v-if="answer">
      <div class="stack">
        <Figure :figure="now.figure" :unit="now.unit" size="beam" />
        <span class="caption">{{ now.under }} {{ nowCaption }}</span>
      </div>
      <div class="stack">
        <Figure :figure="planned?.figure ?? '–'" :unit="planned?.unit ?? ''" size="beam" tone="spruce" />
        <span class="caption">planned</span>
      </div>
      <EditableFigure
        ref="targetField"
        label="target"
        tone="chosen"
        :figure="aim?.figure ?? 'set'"
        :unit="aim?.under ?? ''"
        :beside="aim?.unit"
        :typed="answer.list.target_typed ?? ''"
        :save="(typed) => ask({ target: typed.trim() === '' ? null : typed })"
      />
      <GramScale
        v-if="wide"
        :now="answer.aim_mg"
        :planned="plan?.hasPlan ? plan.base_mg : null"
        :target="target"
        :unit-mg="units.scale.value.mg"
        :width="scaleWidth"
      />
      <div class="stack spent">
        <Figure
          :figure="units.money((plan?.net_minor ?? 0) + spent).figure"
          unit=""
          size="beam"
          tone="money"
        />
        <span class="caption">{{ units.money(0).unit }} {{ spentCaption }}</span>
      </div>
      <EditableFigure
        ref="budgetField"
        class="budget"
        label="budget"
        tone="chosen"
        :figure="budget === null ? 'set' : units.money(budget).figure"
        :unit="budget === null ? '' : units.money(0).unit"
        :typed="budget === null ? '' : typedAmount(budget, units.currency.value)"
        :save="(typed) => ask({ budget: typed.trim() === '' ? null : typed })"
      />
      <MoneyScale
        v-if="wide"
        :planned="plan?.net_minor ?? 0"
        :spent="spent"
        :budget="budget"
        :minor-per-major="10 ** units.currency.value.decimals"
        :width="scaleWidth * 0.6"
        :aria-label="budgetCaption"
      />
    </template>
  </header>
</template>

<style scoped>
.beam-bar {
  position: fixed;
  left: var(--rail-width);
  right: 0;
  top: 0;
  height: var(--beam-height);
  z-index: 10;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  display: flex;
  align-items: center;
  padding: 0 var(--s-5);
  gap: var(--s-4);
}
.stack {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  line-height: 1.05;
}
.caption {
  font-size: var(--text-xs);
  color: var(--ink-2);
  margin-top: var(--s-0h);
  white-space: nowrap;
}
@media (max-width: 700px) {
  .beam-bar {
    left: 0;
    height: 64px;
    padding: 0 var(--s-2);
    gap: var(--s-2);
    justify-content: space-between;
  }
  .beam-bar :deep(.figure b) {
    font-size: var(--text-l);
  }
  /* What is planned for the money is the Plan's first figure; here there is room for what can be changed. */
  .spent {
    display: none;
  }
}
</style>
