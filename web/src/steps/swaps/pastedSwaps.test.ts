import { describe, expect, it } from 'vitest'
import { swapLines } from './pastedSwaps'

const onList = ['sleeping bag', 'two-skin tent', 'mug']
const lines = (text: string) => swapLines(text, onList, { mass: 'g', currency: 'eur' })

describe('rows pasted for swaps', () => {
  it('take off what is on the list, whichever column it stands in', () => {
    expect(lines('Sleeping bag\tquilt\t545\t262\nquilt\t545 g\t262\tsleeping bag\n')).toEqual([
      'quilt 545g 262eur for Sleeping bag',
      'quilt 545 g 262eur for sleeping bag',
    ])
  })
  it('take off the first where nothing is known', () => {
    expect(lines('old bag\tquilt\t545\t262')).toEqual(['quilt 545g 262eur for old bag'])
  })
  it('have a price from and to, and leave headers and empty rows out', () => {
    expect(lines('Old\tNew\tg\tLow\tHigh\n\nmug\tcup\t50\t15\t20\r\n')).toEqual(['cup 50g 15-20eur for mug'])
  })
  it('are lines as they are where they have one cell', () => {
    expect(lines('quilt 545g 262eur for sleeping bag\ncup 50g for mug')).toHaveLength(2)
  })
})
