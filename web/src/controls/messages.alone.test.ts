import { describe, expect, it } from 'vitest'
import { Problem } from '@/api/client'
import { useMessages } from './messages'

const { did, done, undoLast, redoLast, messages } = useMessages()
const last = () => messages.value.at(-1)!.text

describe('what was done', () => {
  it('is taken back and done again, however often, with or without a message', async () => {
    let ticked = true
    did(
      'Mug ticked in.',
      () => (ticked = true),
      () => (ticked = false),
    )
    const before = messages.value.length
    expect(before).toBe(0)
    for (const [turn, now, says] of [
      [undoLast, false, 'Undone: Mug ticked in.'],
      [redoLast, true, 'Done again: Mug ticked in.'],
      [undoLast, false, 'Undone: Mug ticked in.'],
    ] as const) {
      await turn()
      expect([ticked, last()]).toEqual([now, says])
    }
  })

  it('is taken back in the order in which it was done, and says so when there is nothing', async () => {
    const undone: string[] = []
    for (const what of ['one', 'two'])
      done(what, async () => {
        undone.push(what)
      })
    await undoLast()
    await undoLast()
    expect(undone).toEqual(['two', 'one'])
    await undoLast()
    expect(last()).toContain('There is nothing to undo here.')
    // What gave nothing to do again is not done again; another change forgets what was undone.
    did(
      'three',
      () => undefined,
      () => undefined,
    )
    await redoLast()
    expect(last()).toBe('There is nothing to do again.')
    await undoLast()
  })

  it('stays where undoing it failed for want of an answer, and says why', async () => {
    let tries = 0
    done('Target changed.', async () => {
      if (tries++ === 0) throw new Problem(0, 'unreachable', "Can't reach the server.")
    })
    await undoLast()
    expect(last()).toBe("Not undone: Target changed. Can't reach the server.")
    await undoLast()
    expect([tries, last()]).toEqual([2, 'Undone: Target changed.'])
  })
})
