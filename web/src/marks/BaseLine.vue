<script setup lang="ts">
// Base weight over time: a step at each change, a mark for its cause, the trips below, the target as a contour.
import { extent } from 'd3-array'
import { scaleTime } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import { axis, nice } from './scale'
import { sized, useRoom } from './room'

export interface BaseStep {
  at: number
  mg: number
  /** The mark of its cause: a path around 0, 0. */
  mark: string
  /** Whether it came down. */
  lighter: boolean
}
const props = defineProps<{
  steps: BaseStep[]
  trips: { at: number; name: string }[]
  target: number | null
  unitMg: number
  unitName: string
  chosen: number
  /** What the whole says in words, for who listens. */
  label: string
}>()
const emit = defineEmits<{ choose: [at: number] }>()

const frame = useTemplateRef<HTMLElement>('frame')
const { width, at: placeOf } = useRoom(frame)
const HEIGHT = 210
const LEFT = 44
const BOTTOM = HEIGHT - 40
const DAY_MS = 86_400_000

const up = computed(() => {
  const all = [...props.steps.map(({ mg }) => mg), ...(props.target === null ? [] : [props.target])]
  const [low = 0, high = 1] = extent(all)
  const [from, to] = [low / props.unitMg, high / props.unitMg]
  const air = Math.max(0.05, (to - from) * 0.04)
  return axis(nice([Math.max(0, from - air), to + air], 5), [BOTTOM, 14], 5)
})
const y = (mg: number) => up.value.at(mg / props.unitMg)
const across = computed(() => {
  const [first = 0, last = 1] = extent([...props.steps, ...props.trips].map(({ at }) => at))
  const air = Math.max(4 * DAY_MS, (last - first) * 0.03)
  return scaleTime(
    [new Date(first - air), new Date(last + air)],
    [LEFT, Math.max(LEFT + 20, width.value - 8)],
  )
})
const path = computed(() => {
  const walked = props.steps.map(
    ({ at, mg }, n) => `${n ? 'H' : 'M'}${across.value(at)}${n ? 'V' : ' '}${y(mg)}`,
  )
  return `${walked.join('')}H${across.value.range()[1]}`
})
const times = computed(() => {
  const wanted = Math.max(2, Math.floor(width.value / 110))
  const name = across.value.tickFormat(wanted)
  // Of a base weight the hour says nothing.
  const days = across.value.ticks(wanted).filter((at) => at.getHours() === 0)
  const all = days.map((at) => ({ x: across.value(at), text: name(at) }))
  return all.filter(({ x }) => x < width.value - 34)
})

/** The change that is nearest to where somebody points. */
function point(event: MouseEvent) {
  const { x } = placeOf(event)
  const away = props.steps.map(({ at }) => Math.abs(across.value(at) - x))
  emit('choose', away.indexOf(Math.min(...away)))
}

function walk(event: KeyboardEvent) {
  const to = {
    ArrowLeft: props.chosen - 1,
    ArrowRight: props.chosen + 1,
    Home: 0,
    End: props.steps.length - 1,
  }[event.key]
  if (to === undefined) return
  event.preventDefault()
  emit('choose', Math.min(Math.max(0, to), props.steps.length - 1))
}
</script>

<template>
  <div
    ref="frame"
    class="base-line"
    role="slider"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="chosen + 1"
    aria-valuemin="1"
    :aria-valuemax="steps.length"
    :aria-valuetext="`Change ${chosen + 1} of ${steps.length}`"
    @keydown="walk"
    @click="point"
  >
    <svg v-if="width > 0" v-bind="sized(width, HEIGHT)" aria-hidden="true">
      <g v-for="mark in up.marks" :key="mark.value">
        <line :x1="LEFT" :x2="width" :y1="mark.at" :y2="mark.at" stroke="var(--line)" />
        <text :x="LEFT - 6" :y="mark.at + 4" text-anchor="end">{{ mark.text }}</text>
      </g>
      <text x="2" y="10">{{ unitName }}</text>
      <g v-for="time in times" :key="time.x">
        <text :x="time.x" :y="HEIGHT - 6" text-anchor="middle">{{ time.text }}</text>
      </g>
      <g v-if="target !== null">
        <line
          :x1="LEFT"
          :x2="width"
          :y1="y(target)"
          :y2="y(target)"
          stroke="var(--lake)"
          stroke-width="1.5"
          stroke-dasharray="6 4"
        />
        <text :x="LEFT + 6" :y="y(target) - 5" class="target">target</text>
      </g>
      <g v-for="trip in trips" :key="trip.at" class="trip">
        <path :d="`M${across(trip.at) - 6} ${BOTTOM + 16}l6 -10l6 10z`" />
      </g>
      <path :d="path" fill="none" stroke="var(--spruce)" stroke-width="2.5" stroke-linejoin="round" />
      <g
        v-for="(one, n) in steps"
        :key="n"
        :transform="`translate(${across(one.at)} ${y(one.mg)})`"
        class="step"
        :class="{ chosen: n === chosen, lighter: one.lighter }"
      >
        <circle r="12" fill="transparent" />
        <path :d="one.mark" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.base-line {
  min-height: 210px;
  overflow: hidden;
  cursor: pointer;
}
text {
  font-size: 11px;
  fill: var(--ink-2);
}
.target {
  fill: var(--lake);
  font-weight: 600;
}
.step path {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.step.lighter path {
  fill: var(--spruce);
  stroke: var(--spruce);
}
.step.chosen path {
  stroke: var(--lake);
  stroke-width: 3;
}
.step.chosen circle {
  fill: var(--lake-soft);
}
.trip path {
  fill: none;
  stroke: var(--ink-2);
}
</style>
