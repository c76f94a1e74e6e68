import { describe, expect, it } from 'vitest'
import { gainsOf, losesNothing } from './gains'

const nameOf = (job: string) => job.replace('_', ' ')

describe('what a swap changes beside grams', () => {
  it('is told with whether it is lost', () => {
    const row = { warmth_tenth_c: 25, ground_tenth_r: -11, water_ml: -500 }
    expect(gainsOf(row, 'metric', nameOf)).toEqual([
      { text: '2.5 °C warmer', isLost: false },
      { text: 'R −1.1', isLost: true },
      { text: 'water −0.5 l', isLost: true },
    ])
    expect(gainsOf({}, 'metric', nameOf)).toEqual([])
    expect(gainsOf({ warmth_tenth_c: -50 }, 'imperial', nameOf)[0]).toEqual({
      text: '9 °F colder',
      isLost: true,
    })
  })

  it('names what else falls short of what the trip asks, once', () => {
    const row = { ground_tenth_r: -11, loses: ['ground', 'ground_insulation', 'load', 'rain_shell'] }
    expect(gainsOf(row, 'metric', nameOf).map((one) => one.text)).toEqual([
      'R −1.1',
      'over the pack’s load',
      'short of rain shell',
    ])
    expect(losesNothing(row)).toBe(false)
    expect(losesNothing({})).toBe(true)
  })
})
