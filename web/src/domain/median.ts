import { quantile } from 'd3-array'

/** Grams for money of the median paid swap: what a slope of 45° stands for. */
export function medianRatio(
  rows: { class: string; saving_mg?: number | null; net_minor?: number | null }[],
): number {
  const ratios = rows
    .filter((row) => row.class === 'paid')
    .map((row) => (row.saving_mg ?? 0) / (row.net_minor ?? 1))
  return quantile(ratios, 0.5) ?? 1
}
