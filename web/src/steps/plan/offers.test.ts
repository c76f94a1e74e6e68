import { describe, expect, it } from 'vitest'
import type { Followed, PlanAnswer } from '@/api/client'
import { offered, offerWords, waitWords } from './offers'

const answer = {
  swaps: [
    { id: 'quilt', add: [{ candidate: { id: 'c1', name: 'Quilt', price_minor: 26_200 } }] },
    { id: 'pot', add: [{ candidate: { id: 'c2', name: 'Pot', price_minor: 3_800 } }] },
    {
      id: 'used',
      add: [{ candidate: { id: 'c4', name: 'Pack', price_minor: 12_000, seen: { sold: 'used' } } }],
    },
    { id: 'pad', add: [{ candidate: { id: 'c3', name: 'Pad', price_minor: null } }] },
  ],
  plan: { swaps: [1] },
  near_misses: [
    { swap: 'quilt', side: 'buy_below', price_at_minor: 20_000 },
    { swap: 'pot', side: 'drop_above', price_at_minor: 5_000 },
  ],
} as unknown as PlanAnswer
const seen = (price_minor: number, some: object = {}) => ({
  since: '2026-11-20T08:00:00Z',
  until: '2026-11-26T08:00:00Z',
  price_minor,
  was_minor: null,
  used_minor: null,
  stock: 2,
  ...some,
})
const follow = (swap: string, candidate: string, some: Partial<Followed> = {}) =>
  ({ swap, candidate, code: 'K1', trouble: null, seen: [], ...some }) as Followed
const words = (followed: Followed) =>
  offerWords(
    offered(answer, [followed])[0]!,
    (minor) => `${minor / 100} €`,
    (at) => at.slice(8, 10) + ' Nov',
  )

describe('what is followed in the shop', () => {
  it('has first what comes into the plan by a sale, then what costs less than planned', () => {
    const all = [
      follow('pad', 'c3', { seen: [seen(9_000)] }),
      follow('pot', 'c2', { seen: [seen(2_800)] }),
      follow('quilt', 'c1', { seen: [seen(26_200), seen(19_900, { was_minor: 26_200 })] }),
      follow('gone', 'c9'),
    ]
    expect(offered(answer, all).map(({ name, now, comesIn }) => [name, now, comesIn])).toEqual([
      ['Quilt', 19_900, 'new'],
      ['Pot', 2_800, null],
      ['Pad', 9_000, null],
    ])
  })

  it.each([
    [seen(30_000), 'The used one that it is planned with is gone. A new one is 300 €.'],
    [seen(30_000, { stock: 0 }), 'The used one that it is planned with is gone. None left new either.'],
    [seen(30_000, { used_minor: 12_000 }), 'Used: as planned.'],
    [seen(30_000, { used_minor: 13_000, stock: 0 }), 'Used, 10 € more than planned.'],
  ])('holds a used one against a used one: %j', (last, said) => {
    expect(words(follow('used', 'c4', { seen: [last] }))).toBe(said)
  })

  it.each([
    [seen(19_900, { was_minor: 26_200 }), 'On sale, was 262 €. At this price the plan buys it.'],
    [seen(25_000, { used_minor: 18_000 }), 'A used one is 180 €: at this price the plan buys it.'],
    // Below the break-even price; at it, another choice may be as good.
    [seen(19_999), 'At this price the plan buys it.'],
    [seen(20_000), '62 € less than planned.'],
    [seen(26_200), 'As planned.'],
    [seen(27_000), '8 € more than planned.'],
    [seen(10_000, { stock: 0 }), 'None left new; last seen at 100 € on 26 Nov.'],
  ])('says %j', (last, said) => {
    expect(words(follow('quilt', 'c1', { seen: [last] }))).toBe(said)
  })

  it.each([
    ['silent', 'The shop does not answer; last seen at 199 € on 26 Nov.'],
    ['gone', 'The shop no longer sells it; last seen at 199 € on 26 Nov.'],
    ['other_currency', 'The shop’s price is in another currency now; last seen at 199 € on 26 Nov.'],
  ] as const)('keeps the last price with its date when the shop is %s', (trouble, said) => {
    expect(words(follow('quilt', 'c1', { trouble, seen: [seen(19_900)] }))).toBe(said)
    expect(words(follow('quilt', 'c1', { trouble }))).toContain('no price was seen yet')
  })
})

describe('buying now or waiting', () => {
  const said = (now: number, some: object = {}) => {
    const wait = {
      buy_below_minor: [25_000, 26_000],
      expected_minor: 25_100,
      dearer_percent: 12,
      sold_out_percent: 0,
      by: '2027-08-07',
      ...some,
    }
    return waitWords(
      { now, followed: { wait } as Followed },
      (minor) => `${minor / 100} €`,
      (iso) => iso,
    )
  }

  it('is said with what waiting comes to, and how often it costs more', () => {
    expect(said(30_000)).toBe(
      'By the prices seen, wait: buy below 250 € now, below 260 € later, at any price by 2027-08-07, to try it before the trip. ' +
        'That comes to 251 € on average, 49 € less than now; 12 times in 100 it costs more.',
    )
    expect(said(24_000)).toBe(
      'By the prices seen, buy now: waiting until 2027-08-07 comes to 251 € on average.',
    )
    expect(said(24_000, { sold_out_percent: 20 })).toContain('sold out 20 % of the time')
    expect(said(30_000, { dearer_percent: 0 })).toContain('under one time in 100 it costs more')
    expect(said(30_000, { buy_below_minor: [25_100] })).toContain('wait: buy at any price by')
    expect(waitWords({ now: 1, followed: { wait: null } as Followed }, String, String)).toBe('')
  })
})
