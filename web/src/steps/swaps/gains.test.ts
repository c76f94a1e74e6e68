import { describe, expect, it } from 'vitest'
import { gainsOf } from './gains'

describe('what a swap changes beside grams', () => {
  it('is told with whether it is lost', () => {
    const row = { warmth_tenth_c: 25, ground_tenth_r: -11, water_ml: -500 }
    expect(gainsOf(row, 'metric')).toEqual([
      { text: '2.5 °C warmer', isLost: false },
      { text: 'R −1.1', isLost: true },
      { text: 'water −0.5 l', isLost: true },
    ])
    expect(gainsOf({}, 'metric')).toEqual([])
    expect(gainsOf({ warmth_tenth_c: -50 }, 'imperial')[0]).toEqual({ text: '9 °F colder', isLost: true })
  })
})
