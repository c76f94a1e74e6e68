import { describe, expect, it } from 'vitest'
import type { Gear } from '@/api/client'
import { matches } from './gear'

const thing: Gear = {
  id: 'g',
  version: 1,
  name: 'Silk liner',
  system: 'sleep',
  count: 1,
  weight: null,
  acquired: 'gift',
  status: 'owned',
  kept_at: 'hall chest',
  tags: ['summer', 'hut'],
  nights: 9,
  provides: {},
  needs: {},
  need: 'undecided',
  keep: false,
}

describe('finding gear', () => {
  it('looks in names, systems, places and tags, for every word', () => {
    for (const found of [[], ['silk'], ['liner', 'chest'], ['#summer'], ['#hut', 'silk'], ['sleep']]) {
      expect(matches(thing, found), found.join(' ')).toBe(true)
    }
    for (const missed of [['wool'], ['silk', 'attic'], ['#winter'], ['#silk']]) {
      expect(matches(thing, missed), missed.join(' ')).toBe(false)
    }
  })

  it('does without a place and tags', () => {
    expect(matches({ ...thing, kept_at: undefined, tags: undefined }, ['silk'])).toBe(true)
  })
})
