<script setup lang="ts">
// The pack day by day: falling with what is eaten, jumping where food is fetched, under the lines of what it carries comfortably and of a
// fifth of body weight.
import { computed, useTemplateRef } from 'vue'
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
/** Where the names of the limits stand: over their lines, at the end of the days, where the pack is light; one that would stand on another goes under its own. */
const labels = computed(() => {
  const over = props.limits.map((limit) => y(limit.mg) - 5)
  return over.map((at, of) =>
    over.some((other, before) => before < of && Math.abs(other - at) < 14)
      ? y(props.limits[of]!.mg) + 13
      : at,
  )
})
const heaviest = computed(() => props.days.indexOf(Math.max(...props.days)))
const path = computed(() => {
  const half = (across.value.at(2) - across.value.at(1)) / 2
  return props.days
    .map((mg, at) => {
      const [from, to] = [across.value.at(at + 1) - half, across.value.at(at + 1) + half]
      return `${at === 0 ? 'M' : 'L'}${from} ${y(mg)}H${to}`
    })
    .join('')
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
        <text :x="width - 6" :y="labels[at]" text-anchor="end" class="limit">
          {{ limit.name }} {{ text(limit.mg) }}
        </text>
      </g>
      <g v-for="(mg, at) in days" :key="at">
        <text v-if="at % every === 0" :x="across.at(at + 1)" :y="HEIGHT - 8" text-anchor="middle">
          {{ at + 1 }}{{ resupply.includes(at + 1) ? ' ↑' : '' }}
        </text>
        <text
          v-if="at === heaviest || at === days.length - 1"
          :x="across.at(at + 1)"
          :y="y(mg) - 7"
          text-anchor="middle"
          class="value"
        >
          {{ text(mg) }}
        </text>
      </g>
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
