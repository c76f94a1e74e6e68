import type { PlanAnswer } from '@/api/client'

/**
 * What each of some swaps takes, ordered in this order: of all that come in one parcel the dearest delivery is paid. What is bought in
 * another month comes in another parcel.
 */
export function costsInOrder(
  { swaps, ranking }: Pick<PlanAnswer, 'swaps' | 'ranking'>,
  order: number[],
  months?: number[] | null,
): number[] {
  const net = new Map(ranking.map((row) => [row.swap, row.net_minor ?? 0]))
  const paid = new Map<string, number>()
  return order.map((at, place) => {
    const { parcel, delivery_minor: delivery } = swaps[at]!
    if (!parcel) return net.get(at) ?? 0
    const key = `${months?.[place] ?? 0} ${parcel}`
    const shared = Math.min(paid.get(key) ?? 0, delivery)
    paid.set(key, Math.max(paid.get(key) ?? 0, delivery))
    return (net.get(at) ?? 0) - shared
  })
}
