import { describe, expect, it } from 'vitest'
import { computed } from 'vue'
import type { Measures } from '@/quantities/measures'
import { lineExamples } from './examples'

const of = (measures: Measures, code: string) =>
  lineExamples({ measures: computed(() => measures), currency: computed(() => ({ code, decimals: 2 })) })

describe('examples of lines', () => {
  it('are in the units and the money of whoever types', () => {
    expect(of('metric', 'EUR').gear).toBe('rain shell 212g 149eur')
    expect(of('imperial', 'USD').swap).toBe('quilt 19.2oz 262usd for mummy bag')
    const all = JSON.stringify(of('imperial', 'USD'))
    expect(all).not.toMatch(/\d(g|C)\b|eur/)
  })
})
