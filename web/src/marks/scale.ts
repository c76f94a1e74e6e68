/** Steps that people count in: 1, 2 or 5 times a power of ten, such that about `wanted` of them span `span`. */
export function niceStep(span: number, wanted: number): number {
  const rough = Math.max(span, 1e-9) / wanted
  const power = 10 ** Math.floor(Math.log10(rough))
  const times = [1, 2, 5, 10].find((times) => times * power >= rough) ?? 10
  return times * power
}

/** The multiples of `step` from `low` to `high`. */
export function ticks(low: number, high: number, step: number): number[] {
  const first = Math.ceil(low / step - 1e-9)
  const last = Math.floor(high / step + 1e-9)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, at) => (first + at) * step)
}

/** Decimals that tell multiples of a step apart. */
export const decimalsOf = (step: number) => Math.max(0, -Math.floor(Math.log10(step) + 1e-9))
