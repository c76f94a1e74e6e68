<script setup lang="ts">
// The descent: the frontier as a walk downhill. Money to the right, base weight down; the target a contour line, the
// budget a fence, the plan a flag, and an open circle where the ranking alone stops. Both lines can be dragged or moved
// with the arrows. The table under it has the plan's figures.
import { computed, useTemplateRef } from 'vue'
import { BOTTOM, H, LEFT, RIGHT, TOP, useDescentLayout, type Descended } from './descent'
import { useDescentLines, useDescentWalk } from './descentMoves'
import { sized, useRoom } from './room'

const props = defineProps<
  Descended & {
    /** The first point that is as sure as is asked. */
    sure: { net: number; base: number; name: string } | null
    /** What the target would be without the dearest wants. */
    without: { target: number; text: string } | null
    unitName: string
    /** A figure of money with its sign. */
    money: (figure: string) => string
    targetText: string
    budgetText: string
    /** What stands at the point that is walked to, in words. */
    walkedText: string
  }
>()
/** The point that is walked to. */
const walked = defineModel<number | null>('walked', { required: true })
const emit = defineEmits<{ drag: [moved: { target?: number; budget?: number }]; drop: []; cancel: [] }>()

const box = useTemplateRef('box')
const { width, at: placeOf } = useRoom(box)
const W = computed(() => Math.max(320, width.value))
const { view, path, likely, dots, aloneLabel } = useDescentLayout(props, W)

const moved = {
  drag: (to: { target?: number; budget?: number }) => emit('drag', to),
  drop: () => emit('drop'),
  cancel: () => emit('cancel'),
}
const { dragging, start, move, end, nudge } = useDescentLines(props, view, placeOf, moved)
const { walkedAt, planAt, walkTo, walk, leave } = useDescentWalk(props, walked, view, placeOf, moved)
const follow = (event: PointerEvent) => (dragging.value ? move(event) : walkTo(event))
</script>

<template>
  <div
    ref="box"
    class="descent"
    @pointerdown="follow"
    @pointermove="follow"
    @pointerup="end"
    @pointercancel="end"
    @pointerleave="leave"
  >
    <svg v-bind="sized(W, H)">
      <g aria-hidden="true">
        <path
          v-if="path"
          :d="`${path}V${H - BOTTOM}H${view.x(points[0]!.net)}Z`"
          fill="var(--spruce-soft)"
          opacity="0.55"
        />
        <g v-for="tick in view.mass" :key="'m' + tick.value">
          <line :x1="LEFT" :x2="W - RIGHT" :y1="tick.at" :y2="tick.at" stroke="var(--line)" />
          <text :x="LEFT - 8" :y="tick.at + 4" text-anchor="end">{{ tick.text }}</text>
        </g>
        <g v-for="(tick, at) in view.money" :key="'c' + tick.value">
          <line
            :x1="tick.at"
            :x2="tick.at"
            :y1="H - BOTTOM"
            :y2="H - BOTTOM + 4"
            stroke="var(--line-strong)"
          />
          <text :x="tick.at" :y="H - 12" text-anchor="middle">
            {{ at === view.money.length - 1 ? money(tick.text) : tick.text }}
          </text>
        </g>
        <text v-if="unitName.length > 4" x="4" :y="14">{{ unitName }}</text>
        <text v-else :x="LEFT - 8" :y="14" text-anchor="end">{{ unitName }}</text>
        <path v-if="likely" :d="likely" fill="var(--spruce)" opacity="0.18" />
        <path :d="path" fill="none" stroke="var(--spruce)" stroke-width="2.5" stroke-linejoin="round" />
        <circle
          v-for="point in dots"
          :key="point.net"
          :cx="view.x(point.net)"
          :cy="view.y(point.base)"
          r="1.6"
          fill="var(--spruce)"
        />
      </g>
      <g
        v-if="points.length"
        class="walk"
        role="slider"
        tabindex="0"
        aria-label="Down the path"
        aria-orientation="horizontal"
        :aria-valuemin="0"
        :aria-valuemax="points.length - 1"
        :aria-valuenow="walked ?? planAt"
        :aria-valuetext="walkedText || 'the plan'"
        aria-describedby="walk-keys"
        @keydown="walk"
      >
        <path :d="path" fill="none" stroke="transparent" stroke-width="14" />
        <template v-if="walkedAt && walkedAt.net <= view.right">
          <line
            :x1="LEFT"
            :x2="view.x(walkedAt.net)"
            :y1="view.y(walkedAt.base)"
            :y2="view.y(walkedAt.base)"
            stroke="var(--spruce)"
          />
          <line
            :x1="view.x(walkedAt.net)"
            :x2="view.x(walkedAt.net)"
            :y1="view.y(walkedAt.base)"
            :y2="H - BOTTOM"
            stroke="var(--spruce)"
          />
          <circle
            :cx="view.x(walkedAt.net)"
            :cy="view.y(walkedAt.base)"
            r="5"
            fill="var(--sheet)"
            stroke="var(--spruce)"
            stroke-width="2.5"
          />
        </template>
      </g>
      <g v-if="without && without.target < view.most.mass" aria-hidden="true">
        <line
          :x1="LEFT"
          :x2="W - RIGHT"
          :y1="view.y(without.target)"
          :y2="view.y(without.target)"
          stroke="var(--cloudberry)"
          stroke-dasharray="1 4"
        />
        <text :x="W - RIGHT" :y="view.y(without.target) - 5" text-anchor="end" class="halo want">
          {{ without.text }}
        </text>
      </g>
      <g v-if="alone && aloneLabel" aria-hidden="true">
        <line
          :x1="aloneLabel.x"
          :x2="aloneLabel.x"
          :y1="aloneLabel.y - 6"
          :y2="aloneLabel.top + 4"
          stroke="var(--line-strong)"
        />
        <text :x="aloneLabel.textX" :y="aloneLabel.top" :text-anchor="aloneLabel.anchor" class="halo">
          buying in rank order stops here
        </text>
        <circle
          :cx="aloneLabel.x"
          :cy="aloneLabel.y"
          r="5"
          fill="var(--sheet)"
          stroke="var(--ink)"
          stroke-width="1.5"
        />
      </g>
      <g
        v-if="target !== null"
        class="handle target"
        role="slider"
        tabindex="0"
        aria-label="Target"
        aria-orientation="vertical"
        :aria-valuemin="0"
        :aria-valuemax="Math.max(target, Math.round(view.most.mass))"
        :aria-valuenow="target"
        aria-describedby="descent-keys"
        :aria-valuetext="targetText"
        @pointerdown.prevent="start('target', $event)"
        @keydown="nudge('target', $event)"
      >
        <line
          :x1="LEFT"
          :x2="W - RIGHT"
          :y1="view.y(target)"
          :y2="view.y(target)"
          stroke="transparent"
          stroke-width="14"
        />
        <line
          :x1="LEFT"
          :x2="W - RIGHT"
          :y1="view.y(target)"
          :y2="view.y(target)"
          stroke="var(--lake)"
          stroke-width="1.5"
          stroke-dasharray="6 4"
        />
        <text :x="LEFT + 8" :y="view.y(target) - 7" class="lake">target {{ targetText }}</text>
        <rect
          :x="W - RIGHT - 10"
          :y="view.y(target) - 9"
          width="10"
          height="18"
          rx="2"
          fill="var(--sheet)"
          stroke="var(--lake)"
        />
      </g>
      <g
        v-if="budget !== null"
        class="handle budget"
        role="slider"
        tabindex="0"
        aria-label="Budget"
        aria-orientation="horizontal"
        :aria-valuemin="0"
        :aria-valuemax="Math.max(budget, Math.round(view.most.money))"
        :aria-valuenow="budget"
        aria-describedby="descent-keys"
        :aria-valuetext="budgetText"
        @pointerdown.prevent="start('budget', $event)"
        @keydown="nudge('budget', $event)"
      >
        <line
          :x1="view.x(budget)"
          :x2="view.x(budget)"
          :y1="TOP"
          :y2="H - BOTTOM"
          stroke="transparent"
          stroke-width="16"
        />
        <line
          :x1="view.x(budget)"
          :x2="view.x(budget)"
          :y1="TOP"
          :y2="H - BOTTOM"
          stroke="var(--lake)"
          stroke-width="1.5"
        />
        <path
          :d="`M${view.x(budget) - 7} 54V72M${view.x(budget) + 7} 54V72M${view.x(budget) - 7} 60h14M${view.x(budget) - 7} 66h14`"
          stroke="var(--lake)"
          stroke-width="1.5"
        />
        <text :x="view.x(budget)" :y="TOP - 8" text-anchor="middle" class="lake">
          budget {{ budgetText }}
        </text>
      </g>
      <g v-if="sure && sure.net <= view.right && sure.net !== plan?.net" aria-hidden="true">
        <line
          :x1="view.x(sure.net)"
          :x2="view.x(sure.net)"
          :y1="view.y(sure.base)"
          :y2="view.y(sure.base) - 44"
          stroke="var(--ink)"
          stroke-width="1.5"
        />
        <path
          :d="`M${view.x(sure.net)} ${view.y(sure.base) - 44}l24 7l-24 8Z`"
          fill="var(--sheet)"
          stroke="var(--lake)"
          stroke-width="1.5"
        />
        <text
          :x="Math.min(view.x(sure.net) + 4, W - RIGHT)"
          :y="view.y(sure.base) - 48"
          :text-anchor="view.x(sure.net) > W - 90 ? 'end' : 'start'"
          class="halo"
        >
          {{ sure.name }}
        </text>
        <circle
          :cx="view.x(sure.net)"
          :cy="view.y(sure.base)"
          r="4"
          fill="var(--sheet)"
          stroke="var(--ink)"
        />
      </g>
      <g v-if="plan" aria-hidden="true">
        <line
          :x1="view.x(plan.net)"
          :x2="view.x(plan.net)"
          :y1="view.y(plan.base)"
          :y2="view.y(plan.base) - 44"
          stroke="var(--ink)"
          stroke-width="2"
        />
        <path :d="`M${view.x(plan.net)} ${view.y(plan.base) - 44}l-24 7l24 8Z`" fill="var(--lake)" />
        <circle :cx="view.x(plan.net)" :cy="view.y(plan.base)" r="4.5" fill="var(--ink)" />
      </g>
    </svg>
    <p id="walk-keys" class="visually-hidden">
      Arrows go from step to step, page keys by ten, Home and End to the ends. Enter puts the target there,
      and again keeps it; Escape puts it back.
    </p>
    <p id="descent-keys" class="visually-hidden">
      Arrows move it, page keys by ten, Home and End to the ends. Enter keeps it, Escape puts it back.
    </p>
  </div>
</template>

<style scoped>
.descent {
  position: relative;
  height: 356px;
  overflow: hidden;
}
svg {
  display: block;
}
/* Only what is dragged keeps a finger from scrolling the page. */
.handle {
  touch-action: none;
}
text {
  font-size: 12px;
  fill: var(--ink-2);
  user-select: none;
}
.lake {
  fill: var(--lake);
  font-weight: 600;
}
.want {
  fill: var(--cloudberry);
}
.lake,
.halo {
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.walk:focus-visible {
  outline: none;
}
.walk:focus-visible path {
  stroke: var(--lake);
  stroke-opacity: 0.18;
}
.target {
  cursor: ns-resize;
}
.budget {
  cursor: ew-resize;
}
.handle:focus-visible {
  outline: none;
}
.handle:focus-visible line,
.handle:focus-visible rect {
  stroke-width: 3;
}
.handle:focus-visible line:first-child {
  stroke-width: 16;
}
</style>
