import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { meetings } from './meet'

const jobs = new Map([
  ['rain_shell', { name: 'rain shell', unit: 'count' }],
  ['water_carried', { name: 'water carried', unit: 'ml' }],
])
const answer = (short: [string, number | null][], meet: string[] = []) =>
  ({
    short: short.map(([meet, short]) => ({ meet, short })),
    list: { terms: { meet } },
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
    )
    expect(found.map(({ name, short }) => `${name}: ${short}`)).toEqual([
      'Warm enough at night: 5.5 °C short',
      'Warm enough from below: R 0.5 short',
      'Rain shell: 1 short',
      'Water carried: 1.5 l short',
    ])
    expect(found.every(({ isAsked }) => !isAsked)).toBe(true)
  })

  it('says where nothing is rated, and keeps what is asked though nothing is short of it', () => {
    const found = meetings(answer([['warmth', null]], ['warmth', 'rain_shell']), jobs, 'metric')
    expect(found).toEqual([
      { meet: 'warmth', name: 'Warm enough at night', short: 'not rated', isAsked: true },
      { meet: 'rain_shell', name: 'Rain shell', short: '', isAsked: true },
    ])
  })
})
