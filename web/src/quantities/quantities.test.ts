import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { countOf } from './count'
import { jobIn, jobText } from './jobs'
import { grouped } from './exact'
import { asText, fine, tableMass, totalMass } from './mass'
import { amount, massPerMoney, moneyPerMass, tidyAmount, typedAmount } from './money'

const euro = { code: 'EUR', decimals: 2 }

describe('masses', () => {
  // The same golden file as the core's own test: the two can't drift apart.
  const rows = readFileSync('../core/tests/golden/mass_format.tsv', 'utf8').trim().split('\n').slice(1)
  it.each(rows)('%s', (row) => {
    const [mg, ...expected] = row.split('\t')
    const value = Number(mg)
    const shown = [
      tableMass(value, 'metric'),
      totalMass(value, 'metric'),
      tableMass(value, 'pounds_and_ounces'),
      totalMass(value, 'pounds_and_ounces'),
      totalMass(value, 'decimal_pounds'),
    ].map((mass) => asText(mass).replace(/\u202f/g, ' '))
    expect(shown).toEqual(expected)
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
    // A code stands apart from its figure.
    expect(asText(amount(41_100, { code: 'CHF', decimals: 2 }))).toBe('CHF\u202f411.00')
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

describe('figures as the walker’s country writes them', () => {
  const dollar = { code: 'USD', decimals: 2 }

  it('have the sign of money where it stands there, and a minus before both', () => {
    expect(asText(tidyAmount(41_100, dollar))).toBe('$411')
    expect(asText(tidyAmount(-4_550, dollar))).toBe('−$45.50')
    expect(asText(tidyAmount(41_100, euro))).toBe('411 €')
    expect(asText(tidyAmount(-41_100, euro))).toBe('−411 €')
    expect(moneyPerMass(1_180_000, 28_900, dollar, 'metric')).toBe('$24.49 for 100 g')
  })

  it('never say that a doubt or a step is nothing', () => {
    expect([1_000, 500, 40, 0].map((mg) => fine(mg, 'metric'))).toEqual(['1 g', '0.5 g', '0.04 g', '0 g'])
    expect([28_350, 1_000, 2_835].map((mg) => fine(mg, 'pounds_and_ounces'))).toEqual([
      '1 oz',
      '0.04 oz',
      '0.1 oz',
    ])
  })

  it('group thousands by a narrow space in every language: a comma there would be a question', () => {
    expect(grouped('1234567.5')).toBe('1\u202f234\u202f567.5')
  })
})

describe('jobs in the walker’s own measures', () => {
  it.each([
    ['water_carried', 'ml', 1_108, 'metric', 'water 1.11 l'],
    ['water_carried', 'ml', 1_108, 'imperial', 'water 37 fl oz'],
    ['room', 'ml', 7_500, 'metric', 'water 7.5 l'],
    ['room', 'ml', 7_500, 'imperial', 'water 458 cu in'],
    ['ground_insulation', 'tenths_of_r', 45, 'imperial', 'water R 4.5'],
    ['stake', 'count', 8, 'metric', 'water × 8'],
  ] as const)('%s %s %i %s', (key, unit, amount, measures, text) => {
    expect(jobIn(key, 'water', unit, amount, measures)).toBe(text)
  })

  it('may be an amount alone', () => {
    expect(jobIn('water_carried', '', 'ml', 500, 'metric')).toBe('0.5 l')
  })
})
