import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { meetings } from './meet'

const jobs = new Map([
  ['rain_shell', { name: 'rain shell', unit: 'count' }],
  ['water_carried', { name: 'water carried', unit: 'ml' }],
])
const written = { money: (minor: number) => `${minor / 100} €`, mass: (mg: number) => `${mg / 1000} g` }
const answer = (short: [string, number | null][], meet: string[] = [], costs: object[] = []) =>
  ({
    short: short.map(([meet, short]) => ({ meet, short })),
    list: { terms: { meet } },
    meet_costs: costs,
  }) as unknown as PlanAnswer

describe('what the plan may also meet', () => {
  it('is what is short today, with by how much', () => {
    const found = meetings(
      answer([
        ['warmth', 55],
        ['ground', 5],
        ['rain_shell', 1],
        ['water_carried', 1_500],
      ]),
      jobs,
      'metric',
      written,
    )
    expect(found.map(({ name, short }) => `${name}: ${short}`)).toEqual([
      'Warm enough at night: 5.5 °C short',
      'Warm enough from below: R 0.5 short',
      'Rain shell: missing',
      'Water carried: 1.5 l short',
    ])
    expect(found.every(({ isAsked }) => !isAsked)).toBe(true)
  })

  it('counts what is under a hammock in degrees', () => {
    const found = answer([['ground', 27]])
    const hung = { ...found, short: found.short.map((one) => ({ ...one, hangs: true })) }
    expect(meetings(hung, jobs, 'metric', written)[0]!.short).toBe('2.7 °C short')
  })

  it('says what it costs before one asks for it', () => {
    const cost = (meet: string, outcome: string, some: object) => ({ meet, outcome, ...some })
    const costs = [
      cost('warmth', 'target_met', { more_minor: 8_300, heavier_mg: 0 }),
      cost('ground', 'over_budget', { more_minor: -500, heavier_mg: 120_000 }),
      cost('rain_shell', 'unmet', {}),
      cost('water_carried', 'too_dear', { over_minor: 4_000 }),
    ]
    const short: [string, number][] = costs.map(({ meet }) => [meet, 1])
    const costsOf = (asked: string[]) =>
      meetings(answer(short, asked, costs), jobs, 'metric', written).map((one) => one.cost)
    expect(costsOf([])).toEqual(['+83 €', '−5 €, 120 g heavier', 'no plan does it', '40 € over the budget'])
    expect(costsOf(['warmth'])[0], 'what is asked is in the plan').toBe('')
  })

  it('says where nothing is rated, and keeps what is asked though nothing is short of it', () => {
    const found = meetings(answer([['warmth', null]], ['warmth', 'rain_shell']), jobs, 'metric', written)
    expect(found).toEqual([
      { meet: 'warmth', name: 'Warm enough at night', short: 'not rated', isAsked: true, cost: '' },
      { meet: 'rain_shell', name: 'Rain shell', short: '', isAsked: true, cost: '' },
    ])
  })
})
