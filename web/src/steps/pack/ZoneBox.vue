<script setup lang="ts">
// A zone of the pack with the things in it, in their order: each is ticked in or out, moved to the zone beside, up or down.
import { computed } from 'vue'
import type { PackedThing, PackZone, Zone } from '@/api/client'
import { vDrag, vDrop } from '@/controls/drag'
import { useUnits } from '@/domain/units'
import { packVolume } from '@/quantities/measures'
import { ORDER, ZONES, type Placed } from './packing'

const props = defineProps<{
  zone: PackZone
  placed: Placed[]
  /** What the largest zone holds, so that all are on one scale of litres. */
  mostMl: number
}>()
const emit = defineEmits<{
  tick: [thing: PackedThing, isIn: boolean]
  move: [thing: PackedThing, to: Zone]
  shift: [thing: PackedThing, by: number]
  dropped: [line: string]
}>()
const units = useUnits()
const name = computed(() => ZONES[props.zone.zone][0])
const holds = computed(() => props.zone.holds_ml ?? null)
const litres = (ml: number) => packVolume(ml, units.measures.value)
const filled = computed(() => {
  if (props.zone.zone === 'on_me') {
    const mg = props.placed.reduce((sum, { thing }) => sum + (thing.mass_mg ?? 0), 0)
    return units.totalText(mg)
  }
  if (holds.value === null) return ''
  // With no size known there is nothing to say but what it holds.
  if (props.zone.ml === 0) return litres(holds.value)
  return `${props.zone.unknown > 0 ? 'at least ' : ''}${litres(props.zone.ml)} of ${litres(holds.value)}`
})
const isOver = computed(() => holds.value !== null && props.zone.ml > holds.value)
const share = (ml: number) => `${Math.min(1, ml / props.mostMl) * 100}%`

const moves: Record<string, (thing: PackedThing) => void> = {
  ArrowLeft: (thing) => emit('move', thing, step(-1)),
  ArrowRight: (thing) => emit('move', thing, step(1)),
}
const step = (by: number) => ORDER[(ORDER.indexOf(props.zone.zone) + by + ORDER.length) % ORDER.length]!

/** Left and right go to the zone beside; up and down walk, and with Shift move. */
function walk(event: KeyboardEvent, thing: PackedThing) {
  // With these it is the browser's.
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const up = { ArrowUp: -1, ArrowDown: 1 }[event.key]
  if (up !== undefined && event.shiftKey) emit('shift', thing, up)
  else if (up !== undefined) walkTo(event.target as HTMLElement, up)
  else if (moves[event.key]) moves[event.key]!(thing)
  else return
  event.preventDefault()
}
/** Out of the menu, for who has no keys: to another zone, or so many places on. */
function go(thing: PackedThing, to: Zone | number) {
  if (typeof to === 'number') emit('shift', thing, to)
  else emit('move', thing, to)
}
/** The box beside this one, in any zone. */
function walkTo(from: HTMLElement, by: number) {
  const all = [...document.querySelectorAll<HTMLElement>('.zone input')]
  all[all.indexOf(from) + by]?.focus()
}
</script>

<template>
  <section v-drop="(line: string) => emit('dropped', line)" class="zone" :aria-label="name">
    <h3>
      <span
        >{{ name }}<small v-if="ZONES[zone.zone][1]"> · {{ ZONES[zone.zone][1] }}</small></span
      >
      <el-popover v-if="zone.zone !== 'on_me'" trigger="click" width="220" :persistent="false">
        <template #reference>
          <el-button
            link
            data-print
            class="fill"
            :class="{ caution: isOver }"
            :aria-label="`${name}: ${filled || 'room unknown'}. Change what it holds`"
            >{{ filled || '? l' }}</el-button
          >
        </template>
        <slot name="size" />
      </el-popover>
      <span v-else class="total">{{ filled }}</span>
    </h3>
    <div v-if="holds !== null" class="ruler" aria-hidden="true" :style="{ width: share(holds) }">
      <i
        :class="{ over: isOver }"
        :style="{ width: `${Math.min(1, zone.ml / Math.max(1, holds)) * 100}%` }"
      />
    </div>
    <ul>
      <li v-for="{ thing, todo, over } in placed" :key="thing.line" :class="{ in: thing.is_in }">
        <el-checkbox
          v-drag="thing.line"
          :model-value="thing.is_in"
          :data-line="thing.line"
          @change="(isIn) => emit('tick', thing, isIn === true)"
          @keydown="walk($event, thing)"
        >
          {{ thing.name }}<template v-if="thing.pieces > 1"> × {{ thing.pieces }}</template>
          <i v-if="todo && !thing.is_in">{{ todo }}</i>
          <i v-if="over" class="caution">does not fit</i>
        </el-checkbox>
        <el-dropdown
          :teleported="false"
          trigger="click"
          :persistent="false"
          @command="(to: Zone | number) => go(thing, to)"
        >
          <el-button link class="more" tabindex="-1" :aria-label="`Move ${thing.name}`">⋯</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item :command="-1">Earlier here</el-dropdown-item>
              <el-dropdown-item :command="1">Later here</el-dropdown-item>
              <el-dropdown-item
                v-for="(to, at) in ORDER.filter((one) => one !== zone.zone)"
                :key="to"
                :command="to"
                :divided="at === 0"
                >{{ ZONES[to][0] }}</el-dropdown-item
              >
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.zone {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: var(--s-1h) var(--s-2h);
  min-width: 0;
  break-inside: avoid;
}
.zone.over {
  background: var(--lake-soft);
}
h3 {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--s-2);
  margin: 0 0 var(--s-0h);
  font-size: var(--text-s);
  font-weight: 600;
  color: var(--ink-2);
}
h3 small {
  font-size: var(--text-s);
  font-weight: 400;
}
.total {
  white-space: nowrap;
}
.fill {
  height: auto;
  min-height: 20px;
  font-size: var(--text-s);
  font-weight: 600;
  color: var(--ink-2);
  text-decoration: underline dotted var(--line-strong);
  text-underline-offset: 3px;
}
.fill.caution {
  color: var(--lingonberry);
}
/* The zone's litres on the scale of all zones, filled as far as packed sizes are known. */
.ruler {
  height: 4px;
  margin-bottom: var(--s-1);
  background: var(--spruce-soft);
}
.ruler i {
  display: block;
  height: 100%;
  margin: 0;
  background: var(--spruce);
}
.ruler .over {
  background: var(--lingonberry);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 0 var(--s-3);
}
li {
  display: flex;
  justify-content: space-between;
  gap: var(--s-1);
  min-width: 0;
}
.more {
  color: var(--ink-2);
  opacity: 0;
}
li:hover .more,
.more:focus-visible,
.more[aria-expanded='true'] {
  opacity: 1;
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
  font-size: var(--text);
  color: var(--ink);
  overflow-wrap: anywhere;
}
li.in :deep(.el-checkbox__label) {
  color: var(--ink-2);
}
i {
  font-style: normal;
  font-size: var(--text-s);
  color: var(--cloudberry);
  margin-left: var(--s-1);
}
@media (max-width: 700px) {
  li :deep(.el-checkbox) {
    min-height: 44px;
  }
  .more {
    opacity: 1;
    width: 44px;
    height: 44px;
  }
}
</style>
