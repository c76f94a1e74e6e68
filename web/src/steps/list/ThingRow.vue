<script setup lang="ts">
// Pieces of a thing in one place of the equation: name, grams, a bar of its grams. A tap or Enter asks where it goes; keys say it.
import { computed, ref } from 'vue'
import { vDrag } from '@/controls/drag'
import { useUnits } from '@/domain/units'
import { SOURCES } from '@/domain/words'
import type { Place } from '@/api/client'
import { nameOf, PLACES, type Block } from './equation'

const props = defineProps<{
  block: Block
  chosen: boolean
  heavy: boolean
  /** Whether the walker may move it. */
  movable: boolean
  /** The heaviest of all columns, so that all bars are on one scale. */
  mostMg: number
  /** What trips say of it. */
  hint: string
}>()
const emit = defineEmits<{
  choose: []
  move: [to: Place, pieces: number]
  remove: []
}>()
const units = useUnits()
const line = computed(() => props.block.line)
const others = computed(() => PLACES.filter((one) => one.place !== props.block.place))
const isOpen = ref(false)
const onlyOne = ref(false)
const pieces = computed(() => (onlyOne.value ? 1 : props.block.pieces))

/** Stands beside the name only where it is not weighed. */
const doubt = computed(() => {
  const { weight, high_mg: high } = line.value
  if (!weight) return 'unknown'
  if (weight.source === 'weighed') return ''
  const wide =
    weight.source === 'estimate' && high != null
      ? ` ±${units.fineText((high - weight.unit_mg) * props.block.pieces)}`
      : ''
  return SOURCES[weight.source] + wide
})

function key(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey || !props.movable) return
  const lower = event.key.toLowerCase()
  const to = PLACES.find((one) => one.key === lower)
  if (to && event.key.length === 1) {
    event.preventDefault()
    event.stopPropagation()
    emit('move', to.place, event.key === lower ? props.block.pieces : 1)
  } else if (event.key === 'Delete') {
    event.preventDefault()
    emit('remove')
  }
}
function go(to: Place) {
  isOpen.value = false
  emit('move', to, pieces.value)
}
</script>

<template>
  <el-popover
    v-model:visible="isOpen"
    trigger="click"
    placement="bottom-start"
    width="232"
    :disabled="!movable"
    :persistent="false"
    @show="emit('choose')"
  >
    <template #reference>
      <el-button
        v-drag="movable ? block.key : ''"
        link
        class="thing"
        :class="{ chosen, heavy }"
        data-cell
        data-row
        :data-block="block.key"
        :aria-expanded="isOpen"
        @focus="emit('choose')"
        @keydown="key"
      >
        <span class="name"
          >{{ line.name }}<template v-if="block.pieces > 1"> × {{ block.pieces }}</template>
          <span v-if="doubt" class="doubt">{{ doubt }}</span>
          <span v-if="hint" class="doubt hint">{{ hint }}</span></span
        >
        <b
          >{{ block.mg === null ? '?' : units.table(block.mg).figure
          }}<span class="visually-hidden">{{
            ` ${units.table(0).unit}, ${nameOf(block.place).toLowerCase()}`
          }}</span></b
        >
        <i :style="{ '--share': (block.mg ?? 0) / mostMg }" />
      </el-button>
    </template>
    <div class="choices" role="dialog" :aria-label="`Where ${line.name} goes`">
      <b>{{ line.name }}</b>
      <el-checkbox v-if="block.pieces > 1" v-model="onlyOne">Only one of {{ block.pieces }}</el-checkbox>
      <el-button v-for="one in others" :key="one.place" size="small" @click="go(one.place)"
        >{{ one.name }} <kbd>{{ one.key }}</kbd></el-button
      >
      <el-button size="small" text @click="((isOpen = false), emit('remove'))">Take off the list</el-button>
    </div>
  </el-popover>
</template>

<style scoped>
.thing {
  width: 100%;
  break-inside: avoid;
  height: 25px;
  margin: 0;
  padding: 0;
  border-radius: 0;
  border: 0;
  border-bottom: 1px solid var(--line);
  position: relative;
  font-size: var(--text-m);
  font-weight: 400;
  color: var(--ink);
}
.thing :deep(> span) {
  width: 100%;
  min-width: 0;
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
}
.name {
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.doubt {
  margin-left: var(--s-1h);
  color: var(--ink-2);
  font-size: var(--text-s);
}
.hint {
  color: var(--spruce);
}
b {
  font-weight: 650;
}
i {
  position: absolute;
  left: 0;
  bottom: -1px;
  height: 2px;
  max-width: 100%;
  width: calc(var(--share) * 146px);
  background: var(--spruce);
}
.heavy::before {
  content: '';
  position: absolute;
  left: -6px;
  top: 4px;
  bottom: 4px;
  width: 2px;
  background: var(--ink);
}
.thing.chosen {
  background: var(--lake-soft);
}
.thing:focus-visible {
  outline: 2px solid var(--lake);
  outline-offset: -1px;
}
.choices {
  display: grid;
  gap: var(--s-1h);
  justify-items: stretch;
}
.choices :deep(.el-button) {
  margin: 0;
}
kbd {
  margin-left: var(--s-1h);
}
@media (max-width: 700px) {
  .thing {
    height: 40px;
    font-size: var(--text-ml);
  }
}
</style>
