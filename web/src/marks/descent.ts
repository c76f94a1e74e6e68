import { computed, type Ref } from 'vue'
import { area, curveStepAfter, line } from 'd3-shape'
import { axis } from './scale'

/** Where the descent puts what it shows: axes, path, band and labels, for so wide a drawing. */

export interface Descended {
  points: { net: number; base: number }[]
  now: number
  plan: { net: number; base: number } | null
  alone: { net: number; base: number } | null
  /** From where to where each point likely weighs; none while that is not known. */
  band: { low: number; high: number }[]
  target: number | null
  budget: number | null
  unitMg: number
  /** The fewest decimals of its marks. */
  unitDecimals?: number
  minorPerMajor: number
}

export const H = 356
export const LEFT = 52
export const RIGHT = 14
export const TOP = 30
export const BOTTOM = 32
/** About as wide as the label of where the ranking stops. */
const LABEL = 140

export function useDescentLayout(props: Readonly<Descended>, W: Readonly<Ref<number>>) {
  const view = computed(() => {
    const nets = props.points.map((point) => point.net)
    const bases = props.points.map((point) => point.base)
    const money = {
      low: Math.min(0, ...nets),
      high: Math.max(props.minorPerMajor * 10, (props.budget ?? 0) * 1.12, ...nets),
    }
    // A long tail of dear grams beyond three budgets would squeeze what is near: it is cut off, and the path runs out of the frame.
    if (props.budget)
      money.high = Math.min(money.high, Math.max(props.budget * 2.2, (props.plan?.net ?? 0) * 1.2))
    const mass = {
      low: Math.min(...bases, props.target ?? Infinity),
      high: Math.max(props.now, ...bases, props.target ?? 0),
    }
    const low = Math.max(0, mass.low - (mass.high - mass.low) * 0.07)
    const high = mass.high + (mass.high - low) * 0.04
    const moneyAxis = axis(
      [money.low / props.minorPerMajor, money.high / props.minorPerMajor],
      [LEFT, W.value - RIGHT],
      W.value / 80,
    )
    const massAxis = axis(
      [low / props.unitMg, high / props.unitMg],
      [H - BOTTOM, TOP],
      7,
      props.unitDecimals ?? 1,
    )
    return {
      x: (minor: number) => moneyAxis.at(minor / props.minorPerMajor),
      y: (mg: number) => massAxis.at(mg / props.unitMg),
      minorAt: (px: number) => moneyAxis.valueAt(px) * props.minorPerMajor,
      mgAt: (py: number) => massAxis.valueAt(py) * props.unitMg,
      right: money.high,
      most: { money: money.high, mass: high },
      money: moneyAxis.marks,
      mass: massAxis.marks,
    }
  })

  const path = computed(() => {
    const { x, y, right } = view.value
    const shown = props.points.filter((point) => point.net <= right)
    const last = shown.at(-1)
    if (!last) return ''
    const walk = line<{ net: number; base: number }>(
      (point) => x(point.net),
      (point) => y(point.base),
    ).curve(curveStepAfter)
    return walk([...shown, { net: right, base: last.base }]) ?? ''
  })
  /** What the points likely weigh, around the path. */
  const likely = computed(() => {
    const { x, y, right } = view.value
    if (props.band.length !== props.points.length) return ''
    const shown = props.points.flatMap((point, at) =>
      point.net <= right ? [{ net: point.net, ...props.band[at]! }] : [],
    )
    const last = shown.at(-1)
    if (!last) return ''
    const around = area<{ net: number; low: number; high: number }>()
      .x((point) => x(point.net))
      .y0((point) => y(point.low))
      .y1((point) => y(point.high))
      .curve(curveStepAfter)
    return around([...shown, { ...last, net: right }]) ?? ''
  })
  const dots = computed(() =>
    props.points.length > 200 ? [] : props.points.filter((point) => point.net <= view.value.right),
  )

  /** A label beside the flag must not stand on the target's line or text. */
  const aloneLabel = computed(() => {
    if (!props.alone) return null
    const at = { x: view.value.x(props.alone.net), y: view.value.y(props.alone.base) }
    const top = Math.max(TOP + 14, at.y - 92)
    const fence = props.budget === null ? null : view.value.x(props.budget)
    const near = fence !== null && Math.abs(fence - at.x) < LABEL
    // To the right of both lines the path is always further down; to the left it may run through the text.
    const before = props.points.findLast((point) => view.value.x(point.net) <= at.x - LABEL)
    const isClear = at.x - LABEL > LEFT && before !== undefined && view.value.y(before.base) > top + 8
    const left = (near || at.x > W.value / 2) && isClear
    const right = near ? Math.max(at.x, fence) + 8 : at.x - 4
    return { ...at, top, anchor: left ? 'end' : 'start', textX: left ? at.x + 4 : right }
  })

  return { view, path, likely, dots, aloneLabel }
}
