<script setup lang="ts">
// The fan: every swap a slope from one corner, with its true length. Those in the plan are filled; the budget and what
// the target still asks for are reach lines. The table beside it has the same figures.
import { computed } from 'vue'
import { max } from 'd3-array'
import { axis } from './scale'
import { sized } from './room'

export interface FanSwap {
  key: string
  name: string
  saving: number
  net: number
  inPlan: boolean
}

const props = defineProps<{
  swaps: FanSwap[]
  /** Milligrams in one of the unit that the axis is labelled in. */
  unitMg: number
  minorPerMajor: number
  /** A figure of money with its sign. */
  money: (figure: string) => string
  /** Grams that the target still asks for, and money there is. */
  reach: number | null
  budget: number | null
  selected: string | null
}>()
const emit = defineEmits<{ select: [key: string] }>()

const W = 346
const H = 280
const LEFT = 40
const RIGHT = 12
const TOP = 18
const BOTTOM = 26

const view = computed(() => {
  const shown = props.swaps.filter((swap) => swap.saving > 0)
  // One that costs many budgets would squeeze all others into a corner: its slope runs out of the frame.
  const planned = max(shown, (swap) => (swap.inPlan ? swap.net : 0)) ?? 0
  const cut = props.budget ? Math.max(props.budget * 1.6, planned) : Infinity
  const dearest = max(shown, (swap) => Math.max(0, swap.net)) ?? 0
  const most = {
    money: Math.max(1, Math.min(dearest, cut)) / props.minorPerMajor,
    mass: Math.max(1, max(shown, (swap) => swap.saving) ?? 0) / props.unitMg,
  }
  const money = axis([0, most.money * 1.08], [LEFT, W - RIGHT], 3)
  const mass = axis([0, most.mass * 1.1], [H - BOTTOM, TOP], 4)
  const x = (minor: number) => money.at(Math.max(0, minor) / props.minorPerMajor)
  const y = (mg: number) => mass.at(mg / props.unitMg)
  const slopes = shown.map((swap) => {
    const isCut = swap.net > cut
    const part = isCut ? cut / swap.net : 1
    return { swap, isCut, x: x(swap.net * part), y: y(swap.saving * part) }
  })
  return {
    shown: shown.filter((swap) => swap.net <= cut),
    slopes,
    x,
    y,
    money: money.marks,
    mass: mass.marks,
    reach: props.reach !== null && props.reach > 0 && y(props.reach) > TOP - 6 ? y(props.reach) : null,
    fence: props.budget !== null && x(props.budget) < W - RIGHT ? x(props.budget) : null,
  }
})

/** Names where they fit, the longest slopes first. */
const labels = computed(() => {
  const { shown, x, y } = view.value
  const taken: { left: number; right: number; y: number }[] = shown.map((swap) => ({
    left: x(swap.net) - 4,
    right: x(swap.net) + 4,
    y: y(swap.saving),
  }))
  const free = (left: number, right: number, at: number) =>
    left > LEFT + 2 &&
    right < W &&
    at > 10 &&
    !taken.some((box) => left < box.right + 4 && right > box.left - 4 && Math.abs(at - box.y) < 13)
  // What comes before the comma is enough, unless two swaps begin alike.
  const brief = (name: string) => name.split(',')[0]!
  const isAlone = (name: string) => shown.filter((swap) => brief(swap.name) === brief(name)).length === 1
  const out: { key: string; x: number; y: number; anchor: 'start' | 'end'; text: string }[] = []
  for (const swap of [...shown].sort((a, b) => Number(b.inPlan) - Number(a.inPlan) || b.saving - a.saving)) {
    const short = isAlone(swap.name) ? brief(swap.name) : swap.name
    const text = short.length > 24 ? `${short.slice(0, 23).trimEnd()}…` : short
    const width = text.length * 6.1
    const [px, py] = [x(swap.net), y(swap.saving)]
    for (const [anchor, left, at] of [
      ['start', px + 8, py + 1],
      ['end', px - 8 - width, py - 8],
      ['start', px + 8, py - 10],
      ['start', px + 8, py + 12],
    ] as const) {
      if (!free(left, left + width, at)) continue
      taken.push({ left, right: left + width, y: at })
      out.push({ key: swap.key, x: anchor === 'start' ? left : left + width, y: at + 4, anchor, text })
      break
    }
    if (out.length >= 7) break
  }
  return out
})
</script>

<template>
  <svg v-bind="sized(W, H)" role="img" aria-label="Every swap: grams saved over money">
    <g v-for="tick in view.mass" :key="tick.value">
      <line :x1="LEFT" :x2="W - RIGHT" :y1="tick.at" :y2="tick.at" stroke="var(--line)" />
      <text :x="LEFT - 6" :y="tick.at + 4" text-anchor="end">{{ tick.text }}</text>
    </g>
    <text v-for="tick in view.money" :key="tick.value" :x="tick.at" :y="H - 8" text-anchor="middle">
      {{ money(tick.text) }}
    </text>
    <template v-if="view.reach !== null">
      <line
        :x1="LEFT"
        :x2="W - RIGHT"
        :y1="view.reach"
        :y2="view.reach"
        stroke="var(--lake)"
        stroke-dasharray="6 4"
      />
      <text :x="W - RIGHT" :y="view.reach - 5" text-anchor="end" class="line">to the target</text>
    </template>
    <template v-if="view.fence !== null">
      <line :x1="view.fence" :x2="view.fence" :y1="TOP" :y2="H - BOTTOM" stroke="var(--lake)" />
      <text :x="view.fence - 5" :y="TOP + 6" text-anchor="end" class="line">budget</text>
    </template>
    <!-- With the keyboard, swaps are chosen in the table beside it. -->
    <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/no-static-element-interactions -->
    <g
      v-for="{ swap, isCut, x, y } in view.slopes"
      :key="swap.key"
      class="swap"
      @click="emit('select', swap.key)"
    >
      <line
        :x1="LEFT"
        :y1="H - BOTTOM"
        :x2="x"
        :y2="y"
        :stroke="swap.key === selected ? 'var(--lake)' : swap.inPlan ? 'var(--spruce)' : 'var(--line-strong)'"
        :stroke-width="swap.inPlan || swap.key === selected ? 2 : 1"
      />
      <circle
        v-if="!isCut"
        :cx="x"
        :cy="y"
        :r="swap.inPlan ? 4.5 : 3.5"
        :fill="swap.inPlan ? 'var(--spruce)' : 'var(--sheet)'"
        :stroke="swap.key === selected ? 'var(--lake)' : swap.inPlan ? 'var(--spruce)' : 'var(--ink-3)'"
        :stroke-width="swap.key === selected ? 2.5 : 1"
      />
      <title>{{ swap.name }}</title>
    </g>
    <text
      v-for="label in labels"
      :key="label.key"
      :x="label.x"
      :y="label.y"
      :text-anchor="label.anchor"
      class="label"
    >
      {{ label.text }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
  height: auto;
}
text {
  font-size: 11px;
  fill: var(--ink-2);
}
.label {
  font-size: 12px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
  pointer-events: none;
}
.line {
  fill: var(--lake);
  font-weight: 600;
}
.swap {
  cursor: pointer;
}
</style>
