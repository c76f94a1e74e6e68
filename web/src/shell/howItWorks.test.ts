import { describe, expect, it } from 'vitest'
import { howItWorks } from './howItWorks'

describe('how a step works', () => {
  it('is told for each step, and for a page of its own', () => {
    const steps = ['weigh', 'gear', 'list', 'swaps', 'plan', 'pack', 'trips', 'year']
    const told = steps.map((step) => howItWorks(`/lists/0198/${step}`)!)
    expect(told.map(({ name }) => name.toLowerCase())).toEqual(steps)
    for (const { sentences, example } of told) {
      expect(sentences.every((sentence) => sentence.endsWith('.'))).toBe(true)
      expect(example).not.toBe('')
    }
    // What has a figure with a unit has it in pounds, dollars and Fahrenheit too, and nothing else in that.
    const pages = [...steps, 'list/trip', 'list/together', 'list/compare']
    for (const { example, inPounds = '' } of pages.map((page) => howItWorks(`/lists/0198/${page}`)!)) {
      const metric = /\d ?(g|kg|€|eur|°?C)\b|€/
      expect(inPounds !== '', example).toBe(metric.test(example))
      expect(inPounds).not.toMatch(metric)
    }
    expect(howItWorks('/lists/0198/list/trip')?.name).toBe('Trip')
    expect(howItWorks('/lists/0198/gear/files')?.name).toBe('Gear')
    expect(howItWorks('/lists/0198')).toBeUndefined()
  })
})
