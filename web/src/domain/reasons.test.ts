import { describe, expect, it } from 'vitest'
import { proposalWhy, proposed, unavailableWhy } from './reasons'

describe('reasons', () => {
  it('say what is proposed and why', () => {
    const why = { code: 'done_by_others', by: ['blade', 'scissors'], by_own_pieces: true } as const
    expect(proposed({ thing: 'knife', why: { ...why, by: [...why.by] } })).toBe('Leave out one of knife')
    expect(proposalWhy({ ...why, by: [...why.by] })).toBe(
      'All that it does is done by blade, scissors and the pieces that stay.',
    )
    expect(proposalWhy({ code: 'never_used', trips: 1 })).toBe('Carried on 1 trip and never used.')
  })

  it('say why a swap can’t be made, also where the other has no name any more', () => {
    expect(unavailableWhy({ code: 'requires_removed', swap: '' })).toBe(
      'It requires another swap, which was removed.',
    )
  })
})
