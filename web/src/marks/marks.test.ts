import { describe, expect, it } from 'vitest'
import { medianRatio } from './median'
import { decimalsOf, niceStep, ticks } from './scale'

describe('scales', () => {
  it('step in what people count in', () => {
    expect(niceStep(5, 5)).toBe(1)
    expect(niceStep(4.85, 7)).toBe(1)
    expect(niceStep(1360, 9)).toBe(200)
    expect(niceStep(0.07, 5)).toBeCloseTo(0.02)
    expect(niceStep(0, 5)).toBeGreaterThan(0)
  })

  it('mark every multiple within their ends, ends included', () => {
    expect(ticks(6, 11, 1)).toEqual([6, 7, 8, 9, 10, 11])
    expect(ticks(0.1, 0.3, 0.1).map((tick) => tick.toFixed(1))).toEqual(['0.1', '0.2', '0.3'])
    expect(ticks(-64, 120, 50)).toEqual([-50, 0, 50, 100])
    expect(ticks(1.2, 1.8, 1)).toEqual([])
  })

  it('have the decimals that tell their marks apart', () => {
    expect([100, 1, 0.5, 0.2, 0.05].map(decimalsOf)).toEqual([0, 0, 1, 1, 2])
  })
})

describe('the median slope', () => {
  const row = (saving_mg: number, net_minor: number, kind = 'paid') => ({ class: kind, saving_mg, net_minor })

  it('is that of the paid swaps alone', () => {
    expect(medianRatio([row(300, 100), row(100, 100), row(200, 100), row(900, 0, 'free')])).toBe(2)
    expect(medianRatio([row(900, 0, 'free')])).toBe(1)
  })
})
