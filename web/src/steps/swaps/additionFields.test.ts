import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { reactive } from 'vue'
import { api, type Offer } from '@/api/client'
import { blankAddition, type AdditionDraft } from '@/domain/swapDraft'
import { answered, mounted, textOf } from '@/tests/mounted'
import AdditionFields from './AdditionFields.vue'
import ShopFinder from './ShopFinder.vue'

const offer = { code: 'K7', name: 'Thin pot', weight_mg: 98_500, price_minor: 4_200, stock: 3 } as Offer

/** The fields of a new item, which is changed in place. */
function fields(some: Partial<AdditionDraft> = {}, takesOver = {}) {
  const addition = reactive({ ...blankAddition(), ...some })
  const wrapper = mounted(AdditionFields, { modelValue: addition, at: 0, refusalFor: () => '', takesOver })
  return { addition, wrapper }
}

describe('a new item that is found in the shop', () => {
  it('has the maker’s figure, the price as it was seen, and what is counted of what it replaces', async () => {
    vi.spyOn(api, 'GET').mockResolvedValue(answered([offer]) as never)
    const { addition, wrapper } = fields({}, { pot: 1 })
    const finder = mounted(ShopFinder, {})
    await finder.find('input').setValue('pot')
    await finder.find('input').trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(textOf(finder)).toContain('Thin pot')
    const vm = wrapper.vm as unknown as { take: (offer: Offer, price: number, sold: string) => void }
    vm.take(offer, 4_200, 'new')
    expect(addition).toMatchObject({
      name: 'Thin pot',
      weight: '98.5 g',
      source: 'maker',
      price: '42',
      offer: 'K7',
      provides: { pot: 1 },
      seen: { place: 'the shop', sold: 'new' },
    })
  })

  it('is of the kind that its name says, unless one is chosen', () => {
    const take = ({ wrapper }: ReturnType<typeof fields>) =>
      (wrapper.vm as unknown as { take: (offer: Offer, price: number, sold: string) => void }).take(
        { ...offer, kind: 'pot' },
        4_200,
        'new',
      )
    const [open, chosen] = [fields({}, { heat: 1 }), fields({ kind: 'mug' }, { heat: 1 })]
    take(open)
    take(chosen)
    expect([open.addition.kind, chosen.addition.kind]).toEqual(['pot', 'mug'])
    expect(open.addition.provides, 'what is counted of what it replaces').toEqual({ heat: 1 })
  })

  it('proposes a kind by its name, which is taken by its chip', async () => {
    const post = vi.spyOn(api, 'POST').mockResolvedValue(
      answered({
        chips: [],
        kind: { key: 'tarp', name: 'tarp', said: false, brings: [] },
        ready: true,
      }) as never,
    )
    // The clock goes on: Vue drops a click that is older than its listener.
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const { addition, wrapper } = fields({ name: 'silnylon tarp' })
    await vi.advanceTimersByTimeAsync(300)
    await flushPromises()
    vi.useRealTimers()
    const chip = () => wrapper.findAll('button').find((one) => textOf(one) === 'tarp?')
    await chip()!.trigger('click')
    expect(addition.kind).toBe('tarp')
    await flushPromises()
    expect(chip()).toBeUndefined()
    post.mockRestore()
  })

  it('says what an offer is, where its name says so, and that none is left', async () => {
    const offers = [
      { ...offer, kind: 'pot' },
      { ...offer, code: 'K8', name: 'Heirloom', kind: null, stock: 0, was_minor: 5_000 },
    ]
    vi.spyOn(api, 'GET').mockResolvedValue(answered(offers) as never)
    const finder = mounted(ShopFinder, {})
    await finder.find('input').setValue('p')
    await finder.find('input').trigger('keydown', { key: 'Enter' })
    await flushPromises()
    const [pot, heirloom] = finder.findAll('li').map((one) => textOf(one))
    expect(pot).toContain('pot, K7')
    expect(heirloom).toContain('was 50 €, on sale. None left new. K8')
    expect(finder.findAll('li button').map((one) => one.attributes('disabled') !== undefined)).toEqual([
      false,
      true,
    ])
  })

  it('keeps the jobs that were typed', () => {
    const { addition, wrapper } = fields({ provides: { heat: 1 } }, { pot: 1 })
    const vm = wrapper.vm as unknown as { take: (offer: Offer, price: number, sold: string) => void }
    vm.take(offer, 4_200, 'sale')
    expect(addition.provides).toEqual({ heat: 1 })
  })

  it('says that its price is no longer followed, and is followed again', async () => {
    const { addition, wrapper } = fields({ offer: 'K7', name: 'Thin pot' })
    const button = (name: string) => wrapper.findAll('button').find((one) => textOf(one).includes(name))!
    expect(textOf(wrapper)).toContain('Its price is followed in the shop (K7).')
    await button('Stop following').trigger('click')
    expect(addition.offer).toBeNull()
    expect(textOf(wrapper)).toContain('no longer followed once this is saved')
    await button('Follow it again').trigger('click')
    expect(addition.offer).toBe('K7')
  })
})
