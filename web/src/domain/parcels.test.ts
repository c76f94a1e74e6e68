import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { costsInOrder } from './parcels'

const answer = {
  swaps: [
    { parcel: 'fair', delivery_minor: 320 },
    { parcel: 'fair', delivery_minor: 490 },
    { delivery_minor: 700 },
    { parcel: 'post', delivery_minor: 150 },
  ],
  ranking: [3, 1, 2, 0].map((swap) => ({ swap, net_minor: 1000 * (swap + 1) })),
} as unknown as PlanAnswer

describe('what is ordered together', () => {
  it('takes the dearest delivery of a parcel, whichever is ordered first', () => {
    expect(costsInOrder(answer, [0, 1, 2, 3])).toEqual([1000, 2000 - 320, 3000, 4000])
    expect(costsInOrder(answer, [1, 0])).toEqual([2000, 1000 - 320])
  })

  it('comes in another parcel in another month', () => {
    expect(costsInOrder(answer, [0, 1], [0, 1])).toEqual([1000, 2000])
    expect(costsInOrder(answer, [0, 1], [2, 2])).toEqual([1000, 1680])
  })
})
