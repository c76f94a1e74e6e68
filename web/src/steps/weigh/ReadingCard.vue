<script setup lang="ts">
// The scale: what it is for, the figure as large as it gets, and whether it may be taken.
import { computed } from 'vue'
import type { ScaleReading } from '@/api/client'
import { useUnits } from '@/domain/units'

const props = defineProps<{
  title: string
  known: string
  reading: ScaleReading | null
  /** What is taken off the reading for the container. */
  container: number
  pieces: number
  scale: string | null
  /** The reading was taken already; the pan has not changed since. */
  used: boolean
}>()

const units = useUnits()

const STATES: Record<string, [string, string]> = {
  silent: ['nothing comes from the scale', 'caution'],
  empty: ['pan empty, at zero', 'muted'],
  moving: ['moving', 'muted'],
  drifting: ['drifting: a draught, or something leans on the pan', 'caution'],
  steady: ['steady', 'spruce'],
  under: ['below zero: the pan was not empty when it was zeroed', 'caution'],
  fault: ['', 'caution'],
}

const net = computed(() => (props.reading?.mass_mg == null ? null : props.reading.mass_mg - props.container))
const figure = computed(() => (net.value === null ? null : units.table(net.value)))
const state = computed(() => {
  if (!props.scale) return ['no scale', 'muted'] as const
  if (!props.reading) return ['waiting for the scale', 'muted'] as const
  if (props.reading.state === 'fault') return [props.reading.why ?? 'fault', 'caution'] as const
  if (props.reading.state === 'steady' && props.used)
    return ['saved: change what is on the pan', 'chosen'] as const
  return STATES[props.reading.state]!
})
const under = computed(() => {
  if (!props.scale) return 'type what your scale shows'
  const zero = props.container
    ? `${units.tableText(props.container)} subtracted for the container`
    : 'pan at zero'
  const step = props.reading?.step_mg ? `, ${units.fineText(props.reading.step_mg)} steps` : ''
  return `${zero}${step}, ${props.scale}`
})
</script>

<template>
  <section class="card reading" aria-label="Reading">
    <header>
      <h2>{{ title }}</h2>
      <span class="muted">{{ known }}</span>
    </header>
    <output class="figure" :class="{ still: reading?.state === 'steady' }" aria-live="off">
      <template v-if="figure"
        >{{ figure.figure }}<small>&thinsp;{{ figure.unit }}</small></template
      >
      <span v-else class="none">–</span>
    </output>
    <p v-if="pieces > 1 && net !== null" class="each">
      ÷ {{ pieces }} = <b>{{ units.tableText(Math.round(net / pieces)) }}</b> each
    </p>
    <footer>
      <span class="state" :class="state[1]" role="status">
        <svg width="14" height="8" aria-hidden="true">
          <path
            v-if="reading?.state === 'moving'"
            d="M1 5Q4 1 7 4T13 3"
            fill="none"
            stroke="currentColor"
            stroke-width="2"
          />
          <rect v-else y="1" width="13" height="6" fill="currentColor" />
        </svg>
        {{ state[0] }}
      </span>
      <span class="muted">{{ under }}</span>
    </footer>
  </section>
</template>

<style scoped>
.reading {
  display: grid;
  grid-template-rows: auto 1fr auto auto;
  min-height: 292px;
  padding: var(--s-4h) var(--s-5h) var(--s-4);
}
header,
footer {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: var(--s-0h) var(--s-4);
}
h2 {
  font-size: var(--text-l);
  margin: 0;
}
.figure {
  align-self: center;
  justify-self: end;
  font-size: clamp(76px, 22vw, 150px);
  font-weight: 650;
  line-height: 1.05;
  letter-spacing: -0.02em;
  white-space: nowrap;
  color: var(--ink-2);
}
.figure.still {
  color: var(--ink);
}
.figure small {
  font-size: 0.3em;
  font-weight: 500;
  color: var(--ink-2);
}
.none {
  color: var(--ink-3);
}
.each {
  text-align: right;
  font-size: var(--text-l);
}
@media (max-width: 700px) {
  .reading {
    min-height: 180px;
    padding: var(--s-3h) var(--s-4);
  }
}
.state {
  font-size: var(--text-field);
  font-weight: 650;
}
</style>
