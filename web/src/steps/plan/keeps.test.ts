// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import { mounted, textOf } from '@/tests/mounted'
import CountingCard from './CountingCard.vue'
import KeepsCard from './KeepsCard.vue'

const kept = (name: string, need: string, costs_minor: number) => ({
  line: name,
  name,
  need,
  mass_mg: 480_000,
  costs_minor,
})

describe('what it costs to bring', () => {
  it('is told of wants first, by the night too, and of all on demand', async () => {
    const keeps = [
      kept('chair', 'want', 5_700),
      ...['a', 'b', 'c', 'd', 'e'].map((name) => kept(name, 'need', 900)),
    ]
    const answer = { keeps, list: { trip: { days: 7 } } } as never
    const card = mounted(KeepsCard, { answer })
    expect(textOf(card.find('.rows > div'))).toContain('chair 480 g want')
    expect(textOf(card.find('.rows > div'))).toContain('57 €, 9.50 € a night')
    expect(card.findAll('.rows > div')).toHaveLength(5)
    await card.find('button').trigger('click')
    expect(card.findAll('.rows > div')).toHaveLength(6)
  })

  it.each([
    [68, '7 in 10'],
    [99.6, 'At least 99 in 100'],
    [97, 'Over 9 in 10'],
    [3, 'Under 1 in 10'],
    [null, null],
  ])('says of a chance of %s in a hundred: %s', (chance_percent, wanted) => {
    const clears = [{ counting: 'stated', mg: 5_000 }]
    const answer = { chance_percent, plan: { clears }, list: { terms: {} } } as unknown as PlanAnswer
    const bold = mounted(CountingCard, { answer }).find('p b')
    expect(bold.exists() ? bold.text() : null).toBe(wanted)
  })
})
