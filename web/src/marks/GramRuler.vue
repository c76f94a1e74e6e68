<script setup lang="ts">
// The gram ruler: things end to end by system, labelled; under it another list on the same scale; the target as a dashed line.
import { useEventListener } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { axis } from './scale'
import { sized, useRoom } from './room'

interface Span {
  key: string
  name: string
  system: string
  mg: number
}
const props = defineProps<{
  spans: Span[]
  /** What it is held against, and what that is called. */
  other?: { spans: Span[]; name: string } | null
  target?: number | null
  unitMg: number
  unitName: string
  /** Names of systems by key. */
  systems: Map<string, string>
  /** A mass as text. */
  text: (mg: number) => string
  chosen?: string | null
}>()
const emit = defineEmits<{ choose: [key: string] }>()

const frame = useTemplateRef<HTMLElement>('frame')
const { width } = useRoom(frame)
// A block is pointed at; by keys one goes to its row, which is the same thing.
useEventListener(frame, 'click', (event) => {
  const span = event.target instanceof Element ? event.target.closest<SVGElement>('[data-span]') : null
  if (span?.dataset.span) emit('choose', span.dataset.span)
})

const sum = (spans: Span[]) => spans.reduce((total, span) => total + span.mg, 0)
const most = computed(() => Math.max(sum(props.spans), sum(props.other?.spans ?? []), props.target ?? 0, 1))
const scale = computed(() =>
  axis([0, most.value / props.unitMg], [0, Math.max(0, width.value - 8)], width.value > 700 ? 10 : 5),
)
const x = (mg: number) => scale.value.at(mg / props.unitMg)

/** Spans with their places; a system is told by the shade that its place in the row gives it. */
function laid(spans: Span[]) {
  let from = 0
  let system = ''
  let shade = -1
  return spans.map((span) => {
    const isFirst = span.system !== system
    if (isFirst) {
      shade += 1
      system = span.system
    }
    const placed = { ...span, from: x(from), to: x(from + span.mg), shade: shade % 5, isFirst }
    from += span.mg
    return placed
  })
}
const above = computed(() => laid(props.spans))
const below = computed(() => laid(props.other?.spans ?? []))
/** Names of systems where there is room for them, so that none lies on another. */
const labels = computed(() => {
  let free = -Infinity
  return above.value
    .filter((span) => span.isFirst)
    .map((span) => ({ at: span.from, name: props.systems.get(span.system) ?? span.system }))
    .filter(({ at, name }) => {
      const fits = at >= free && at + name.length * 6 < width.value
      if (fits) free = at + name.length * 6.4 + 8
      return fits
    })
})
const end = computed(() => x(sum(props.other?.spans ?? [])))
</script>

<template>
  <div ref="frame" class="ruler">
    <svg
      v-if="width > 0"
      v-bind="sized(width, 96)"
      role="img"
      :aria-label="`Things end to end, ${text(sum(spans))}`"
    >
      <text v-for="label in labels" :key="label.at" :x="label.at" y="11" class="system">
        {{ label.name }}
      </text>
      <g
        v-for="span in above"
        :key="span.key"
        class="span"
        :class="{ chosen: span.key === chosen }"
        :data-span="span.key"
      >
        <title>{{ span.name }}: {{ text(span.mg) }}</title>
        <rect
          :x="span.from"
          y="16"
          :width="Math.max(0.5, span.to - span.from - 1)"
          height="36"
          :class="`shade-${span.shade}`"
        />
        <template v-if="span.to - span.from > 76">
          <text :x="span.from + 6" y="31" class="in" :class="`on-${span.shade}`">
            {{ span.name.slice(0, Math.floor((span.to - span.from - 10) / 6.2)) }}
          </text>
          <text :x="span.from + 6" y="45" class="in" :class="`on-${span.shade}`">{{ text(span.mg) }}</text>
        </template>
      </g>
      <rect
        v-for="span in below"
        :key="`under ${span.key}`"
        :x="span.from"
        y="55"
        :width="Math.max(0.5, span.to - span.from - 1)"
        height="12"
        :class="`shade-${span.shade}`"
      />
      <text v-if="other && end + 190 < width" :x="end + 8" y="66" class="other">{{ other.name }}</text>
      <g v-for="mark in scale.marks" :key="mark.value">
        <line :x1="mark.at + 0.5" :x2="mark.at + 0.5" y1="71" y2="78" stroke="var(--line-strong)" />
        <text
          :x="mark.at + 3"
          y="90"
          class="tick"
          :text-anchor="mark.at > width - 30 ? 'end' : 'start'"
          :dx="mark.at > width - 30 ? -6 : 0"
        >
          {{ mark.value === 0 ? `0 ${unitName}` : mark.text }}
        </text>
      </g>
      <line
        v-if="target"
        :x1="x(target)"
        :x2="x(target)"
        y1="10"
        y2="78"
        stroke="var(--lake)"
        stroke-width="1.5"
        stroke-dasharray="4 3"
      />
    </svg>
    <div class="visually-hidden">
      <table>
        <caption>
          Things on the back, by system
        </caption>
        <tbody>
          <tr v-for="span in spans" :key="span.key" v-memo="[span.name, span.mg, text]">
            <th>{{ span.name }}</th>
            <td>{{ text(span.mg) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.ruler {
  min-height: 96px;
}
svg {
  display: block;
}
text {
  font-size: 11px;
}
.system {
  fill: var(--ink-2);
}
.tick {
  fill: var(--ink-2);
}
.other {
  fill: var(--spruce);
  font-weight: 600;
}
.span {
  cursor: pointer;
}
.shade-0 {
  fill: var(--ruler-0);
}
.shade-1 {
  fill: var(--ruler-1);
}
.shade-2 {
  fill: var(--ruler-2);
}
.shade-3 {
  fill: var(--ruler-3);
}
.shade-4 {
  fill: var(--ruler-4);
}
.span.chosen rect {
  fill: var(--lake);
}
.in {
  fill: var(--ruler-ink);
}
.in.on-3,
.in.on-4 {
  fill: var(--ruler-ink-2);
}
.span.chosen .in {
  fill: var(--sheet);
}
@media print {
  rect {
    print-color-adjust: exact;
  }
}
</style>
