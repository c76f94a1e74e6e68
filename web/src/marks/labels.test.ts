import { expect, it } from 'vitest'
import { freest, type Box } from './labels'

const box = (left: number, top: number): Box => ({ left, right: left + 50, top, bottom: top + 10 })

it('puts a label where it covers least, and at the first of such places', () => {
  const places = [box(0, 0), box(100, 0), box(0, 40)]
  expect(freest(places, [])).toBe(places[0])
  expect(freest(places, [box(10, 5), box(140, 0)])).toBe(places[2])
  expect(freest(places, [box(10, 5), box(140, 0), box(0, 40)])).toBe(places[1])
})
