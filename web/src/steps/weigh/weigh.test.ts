import { describe, expect, it } from 'vitest'
import { exactGrams, signed } from '@/quantities/mass'
import { widerSide, trustSentence } from './weigh'

const trust = {
  figure_mg: 0,
  unknown: 0,
  worst_low_mg: -9_000,
  worst_high_mg: 9_000,
  likely_low_mg: -30_000,
  likely_high_mg: 80_001,
}

describe('a reading as it is sent', () => {
  it('is exact and can be read in one way only', () => {
    expect([337_000, 14_800, 33_333, 411_068, 250, 0].map(exactGrams)).toEqual([
      '337 g',
      '14.8 g',
      '33.3330 g',
      '411.0680 g',
      '0.25 g',
      '0 g',
    ])
    expect(exactGrams(1_250_000)).toBe('1250 g')
    expect(exactGrams(100_000)).toBe('100 g')
  })
})

describe('a difference', () => {
  it('has its sign in either system', () => {
    expect([80_000, -12_000, 0].map((mg) => signed(mg, 'metric'))).toEqual(['+80 g', '−12 g', '0 g'])
    expect(signed(28_350, 'pounds_and_ounces')).toBe('+1.0 oz')
  })
})

describe('an uneven band', () => {
  it('is said by its wider side', () => {
    expect(widerSide(trust)).toBe(80_001)
    expect(widerSide({ ...trust, likely_low_mg: 0, likely_high_mg: 0 })).toBe(0)
  })
})

describe('what weighing would do', () => {
  const known = (half_mg: number, unknown = 0) => ({
    ...trust,
    unknown,
    likely_low_mg: -half_mg,
    likely_high_mg: half_mg,
  })
  const sentence = (now: typeof trust, after: typeof trust, foretold: number) =>
    trustSentence({ now, after, foretold }, 'your base', (mg) => `${Math.round(mg / 1_000)} g`)

  it('is said with what it narrows and what it settles', () => {
    expect(sentence(known(112_000), known(36_000), 3)).toBe(
      'Three weights would narrow your base from ±112 g to ±36 g. Least certain first.',
    )
    expect(sentence(known(112_000, 1), known(36_000), 1)).toBe(
      'One weight would narrow your base from ±112 g to ±36 g, and settle one that is unknown. Least certain first.',
    )
  })

  it('is not promised where nothing would be seen of it', () => {
    expect(sentence(known(10_100), known(9_900), 2)).toBe(
      'Everything here is as good as a kitchen scale tells: your base is known to ±10 g.',
    )
    expect(sentence(known(1_000), known(1_000), 0)).toContain('known to ±1 g')
    expect(sentence(known(1_000, 2), known(1_400), 2)).toBe('2 weights are unknown. Weigh those first.')
  })
})
