<script setup lang="ts">
// The list as an equation: on my back + used up + on me = everything, apart beside it, what stays home under it. Things move between the
// columns by key, by drag, or by a tap and a choice.
import { useEventListener, useMediaQuery, useStorage } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import type { Place, Sheet, SheetLine } from '@/api/client'
import { vDrop } from '@/controls/drag'
import { vGrid } from '@/controls/grid'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'
import { counted } from '@/quantities/count'
import { blocks, nameOf, type Block, type Order } from './equation'
import PlaceRows from './PlaceRows.vue'

const props = defineProps<{
  sheet: Sheet
  chosen: string | null
  /** What trips say of a thing, by its gear. */
  hints?: Map<string, string>
}>()
const emit = defineEmits<{
  choose: [line: string]
  move: [line: SheetLine, from: Place, to: Place, pieces: number]
  remove: [line: SheetLine]
}>()
const units = useUnits()
const order = useStorage<Order>('kevyt-list-order', 'heaviest')

const mine = computed(() => props.sheet.lines.filter((line) => line.walker === props.sheet.me))
const column = (place: Place) => blocks(mine.value, place, order.value)
const columns = computed(() => ({
  carried: column('carried'),
  used_up: column('used_up'),
  worn: column('worn'),
  apart: column('apart'),
  left: column('left'),
}))
const mostMg = computed(() =>
  Math.max(1, ...Object.values(columns.value).flatMap((all) => all.map((block) => block.mg ?? 0))),
)

/** Of many things the light ones are folded, so that the equation stays one picture; not on paper, where nothing unfolds them. */
const FOLD = 24
const isFolded = ref(true)
const isPrinted = useMediaQuery('print')
const onBack = computed(() => {
  const all = columns.value.carried
  const foldable = order.value === 'heaviest' && all.length > FOLD + 2
  return isFolded.value && foldable && !isPrinted.value ? all.slice(0, FOLD) : all
})
const folded = computed(() => {
  const rest = columns.value.carried.slice(onBack.value.length)
  if (rest.length === 0) return ''
  const sum = rest.reduce((total, block) => total + (block.mg ?? 0), 0)
  const largest = rest[0]?.mg ?? 0
  return `and ${rest.length} of ${units.tableText(largest)} and less, ${units.tableText(sum)} together`
})

const totals = computed(() => props.sheet.totals)
const least = computed(() => (totals.value.unknown > 0 ? 'at least ' : ''))
const usedUp = computed(() => totals.value.pack_mg - totals.value.base_mg)
const onMe = computed(() => totals.value.everything_mg - totals.value.pack_mg)
const apartNames = computed(() => {
  const names = columns.value.apart.map((block) => block.line.name)
  return names.length > 2 ? `${names.length} things` : names.join(', ')
})

function drop(dragged: string, to: Place, event: DragEvent) {
  const block = Object.values(columns.value)
    .flat()
    .find((one) => one.key === dragged)
  if (block) void move(block, to, event.shiftKey ? 1 : block.pieces)
}
/** After a move the focus stays at its place: on the thing that has come up there. */
async function move(block: Block, to: Place, pieces: number) {
  const here = columns.value[block.place]
  const at = here.findIndex((one) => one.key === block.key)
  const next = pieces < block.pieces ? block : (here[at + 1] ?? here[at - 1])
  const focus = () => next && document.querySelector<HTMLElement>(`[data-block="${next.key}"]`)?.focus()
  // Before, since a row that goes with the focus on it holds the frame up; after, for one that has only come up.
  focus()
  emit('move', block.line, block.place, to, Math.min(pieces, block.pieces))
  await nextTick()
  focus()
}

/** Left and right go to the same height of the next column. */
function sideways(event: KeyboardEvent) {
  const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
  const from = event.target instanceof HTMLElement ? event.target.closest('[data-column]') : null
  if (!step || !from) return
  event.preventDefault()
  event.stopPropagation()
  const all = [...document.querySelectorAll('[data-column]')].filter((one) =>
    one.querySelector('[data-cell]'),
  )
  const rows = [...from.querySelectorAll('[data-cell]')]
  const to = all[all.indexOf(from) + step]?.querySelectorAll<HTMLElement>('[data-cell]')
  to?.[Math.min(rows.indexOf(event.target as Element), to.length - 1)]?.focus()
}
useEventListener(useTemplateRef<HTMLElement>('frame'), 'keydown', sideways, { capture: true })
/** What all rows have in common. */
const shown = computed(() => ({
  chosen: props.chosen,
  hints: props.hints,
  mostMg: mostMg.value,
  onChoose: (line: string) => emit('choose', line),
  onMove: move,
  onRemove: (line: SheetLine) => emit('remove', line),
}))
const rows = (place: Place) => (place === 'carried' ? onBack.value : columns.value[place])
const beside = ['used_up', 'worn'] as const
</script>

<template>
  <div ref="frame" v-grid class="equation" data-grid>
    <div class="sum back">
      <em>On my back</em>
      <Figure v-bind="units.total(totals.base_mg)" size="beam" /><small
        >&thinsp;base{{ least && ', at least' }}</small
      >
    </div>
    <span class="sign s1">+</span>
    <div class="sum used"><em>Used up</em><Figure v-bind="units.total(usedUp)" size="beam" /></div>
    <span class="sign s2">+</span>
    <div class="sum me"><em>On me</em><Figure v-bind="units.total(onMe)" size="beam" /></div>
    <span class="sign s3">=</span>
    <div class="sum all">
      <span><em>Everything</em><Figure v-bind="units.total(totals.everything_mg)" size="beam" /></span>
      <span v-if="columns.apart.length"
        ><em>Apart</em><Figure v-bind="units.total(totals.apart_mg)" size="beam" tone="quiet" /><small
          >&thinsp;{{ apartNames }}</small
        ></span
      >
    </div>

    <section
      v-drop="(text: string, event: DragEvent) => drop(text, 'carried', event)"
      class="column on-back"
      aria-label="On my back"
      data-column
    >
      <p v-if="!onBack.length" class="muted">Nothing on the back yet.</p>
      <div class="two">
        <PlaceRows v-bind="shown" :blocks="onBack" />
      </div>
      <p class="fold">
        <el-button v-if="folded" link size="small" @click="isFolded = false">{{ folded }}</el-button>
        <el-button
          v-else-if="onBack.length > FOLD + 2 && order === 'heaviest'"
          link
          size="small"
          @click="isFolded = true"
          >Show only the heavy ones</el-button
        >
        <el-button link size="small" @click="order = order === 'heaviest' ? 'system' : 'heaviest'">{{
          order === 'heaviest' ? 'Order by system' : 'Heaviest first'
        }}</el-button>
      </p>
    </section>

    <section
      v-for="place in beside"
      :key="place"
      v-drop="(text: string, event: DragEvent) => drop(text, place, event)"
      class="column"
      :class="`on-${place}`"
      :aria-label="nameOf(place)"
      data-column
    >
      <PlaceRows v-bind="shown" :blocks="rows(place)" />
      <p v-if="!rows(place).length" class="muted drop-here">Nothing here.</p>
      <div
        v-for="other in place === 'used_up' ? (['left'] as const) : (['apart'] as const)"
        :key="other"
        v-drop="(text: string, event: DragEvent) => drop(text, other, event)"
        class="under"
      >
        <h2>
          {{ nameOf(other)
          }}<span v-if="other === 'left' && columns.left.length" class="muted"
            >, {{ counted(columns.left.length, 'thing') }}</span
          >
        </h2>
        <PlaceRows v-bind="shown" :blocks="rows(other)" />
        <p v-if="!rows(other).length" class="muted drop-here">Nothing here.</p>
      </div>
    </section>
    <div class="below"><slot name="below" /></div>
    <div class="side"><slot /></div>
  </div>
</template>

<style scoped>
.equation {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 18px 158px 18px 168px 18px 276px;
  grid-template-areas:
    'back s1 used s2 me s3 all'
    'backs . useds . mes . side'
    'below below below below below . side';
  /* What is beside may be long: it takes from the row below the columns. */
  grid-template-rows: auto auto 1fr;
  align-items: start;
  row-gap: var(--s-1h);
}
.sum {
  border-top: 3px solid var(--ink);
  padding-top: var(--s-1h);
  align-self: end;
}
.sum em {
  display: block;
  font-style: normal;
  font-weight: 650;
}
.sum small {
  color: var(--ink-2);
  font-size: var(--text-m);
}
.back {
  grid-area: back;
}
.used {
  grid-area: used;
}
.me {
  grid-area: me;
}
.all {
  grid-area: all;
  border-color: transparent;
  display: flex;
  gap: var(--s-5);
}
.all span:last-child {
  min-width: 0;
}
.sign {
  font-size: var(--figure-s);
  color: var(--ink-2);
  align-self: end;
  text-align: center;
  padding: 0 var(--s-1) var(--s-0h) 0;
}
.s1 {
  grid-area: s1;
}
.s2 {
  grid-area: s2;
}
.s3 {
  grid-area: s3;
}
.on-back {
  grid-area: backs;
}
.on-used_up {
  grid-area: useds;
}
.on-worn {
  grid-area: mes;
}
.below {
  grid-area: below;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  align-items: start;
  gap: var(--s-3);
  margin-top: var(--s-3);
}
.side {
  grid-area: side;
  display: grid;
  gap: var(--s-3);
}
.two {
  columns: 2;
  column-gap: var(--s-3h);
}
.fold {
  margin: var(--s-1h) 0 0;
  display: flex;
  gap: var(--s-3h);
}
.fold :deep(.el-button) {
  margin: 0;
}
.under {
  margin-top: var(--s-3h);
}
.under h2 {
  font-size: var(--text-s);
  font-weight: 500;
  color: var(--ink-2);
  margin: 0 0 var(--s-0h);
}
.over {
  background: var(--lake-soft);
}
.drop-here {
  margin: var(--s-0h) 0;
  font-size: var(--text-s);
}
@media (max-width: 1180px) {
  .equation {
    grid-template-columns: minmax(0, 1fr) 18px 150px 18px 150px;
    grid-template-rows: none;
    grid-template-areas:
      'back s1 used s2 me'
      'backs . useds . mes'
      'below below below below below'
      'all all all all all'
      'side side side side side';
  }
  .s3 {
    display: none;
  }
}
@media (max-width: 700px) {
  .equation {
    display: block;
  }
  .sign {
    display: none;
  }
  /* The sums stay in view, side by side. */
  .sum {
    border-top-width: 0;
    padding: 0;
  }
  .sum.back,
  .sum.used,
  .sum.me,
  .sum.all {
    display: none;
  }
  .two {
    columns: 1;
  }
  .column {
    margin-bottom: var(--s-4);
  }
  .column::before {
    content: attr(aria-label);
    font-weight: 650;
    display: block;
    border-top: 3px solid var(--ink);
    padding-top: var(--s-1);
  }
}
</style>
