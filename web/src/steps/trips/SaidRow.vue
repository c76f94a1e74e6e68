<script setup lang="ts">
// A thing of a trip and what is said of it: by key while the row has the focus, or by a tap.
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import type { Mark, TripSaid, TripThing } from '@/api/client'
import { singleKeys } from '@/controls/keys'
import { useUnits } from '@/domain/units'
import { ALONG, MARKS } from '@/domain/lessons'

const props = defineProps<{ thing: TripThing }>()
const emit = defineEmits<{
  said: [what: TripSaid]
  gone: []
}>()
const units = useUnits()
const isAlong = computed(() => props.thing.pieces > 0)
const marks = computed<Mark[]>(() => (isAlong.value ? ALONG : ['wished']))
const has = (mark: Mark) => props.thing.marks.includes(mark)
const mark = (mark: Mark) => emit('said', { marks: { [mark]: !has(mark) } })
/** Said again, it is taken back. */
const use = (used: boolean) => emit('said', { used: props.thing.used === used ? null : used })
const row = useTemplateRef<HTMLElement>('row')
const noteField = useTemplateRef<{ focus: () => void }>('note')
const isWriting = ref(false)
const typed = ref('')
async function write() {
  typed.value = props.thing.note
  isWriting.value = true
  await nextTick()
  noteField.value?.focus()
}
const backToRow = () => row.value?.querySelector<HTMLElement>('[data-said]')?.focus()
function written() {
  if (!isWriting.value) return
  isWriting.value = false
  if (typed.value.trim() !== props.thing.note) emit('said', { note: typed.value.trim() })
}

function key(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'Enter') void write()
  else if (!singleKeys.value) return
  else if (isAlong.value && (event.key === 'u' || event.key === 'n')) use(event.key === 'u')
  else {
    const found = marks.value.find((one) => MARKS[one].key === event.key)
    if (!found) return
    mark(found)
  }
  event.preventDefault()
  event.stopPropagation()
}
const mass = computed(() => {
  const { unit_mg: unit, pieces } = props.thing
  return unit == null ? '' : units.tableText(unit * Math.max(1, pieces))
})
const said = computed(() => (props.thing.used == null ? '' : props.thing.used ? 'used' : 'unused'))
const spoken = computed(() =>
  [
    props.thing.name,
    isAlong.value ? { '': 'nothing said yet', used: 'used', unused: 'not used' }[said.value] : '',
    ...props.thing.marks.map((one) => MARKS[one].name.toLowerCase()),
  ]
    .filter(Boolean)
    .join(', '),
)
</script>

<template>
  <div ref="row" class="said">
    <el-button link class="name" data-row :data-said="said" :aria-label="spoken" @keydown="key">
      <span
        >{{ thing.name }}<template v-if="thing.pieces > 1"> × {{ thing.pieces }}</template>
        <small class="muted">{{ ` ${mass}` }}</small></span
      >
    </el-button>
    <span v-if="isAlong" class="use">
      <el-button
        size="small"
        tabindex="-1"
        :type="thing.used === true ? 'primary' : 'default'"
        :aria-pressed="thing.used === true"
        @click="use(true)"
        >Used</el-button
      >
      <el-button
        size="small"
        tabindex="-1"
        :type="thing.used === false ? 'primary' : 'default'"
        :aria-pressed="thing.used === false"
        @click="use(false)"
        >Not used</el-button
      >
    </span>
    <span class="marks">
      <el-button
        v-for="one in marks"
        :key="one"
        link
        class="mark"
        :class="{ on: has(one) }"
        tabindex="-1"
        :aria-pressed="has(one)"
        @click="mark(one)"
        >{{ MARKS[one].name }}</el-button
      >
      <el-button
        v-if="!isAlong && thing.left === 0"
        link
        :aria-label="`Remove ${thing.name}`"
        @click="emit('gone')"
        >×</el-button
      >
    </span>
    <el-input
      v-if="isWriting"
      ref="note"
      v-model="typed"
      size="small"
      maxlength="500"
      :aria-label="`A line about ${thing.name}`"
      @blur="written"
      @keydown.enter.stop.prevent="(written(), backToRow())"
      @keydown.esc.stop="((isWriting = false), backToRow())"
    />
    <el-button
      v-else
      link
      class="note"
      tabindex="-1"
      :aria-label="`A line about ${thing.name}`"
      @click="write"
      >{{ thing.note || '…' }}</el-button
    >
  </div>
</template>

<style scoped>
.said {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) auto auto minmax(40px, 0.7fr);
  align-items: center;
  gap: var(--s-0h) var(--s-2);
  min-height: 32px;
  padding: 1px var(--s-1);
  border-bottom: 1px solid var(--line);
}
.said:focus-within {
  background: var(--lake-soft);
}
.name {
  justify-content: start;
  height: auto;
  min-height: 30px;
  white-space: normal;
  text-align: left;
  color: var(--ink);
}
.name small {
  margin-left: var(--s-1);
}
.use {
  white-space: nowrap;
}
.use :deep(.el-button + .el-button) {
  margin-left: var(--s-1);
}
.marks {
  display: flex;
  gap: 0;
}
.marks :deep(.mark) {
  padding: var(--s-0h) var(--s-1h);
  margin: 0;
  height: auto;
  font-size: var(--text-s);
  font-weight: 400;
  line-height: 16px;
  color: var(--ink-2);
}
.marks :deep(.mark.on) {
  color: var(--lingonberry);
  background: var(--lingonberry-soft);
  font-weight: 650;
}
.note {
  justify-content: start;
  margin: 0;
  height: auto;
  white-space: normal;
  text-align: left;
  font-size: var(--text-s);
  color: var(--ink-2);
}
@media (max-width: 700px) {
  .said {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: var(--s-1h) 0;
  }
  .use :deep(.el-button) {
    height: 44px;
  }
  .marks {
    grid-column: 1 / -1;
    flex-wrap: wrap;
  }
  .marks :deep(.mark) {
    padding: var(--s-2h) var(--s-2);
  }
  .note,
  .said > :deep(.el-input) {
    grid-column: 1 / -1;
  }
}
</style>
