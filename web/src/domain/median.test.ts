import { describe, expect, it } from 'vitest'
import { medianRatio } from './median'

describe('the median slope', () => {
  const row = (saving_mg: number, net_minor: number, kind = 'paid') => ({ class: kind, saving_mg, net_minor })

  it('is that of the paid swaps alone', () => {
    expect(medianRatio([row(300, 100), row(100, 100), row(200, 100), row(900, 0, 'free')])).toBe(2)
    expect(medianRatio([row(900, 0, 'free')])).toBe(1)
  })
})
