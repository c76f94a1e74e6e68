import { describe, expect, it } from 'vitest'
import { axis, decimalsOf, nice } from './scale'

describe('scales', () => {
  const texts = (domain: [number, number], wanted: number, least?: number) =>
    axis(domain, [0, 100], wanted, least).marks.map((mark) => mark.text)

  it('step in what people count in, with the decimals that tell marks apart', () => {
    expect(texts([6, 11], 5)).toEqual(['6', '7', '8', '9', '10', '11'])
    expect(texts([0.1, 0.3], 2)).toEqual(['0.1', '0.2', '0.3'])
    expect(texts([0, 1360], 9)).toEqual(['0', '200', '400', '600', '800', '1\u202f000', '1\u202f200'])
    expect(texts([5, 8], 3, 1)).toEqual(['5.0', '6.0', '7.0', '8.0'])
    expect([100, 1, 0.5, 0.2, 0.05].map(decimalsOf)).toEqual([0, 0, 1, 1, 2])
  })

  it('lead from values to places and back', () => {
    const { at, valueAt } = axis([2, 4], [10, 110], 4)
    expect([at(2), at(3), valueAt(60)]).toEqual([10, 60, 3])
    expect(nice([0.3, 9.7], 5)).toEqual([0, 10])
  })
})
