<script setup lang="ts">
// The plan's descent: where it stops, how sure that is, and what target and budget would do elsewhere.
import { computed } from 'vue'
import type { PlanAnswer } from '@/api/client'
import ExportMenu from '@/controls/ExportMenu.vue'
import type { ShownPlan } from '@/domain/question'
import { levelOf, LEVELS } from '@/domain/sure'
import { useUnits } from '@/domain/units'
import WalkedDescent from '@/domain/WalkedDescent.vue'
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
</script>

<template>
  <div>
    <WalkedDescent
      :base="answer.aim_mg"
      :frontier="answer.frontier"
      :swaps="answer.swaps"
      :plan="flag"
      :budget="left"
      :target="target"
      :whole-text="units.totalText"
      :step-text="units.tableText"
      :unit-name="units.scale.value.name"
      :alone="alone"
      :band="band"
      :sure="sure"
      :without="without"
      @drag="({ target, budget }) => emit('drag', { target, left: budget })"
      @drop="emit('drop')"
      @cancel="emit('cancel')"
    >
      <template #default="{ drawing }">
        <p class="exports">
          <ExportMenu
            :what="`Descent of ${answer.list.name}`"
            :rows="() => descentRows(answer, units)"
            :drawing="drawing"
          />
        </p>
      </template>
    </WalkedDescent>
    <p v-if="isDragged" class="muted keep">
      <kbd>Enter</kbd> keeps a line that was moved with keys, <kbd>Esc</kbd> puts it back.
    </p>
  </div>
</template>

<style scoped>
.exports {
  float: right;
}
.keep {
  margin-bottom: var(--s-2);
  font-size: var(--text-m);
}
</style>
