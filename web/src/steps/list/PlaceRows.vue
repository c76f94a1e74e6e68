<script setup lang="ts">
// The things of one place of the equation.
import type { Place, SheetLine } from '@/api/client'
import type { Block } from './equation'
import ThingRow from './ThingRow.vue'

defineProps<{ blocks: Block[]; chosen: string | null; mostMg: number; hints?: Map<string, string> }>()
const emit = defineEmits<{
  choose: [line: string]
  move: [block: Block, to: Place, pieces: number]
  remove: [line: SheetLine]
}>()
</script>

<template>
  <div
    v-for="block in blocks"
    :key="block.key"
    v-memo="[block.line, block.pieces, mostMg, block.line.id === chosen, hints?.get(block.line.gear)]"
    data-line
  >
    <ThingRow
      :block="block"
      :chosen="block.line.id === chosen"
      :heavy="block.place === 'carried' && block.line.heavy"
      :movable="block.line.mine"
      :most-mg="mostMg"
      :hint="hints?.get(block.line.gear) ?? ''"
      @choose="emit('choose', block.line.id)"
      @move="(to, pieces) => emit('move', block, to, pieces)"
      @remove="emit('remove', block.line)"
    />
  </div>
</template>
