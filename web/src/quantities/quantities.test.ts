import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { countOf } from './count'
import { jobText } from './jobs'
import { asText, tableMass, totalMass } from './mass'
import { amount, massPerMoney, moneyPerMass, typedAmount } from './money'

const euro = { code: 'EUR', decimals: 2 }

describe('masses', () => {
  // The same golden file as the core's own test: the two can't drift apart.
  const rows = readFileSync('../core/tests/golden/mass_format.tsv', 'utf8').trim().split('\n').slice(1)
  it.each(rows.map((row) => row.split('\t')))('%s mg', (mg, g, kg, oz, lbOz, lb) => {
    const value = Number(mg)
    const shown = [
      tableMass(value, 'metric'),
      totalMass(value, 'metric'),
      tableMass(value, 'pounds_and_ounces'),
      totalMass(value, 'pounds_and_ounces'),
      totalMass(value, 'decimal_pounds'),
    ].map((mass) => asText(mass).replace(/\u202f/g, ' '))
    expect(shown).toEqual([g, kg, oz, lbOz, lb])
  })

  it('shows a loss with a minus', () => {
    expect(asText(tableMass(-120_000, 'metric'))).toBe('−120 g')
  })
})

it('shows jobs in the units that people know', () => {
  expect(jobText('room in the pack', 'ml', 58_000)).toBe('room in the pack 58 l')
  expect(jobText('power', 'mwh', 7_500)).toBe('power 7.5 Wh')
  expect(jobText('ground insulation', 'tenths_of_r', 31)).toBe('ground insulation R 3.1')
  expect(jobText('stake', 'count', 8)).toBe('stake × 8')
  expect(jobText('shelter', 'count', 1)).toBe('shelter')
})

describe('money', () => {
  it('has the decimals of its currency', () => {
    expect(amount(124_950, euro)).toEqual({ figure: '1\u202f249.50', unit: '€', leads: false })
    expect(amount(1250, { code: 'JPY', decimals: 0 })).toEqual({
      figure: '1\u202f250',
      unit: '¥',
      leads: true,
    })
    expect(typedAmount(62_000, euro)).toBe('620')
  })

  it('is set against mass both ways round', () => {
    expect(massPerMoney(1_180_000, 28_900, euro, 'metric')).toEqual({ figure: '4.1', unit: 'g' })
    expect(moneyPerMass(1_180_000, 28_900, euro, 'metric')).toBe('24.49 € for 100 g')
    expect(massPerMoney(283_495, 1_000, { code: 'USD', decimals: 2 }, 'pounds_and_ounces').figure).toBe(
      '10.0',
    )
  })
})

describe('counts', () => {
  it('are digits alone; anything else is named', () => {
    expect(countOf(' 12 ', 'a count')).toBe(12)
    for (const typed of ['two', '1.5', '-1', '', '1234567']) {
      expect(() => countOf(typed, 'such as 2')).toThrow(`"${typed}" is not read as a count. Type such as 2.`)
    }
  })
})
