import { expect, it } from 'vitest'
import { restoredAs } from './lists'

const lists = (...of: string[]) =>
  of.map((entry) => ({ id: entry.split(' ')[0]!, name: entry.split(' ')[1]! }))

it('finds a list again that a restored backup made anew', () => {
  const before = lists('1 fells', '2 lake', '3 fells', '4 lake')
  // The last one is somebody else's, and stays.
  const now = lists('5 fells', '6 lake', '7 fells', '4 lake')
  expect(before.slice(0, 3).map((gone) => restoredAs(gone, before, now)?.id)).toEqual(['5', '6', '7'])
})

it('finds none for a list that is merely gone', () => {
  const before = lists('1 fells', '2 lake')
  expect(restoredAs(before[0]!, before, lists('2 lake'))).toBeUndefined()
  expect(restoredAs(before[0]!, before, lists('2 lake', '3 bog'))).toBeUndefined()
})
