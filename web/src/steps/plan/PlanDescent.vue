<script setup lang="ts">
// The plan's descent: where it stops, how sure that is, and what target and budget would do elsewhere.
import { computed, ref, useTemplateRef } from 'vue'
import type { PlanAnswer } from '@/api/client'
import ExportMenu from '@/controls/ExportMenu.vue'
import { changeWords, stepTo } from '@/domain/ladder'
import type { ShownPlan } from '@/domain/question'
import { levelOf, LEVELS } from '@/domain/sure'
import { useUnits } from '@/domain/units'
import Descent from '@/marks/Descent.vue'
import { listed } from '@/quantities/count'
import { descentRows } from './planRows'

const props = defineProps<{
  answer: PlanAnswer
  plan: ShownPlan
  target: number | null
  /** What is left of the budget: the fence. */
  left: number | null
  /** Whether one of its lines is being moved: what belongs to the plan as kept is not shown then. */
  isDragged: boolean
  /** The chance, of a hundred, of the second flag; null for even at worst. */
  sureLevel: number | null
}>()
const emit = defineEmits<{
  drag: [to: { target?: number; left?: number }]
  drop: []
  cancel: []
}>()
const units = useUnits()
const sheet = useTemplateRef<HTMLElement>('sheet')

const points = computed(() =>
  props.answer.frontier.map(({ net_minor, base_mg }) => ({ net: net_minor, base: base_mg })),
)
const flag = computed(() =>
  props.plan.hasPlan ? { net: props.plan.net_minor, base: props.plan.base_mg } : null,
)
/** What is true of the plan as it is kept, and not of a line on its way. */
const kept = computed(() => (props.isDragged ? null : props.answer))
const alone = computed(() => {
  const found = kept.value?.ranking_alone
  return found ? { net: found.net_minor, base: found.base_mg } : null
})
/** The target without the dearest wants. */
const without = computed(() => {
  const found = kept.value?.without_wants
  if (!found) return null
  const text = `without ${listed(found.names)}: ${units.totalText(found.target_mg)} is enough`
  return { target: found.target_mg, text }
})
const band = computed(
  () => kept.value?.sure?.points.map(({ low_mg, high_mg }) => ({ low: low_mg, high: high_mg })) ?? [],
)
const sure = computed(() => {
  const found = levelOf(kept.value?.sure, props.sureLevel)
  const name = LEVELS.find(({ percent }) => percent === props.sureLevel)?.name ?? ''
  return found ? { net: found.net_minor, base: found.base_mg, name } : null
})
/** The point of the descent that is walked to, and what the step to it takes. */
const walked = ref<number | null>(null)
const walkedText = computed(() => {
  const { aim_mg: base_mg, frontier, swaps } = props.answer
  const point = walked.value === null ? undefined : frontier[walked.value]
  if (!point) return ''
  const step = stepTo({ base_mg, frontier, swaps }, walked.value!)
  const change = changeWords(step)
  return (
    `${units.totalText(point.base_mg)} for ${units.moneyText(point.net_minor)}. ` +
    `This step takes off ${units.tableText(step.lighter)} for ${units.moneyText(step.more)}${change ? `: ${change}` : ''}.`
  )
})
</script>

<template>
  <div>
    <div ref="sheet" class="sheet">
      <Descent
        v-model:walked="walked"
        :points="points"
        :now="answer.aim_mg"
        :plan="flag"
        :alone="alone"
        :band="band"
        :sure="sure"
        :target="target"
        :without="without"
        :budget="left"
        :unit-mg="units.scale.value.mg"
        :unit-name="units.scale.value.name"
        :minor-per-major="10 ** units.currency.value.decimals"
        :money="units.withSign"
        :target-text="target === null ? '' : units.totalText(target)"
        :budget-text="left === null ? '' : units.moneyText(left)"
        :walked-text="walkedText"
        @drag="({ target, budget }) => emit('drag', { target, left: budget })"
        @drop="emit('drop')"
        @cancel="emit('cancel')"
      />
    </div>
    <p class="exports">
      <ExportMenu
        :what="`Descent of ${answer.list.name}`"
        :rows="() => descentRows(answer, units)"
        :drawing="() => sheet"
      />
    </p>
    <p class="muted walked">
      {{
        walkedText ||
        'Point at the path, or go down it with the arrow keys: what each step takes stands here.'
      }}
    </p>
    <p v-if="isDragged" class="muted keep">
      <kbd>Enter</kbd> keeps a line that was moved with keys, <kbd>Esc</kbd> puts it back.
    </p>
  </div>
</template>

<style scoped>
.sheet {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: var(--s-2) 0 0;
  margin-bottom: 10px;
}
.exports {
  float: right;
}
.walked {
  min-height: 2.6em;
  margin: var(--s-1) 0 var(--s-2);
  font-size: var(--text-m);
}
.keep {
  font-size: var(--text-m);
  margin-bottom: var(--s-2);
}
</style>
