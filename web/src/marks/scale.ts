import { tickStep, ticks } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { grouped } from '@/quantities/exact'

/** Decimals that tell multiples of a step apart. */
export const decimalsOf = (step: number) => Math.max(0, -Math.floor(Math.log10(step) + 1e-9))

/** A linear scale with about `wanted` marks, in steps that people count in; each with its place and its figure. */
export function axis(domain: [number, number], range: [number, number], wanted: number, least = 0) {
  const scale = scaleLinear(domain, range)
  const decimals = Math.max(least, decimalsOf(tickStep(...domain, wanted) || 1))
  return {
    at: (value: number) => scale(value),
    valueAt: (place: number) => scale.invert(place),
    marks: ticks(...domain, wanted).map((value) => ({
      value,
      at: scale(value),
      text: grouped(value.toFixed(decimals)),
    })),
  }
}

/** A domain widened to whole steps on both sides. */
export function nice(domain: [number, number], wanted: number): [number, number] {
  const [low = 0, high = 1] = scaleLinear().domain(domain).nice(wanted).domain()
  return [low, high]
}
