import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import type { RefusedFigure } from '@/api/client'
import { asText, tableMass, type MassSystem } from '@/quantities/mass'
import { tidyAmount } from '@/quantities/money'
import { figureWords } from './refusals'

const counting = (mass: MassSystem, code: string, decimals: number) => {
  const currency = { code, decimals }
  return {
    system: ref(mass),
    currency: ref(currency),
    measures: ref<'metric' | 'imperial'>(mass === 'metric' ? 'metric' : 'imperial'),
    tableText: (mg: number) => asText(tableMass(mg, mass)),
    moneyText: (minor: number) => asText(tidyAmount(minor, currency)),
  } as Parameters<typeof figureWords>[1]
}
const metric = counting('metric', 'EUR', 2)
const pounds = counting('pounds_and_ounces', 'USD', 2)

describe('refused figures', () => {
  it('show what would be taken, in the walker’s units', () => {
    const weight: RefusedFigure = {
      code: 'unread',
      quantity: 'mass',
      typed: 'heavy',
      reason: { code: 'not_a_number' },
    }
    expect(figureWords(weight, metric)).toBe(
      '"heavy" is not read as a figure. Type a weight such as 412 g or 0.412 kg, up to 200 kg.',
    )
    expect(figureWords(weight, pounds)).toContain('14.5 oz')
    const price = { ...weight, quantity: 'money' } as const
    expect(figureWords(price, metric)).toContain('an amount in EUR such as 120 or 120.50')
    expect(figureWords(price, counting('metric', 'JPY', 0))).toContain('120 or 1500')
    // Three digits behind a mark could be thousands.
    expect(figureWords(price, counting('metric', 'KWD', 3))).toContain('120 or 120.5,')
  })

  it('ask which of two readings is meant', () => {
    const reason = { code: 'ambiguous', thousands: '1234', decimal: '1.234', rest: ' kg' } as const
    expect(figureWords({ code: 'unread', quantity: 'mass', typed: '1,234 kg', reason }, metric)).toBe(
      '"1,234 kg" can be 1234 kg or 1.234 kg. Type 1234 or 1.234.',
    )
  })

  it('give the range of what can be', () => {
    const outside = (quantity: RefusedFigure['quantity'], low: number, high: number): RefusedFigure => ({
      code: 'outside',
      quantity,
      low,
      high,
    })
    const rating = outside('temperature', -900, 600)
    expect(figureWords(rating, metric)).toBe('That can’t be: type from −90 °C to 60 °C.')
    expect(figureWords(rating, pounds)).toBe('That can’t be: type from −130 °F to 140 °F.')
    expect(figureWords(outside('warmth', -150, 150), pounds)).toContain('−27 °F to 27 °F')
    expect(figureWords(outside('energy', 0, 1), metric), 'without words the server’s stand').toBeNull()
  })
})
