// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { Gear } from '@/api/client'
import { base64 } from './files'
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

describe('a file in base 64', () => {
  it('keeps every byte, however many there are', () => {
    const bytes = Uint8Array.from({ length: 20_000 }, (_, at) => (at * 7) % 256)
    const back = Uint8Array.from(atob(base64(bytes)), (letter) => letter.charCodeAt(0))
    expect(back).toEqual(bytes)
    expect(base64(new Uint8Array())).toBe('')
  })
})
