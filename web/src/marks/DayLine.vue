<script setup lang="ts">
// The pack day by day: falling with what is eaten, jumping where food is fetched, under the lines of what it carries comfortably and of a
// fifth of body weight.
import { computed, useTemplateRef } from 'vue'
import { freest, type Box } from './labels'
import { axis, nice } from './scale'
import { sized, useRoom } from './room'

const props = defineProps<{
  days: number[]
  resupply: number[]
  limits: { name: string; mg: number }[]
  unitMg: number
  unitName: string
  text: (mg: number) => string
}>()
const frame = useTemplateRef<HTMLElement>('frame')
const { width } = useRoom(frame)
const HEIGHT = 220
const BOTTOM = HEIGHT - 26

const across = computed(() => axis([0.5, props.days.length + 0.5], [44, Math.max(60, width.value - 8)], 1))
const up = computed(() => {
  const all = [...props.days, ...props.limits.map((limit) => limit.mg)]
  const least = Math.min(...props.days) / props.unitMg
  const most = Math.max(...all) / props.unitMg
  return axis(nice([Math.max(0, least - (most - least) * 0.2 - 0.5), most + 0.3], 5), [BOTTOM, 12], 5)
})
const y = (mg: number) => up.value.at(mg / props.unitMg)
const heaviest = computed(() => props.days.indexOf(Math.max(...props.days)))
/** From where to where each day goes. */
const spans = computed(() => {
  const half = (across.value.at(2) - across.value.at(1)) / 2
  return props.days.map((mg, at) => {
    const middle = across.value.at(at + 1)
    return { from: middle - half, middle, to: middle + half, at: y(mg) }
  })
})
const path = computed(() =>
  spans.value.map(({ from, to, at }, day) => `${day === 0 ? 'M' : 'L'}${from} ${at}H${to}`).join(''),
)
/** The pack's line, day by day, with the step to each. */
const line = computed<Box[]>(() =>
  spans.value.flatMap(({ from, to, at }, day) => {
    const before = spans.value[day - 1]?.at ?? at
    return [
      { left: from, right: to, top: at - 3, bottom: at + 3 },
      { left: from - 3, right: from + 3, top: Math.min(at, before), bottom: Math.max(at, before) },
    ]
  }),
)
/** What nothing that is written should cover: the pack's line and the limits. */
const lines = computed<Box[]>(() => [
  ...props.limits.map(({ mg }) => ({ left: 44, right: width.value, top: y(mg) - 1, bottom: y(mg) + 1 })),
  ...line.value,
])
/** Half of what a figure takes. */
const HALF = 28
/** What is written out: the heaviest day and the last one, over their line or under it, between the axis and the edge. */
const values = computed(() =>
  [...new Set([heaviest.value, props.days.length - 1])].map((day) => {
    const { middle, at } = spans.value[day]!
    const x = Math.max(44 + HALF, Math.min(middle, width.value - HALF))
    const place = (top: number) => ({ left: x - HALF, right: x + HALF, top, bottom: top + 15 })
    return { day, x, ...freest([place(at - 20), place(at + 6)], lines.value) }
  }),
)
/** What a character of the names takes, and how far apart the places for them are. */
const [CHARACTER, STEP] = [5.3, 8]
/** Where the names of the limits stand: over or under their lines, at the end of the days if there is room. */
const labels = computed(() => {
  const placed: Box[] = []
  for (const limit of props.limits) {
    const [long, at] = [`${limit.name} ${props.text(limit.mg)}`.length * CHARACTER, y(limit.mg)]
    const places: Box[] = []
    for (let right = width.value - 6; right - long >= 50 || places.length === 0; right -= STEP)
      for (const top of [at - 17, at + 3]) places.push({ left: right - long, right, top, bottom: top + 14 })
    placed.push(freest(places, [...lines.value, ...values.value, ...placed]))
  }
  return placed
})
const every = computed(() => Math.ceil(props.days.length / Math.max(1, (width.value - 60) / 34)))
</script>

<template>
  <div ref="frame" class="days">
    <svg v-if="width > 0" v-bind="sized(width, HEIGHT)" aria-hidden="true">
      <g v-for="mark in up.marks" :key="mark.value">
        <line x1="44" :x2="width" :y1="mark.at" :y2="mark.at" stroke="var(--line)" />
        <text x="38" :y="mark.at + 4" text-anchor="end">{{ mark.text }}</text>
      </g>
      <text x="2" y="10">{{ unitName }}</text>
      <path :d="path" fill="none" stroke="var(--spruce)" stroke-width="2.5" />
      <g v-for="(limit, at) in limits" :key="limit.name">
        <line
          x1="44"
          :x2="width"
          :y1="y(limit.mg)"
          :y2="y(limit.mg)"
          stroke="var(--lingonberry)"
          stroke-dasharray="5 4"
        />
        <text :x="labels[at]!.right" :y="labels[at]!.bottom - 3" text-anchor="end" class="limit">
          {{ limit.name }} {{ text(limit.mg) }}
        </text>
      </g>
      <g v-for="(_, at) in days" :key="at">
        <text v-if="at % every === 0" :x="across.at(at + 1)" :y="HEIGHT - 8" text-anchor="middle">
          {{ at + 1 }}{{ resupply.includes(at + 1) ? ' ↑' : '' }}
        </text>
      </g>
      <text
        v-for="value in values"
        :key="value.day"
        :x="value.x"
        :y="value.bottom - 2"
        text-anchor="middle"
        class="value"
      >
        {{ text(days[value.day]!) }}
      </text>
    </svg>
    <div class="visually-hidden">
      <table>
        <caption>
          The pack at the start of each day
        </caption>
        <tbody>
          <tr v-for="(mg, at) in days" :key="at">
            <th>Day {{ at + 1 }}{{ resupply.includes(at + 1) ? ', after fetching food' : '' }}</th>
            <td>{{ text(mg) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.days {
  min-height: 220px;
}
text {
  font-size: 11px;
  fill: var(--ink-2);
}
.limit {
  fill: var(--lingonberry);
  /* Readable where the pack's line passes it. */
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.value {
  fill: var(--ink);
  font-weight: 650;
  font-size: 12px;
}
</style>
