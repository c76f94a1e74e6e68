<script setup lang="ts">
// A zone of the pack with the things in it: each is ticked in or out, and moved to the zone beside.
import { computed } from 'vue'
import type { PackedThing, Zone } from '@/api/client'
import { useUnits } from '@/domain/units'
import { packVolume } from '@/quantities/measures'
import { ZONES, type Placed } from './packing'

const props = defineProps<{
  zone: Zone
  placed: Placed[]
  /** What is in it as far as that is known, what of it is not, and what it holds. */
  ml: number
  unknown: number
  holds: number | null
}>()
const emit = defineEmits<{
  tick: [thing: PackedThing, isIn: boolean]
  move: [thing: PackedThing, step: number]
}>()
const units = useUnits()
const filled = computed(() => {
  const measures = units.measures.value
  if (props.zone === 'on_me') {
    const mg = props.placed.reduce((sum, { thing }) => sum + (thing.mass_mg ?? 0), 0)
    return units.totalText(mg)
  }
  if (props.holds === null) return ''
  const holds = packVolume(props.holds, measures)
  // With no size known there is nothing to say but what it holds.
  if (props.ml === 0) return holds
  return `${props.unknown > 0 ? 'at least ' : ''}${packVolume(props.ml, measures)} of ${holds}`
})
const isOver = computed(() => props.holds !== null && props.ml > props.holds)

function walk(event: KeyboardEvent, thing: PackedThing) {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (step === undefined) return
  event.preventDefault()
  emit('move', thing, step)
}
</script>

<template>
  <section class="zone" :aria-label="ZONES[zone][0]">
    <h3>
      <span
        >{{ ZONES[zone][0] }}<small v-if="ZONES[zone][1]"> · {{ ZONES[zone][1] }}</small></span
      >
      <span :class="{ caution: isOver }">{{ filled }}</span>
    </h3>
    <ul>
      <li v-for="{ thing, todo, over } in placed" :key="thing.line" :class="{ in: thing.is_in }">
        <el-checkbox
          :model-value="thing.is_in"
          :data-line="thing.line"
          @change="(isIn) => emit('tick', thing, isIn === true)"
          @keydown="walk($event, thing)"
        >
          {{ thing.name }}<template v-if="thing.pieces > 1"> × {{ thing.pieces }}</template>
          <i v-if="todo && !thing.is_in">{{ todo }}</i>
          <i v-if="over" class="caution">does not fit</i>
        </el-checkbox>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.zone {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: 6px 10px;
  min-width: 0;
}
h3 {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  margin: 0 0 2px;
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-2);
}
h3 small {
  font-size: 12px;
  font-weight: 400;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 0 var(--s-3);
}
li :deep(.el-checkbox) {
  /* A tick is a filled square. */
  --el-checkbox-checked-bg-color: var(--spruce);
  --el-checkbox-checked-input-border-color: var(--spruce);
  height: auto;
  min-height: 26px;
  white-space: normal;
  margin: 0;
}
li :deep(.el-checkbox__label) {
  font-size: 14px;
  color: var(--ink);
  overflow-wrap: anywhere;
}
li.in :deep(.el-checkbox__label) {
  color: var(--ink-2);
}
i {
  font-style: normal;
  font-size: 12px;
  color: var(--cloudberry);
  margin-left: 4px;
}
@media (max-width: 700px) {
  li :deep(.el-checkbox) {
    min-height: 44px;
  }
}
</style>
