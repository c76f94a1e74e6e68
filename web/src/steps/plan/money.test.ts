import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, type PlanAnswer, type Swap } from '@/api/client'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import DoneDialog from '@/domain/DoneDialog.vue'
import MonthsCard from './MonthsCard.vue'
import OffersCard from './OffersCard.vue'

const quilt = {
  id: 'q',
  version: 2,
  list: 'l',
  name: 'Quilt',
  kind: 'replace',
  state: 'open',
  remove: [{ line: 'bag', qty: 1, from: 'carried' }],
  add: [
    {
      candidate: {
        id: 'c',
        version: 1,
        name: 'Quilt',
        offer: 'K1',
        price_low_minor: 26_200,
        price_high_minor: 26_200,
        price_minor: 26_200,
        provides: {},
        needs: {},
      },
      qty: 1,
      place: 'carried',
    },
  ],
  delivery_minor: 490,
  resale_minor: 9_000,
  brings_minor: 7_600,
  sells_needed: false,
  needed_by: [],
  tenth_hours: 0,
  requires: [],
  excludes: [],
} as unknown as Swap
const answer = (terms: object = {}) =>
  ({
    swaps: [quilt],
    plan: { swaps: [] },
    near_misses: [{ swap: 'q', side: 'buy_below', price_at_minor: 20_000 }],
    list: {
      id: 'l',
      terms: { purse: null, selling: { fee_tenths: 0, postage_minor: 0 }, ...terms },
    },
  }) as unknown as PlanAnswer
const seen = {
  since: '2026-11-20T08:00:00Z',
  until: '2026-11-26T08:00:00Z',
  was_minor: 26_200,
  used_minor: null,
}
const followed = (some: object = {}) => [
  {
    swap: 'q',
    candidate: 'c',
    code: 'K1',
    trouble: null,
    seen: [{ ...seen, price_minor: 19_900, stock: 2 }],
    ...some,
  },
]

beforeEach(() => vi.restoreAllMocks())
afterEach(() => (document.body.innerHTML = ''))

/** Types into the field with a label and leaves it. */
async function type(card: ReturnType<typeof mounted>, label: string, text: string) {
  const item = card.findAll('.el-form-item').find((one) => one.text().includes(label))!
  await item.get('input').setValue(text)
  await item.get('input').trigger('change')
  await item.get('input').trigger('blur')
  await flushPromises()
}

describe('money month by month', () => {
  it('sends each field by itself, so that what was typed before it stays', async () => {
    const save = vi.fn(async () => undefined)
    const card = mounted(MonthsCard, { answer: answer(), save })
    await type(card, 'Seller', '8.5')
    await type(card, 'Postage', '5')
    await type(card, 'Now', '150')
    expect(save.mock.calls).toEqual([
      [{ selling: { fee: '8.5' } }],
      [{ selling: { postage: '5' } }],
      // Of a purse that is not there yet the rest is nothing.
      [{ purse: { now: '150', month: '0' } }],
    ])
    await type(card, 'Resale comes after', '3')
    expect(save).toHaveBeenLastCalledWith({ purse: { now: '0', month: '0', resale_after_months: 3 } })
  })

  it('has no purse when nothing is typed, and says what is no count of months', async () => {
    const save = vi.fn(async () => undefined)
    const purse = { now_minor: 15_000, month_minor: 0, resale_after_months: 1 }
    const card = mounted(MonthsCard, { answer: answer({ purse }), save })
    await type(card, 'Resale comes after', 'soon')
    await vi.waitFor(() => expect(card.text()).toContain('"soon" is no count of months'))
    expect(save).not.toHaveBeenCalled()
    await type(card, 'Each month', '')
    await type(card, 'Now', '0')
    expect(save).toHaveBeenLastCalledWith({ purse: { now: '0' } })
    const empty = mounted(MonthsCard, { answer: answer(), save })
    await type(empty, 'Resale comes after', '0')
    expect(save).toHaveBeenLastCalledWith({ purse: null })
  })
})

describe('what is followed in the shop', () => {
  const shown = async (answers: unknown) => {
    vi.spyOn(api, 'GET').mockResolvedValue(answers as never)
    const card = mounted(OffersCard, { answer: answer() })
    await flushPromises()
    return card
  }

  it('is news when it comes into the plan, and is planned with by one key; the focus stays in the card', async () => {
    const put = vi.spyOn(api, 'PUT').mockResolvedValue(answered(quilt, 'change') as never)
    const card = await shown(answered(followed()))
    expect(textOf(card)).toContain('News from the shop')
    expect(textOf(card)).toContain('At this price the plan buys it.')
    await card.get('button').trigger('click')
    await flushPromises()
    const [path, sent] = put.mock.calls[0] as unknown as [
      string,
      { params: object; body: Record<string, unknown> },
    ]
    expect([path, sent.params]).toEqual(['/api/swaps/{id}', { path: { id: 'q' }, query: { version: 2 } }])
    expect(sent.body).toMatchObject({
      name: 'Quilt',
      resale: '90',
      add: [{ candidate: { id: 'c', version: 1 }, price: '199', offer: 'K1' }],
    })
    expect(document.activeElement?.tagName).toBe('H2')
  })

  it('keeps the last price when the shop is silent, and offers no key for it', async () => {
    const card = await shown(answered(followed({ trouble: 'silent' })))
    expect(textOf(card)).toContain('The shop does not answer; last seen at')
    expect(card.findAll('button')).toHaveLength(0)
  })

  it('says nothing where there is no shop and nothing was ever seen', async () => {
    const card = await shown(answered(followed({ seen: [] })))
    expect(card.find('section').exists()).toBe(false)
  })

  it('stays as it was when the price is refused', async () => {
    vi.spyOn(api, 'PUT').mockResolvedValue(refused('Someone changed it.', 'stale') as never)
    const card = await shown(answered(followed()))
    await card.get('button').trigger('click')
    await flushPromises()
    expect(textOf(card)).toContain('News from the shop')
  })
})

describe('a swap that is done', () => {
  const opened = async (swap: Swap) => {
    const doIt = vi.fn(async () => undefined)
    const lines = [{ id: 'bag', gear: { name: 'Old bag' } }]
    const dialog = mounted(DoneDialog, { swap, lines, doIt, modelValue: false })
    await dialog.setProps({ modelValue: true })
    await nextTick()
    const save = async () => {
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
      await flushPromises()
    }
    return { doIt, save }
  }

  it('was bought at its price and sold for what is left after fees, unless something else is typed', async () => {
    const { doIt, save } = await opened(quilt)
    await save()
    const asPlanned = { paid: ['262'], delivery: '4.90', fates: ['sold'], got: '76' }
    expect(doIt).toHaveBeenCalledExactlyOnceWith(quilt, asPlanned)
  })

  it('keeps the old thing where its resale does not count', async () => {
    const needed = { ...quilt, needed_by: ['Winter'], brings_minor: 0 } as Swap
    const { doIt, save } = await opened(needed)
    await save()
    expect(doIt).toHaveBeenCalledWith(needed, { paid: ['262'], delivery: '4.90', fates: ['kept'], got: '' })
  })
})

describe('money that was spent since it was said what there is', () => {
  const card = (spent_minor: number, spent_then_minor: number | null) => {
    const purse = { now_minor: 50_000, month_minor: 4_000, resale_after_months: 0, spent_then_minor }
    return textOf(mounted(MonthsCard, { answer: { ...answer({ purse }), spent_minor }, save: vi.fn() }))
  }

  it('is taken off, and said', () => {
    expect(card(30_000, 12_000)).toContain('180 € of what there was are spent since: 320 € are left.')
    expect(card(90_000, 12_000)).toContain('0 € are left.')
    expect(card(12_000, 12_000)).not.toContain('spent since')
    expect(card(30_000, null)).not.toContain('spent since')
  })
})
