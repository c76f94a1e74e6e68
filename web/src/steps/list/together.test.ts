import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, ref } from 'vue'
import { api, type Sheet } from '@/api/client'
import { useMessages } from '@/controls/messages'
import { answered, mounted, refused, textOf, used } from '@/tests/mounted'
import { LOADED, sheetLine, sheetOf } from '@/tests/sheet'
import LinksCard from './LinksCard.vue'
import { useTogether } from './together'
import WalkerCard from './WalkerCard.vue'

const post = vi.spyOn(api, 'POST')
const patch = vi.spyOn(api, 'PATCH')
const remove = vi.spyOn(api, 'DELETE')
const { messages, drop } = useMessages()
const texts = () => messages.value.map((message) => message.text)

const walker = (name: string, some = {}) => ({
  id: `id of ${name}`,
  version: 2,
  name,
  body_mg: 70_000_000,
  joined: true,
  shows_prices: false,
  base_mg: 1_000_000,
  pack_mg: 7_000_000,
  everything_mg: 7_000_000,
  apart_mg: 0,
  unknown: 0,
  lacks: [],
  loaded: LOADED,
  ...some,
})
const sheet = () =>
  sheetOf(
    [
      sheetLine('tent', 1_200, { carried: 1, shared: true }),
      sheetLine('bag', 900, { carried: 1, used_up: 1 }),
      sheetLine('pot', null, { carried: 1, walker: 1, mine: false }),
      sheetLine('chair', 400, { left: 1 }),
    ],
    {
      walkers: [walker('Ilo'), walker('Vesper', { joined: false })] as never,
      split: {
        moves: [
          { line: 0, walker: 1 },
          { line: 1, walker: 0 },
        ],
        load_mg: 1,
        body_mg: 1,
        proved: true,
      },
    },
  )

beforeEach(() => {
  for (const method of [post, patch, remove]) method.mockReset()
  post.mockResolvedValue(answered({ id: 'made' }, 'c') as never)
  messages.value.forEach((message) => drop(message.id))
})

/** A list for two; each time it is asked for again, `next` says what has become of it. */
function listOf(next: (shown: Sheet) => Sheet = (shown) => shown) {
  const shown = ref(sheet()) as { value: Sheet }
  const refetch = vi.fn(async () => {
    shown.value = next(shown.value)
  })
  const list = { id: computed(() => 'list'), sheet: computed(() => shown.value), refetch }
  return { shown, refetch, together: used(() => useTogether(list as never)).given }
}
const moves = () => post.mock.calls.map((call) => (call[1] as { body: { moves: object[] } }).body.moves)

describe('walkers on a list', () => {
  it('share in turn: each change is of what the one before has left', async () => {
    const { together, shown } = listOf((now) => {
      const [tent, bag, ...rest] = now.lines
      return { ...now, lines: [tent!, { ...bag!, version: bag!.version + 1, shared: !bag!.shared }, ...rest] }
    })
    const bag = shown.value.lines[1]!
    await Promise.all([together.share(bag), together.share(bag)])
    expect(moves()).toEqual([
      [{ line: 'bag', version: 1, shared: true, walker: 'id of Ilo' }],
      [{ line: 'bag', version: 2, shared: false, walker: 'id of Ilo' }],
    ])
    expect(texts()).toEqual(['bag is shared.', 'bag is not shared any more.'])
  })

  it('split evenly by what still has to move', async () => {
    const { together } = listOf()
    expect(together.uneven.value.map(({ line, to }) => [line.name, to])).toEqual([['tent', 1]])
    await together.splitEvenly()
    expect(moves()).toEqual([[{ line: 'tent', version: 1, shared: true, walker: 'id of Vesper' }]])
  })

  it('are told what the server refuses', async () => {
    const { together, shown, refetch } = listOf()
    post.mockResolvedValue(refused('The line has changed. Look again.', 'stale') as never)
    await together.give(shown.value.lines[0]!, shown.value.walkers[1]!)
    expect(texts()).toEqual(['The line has changed. Look again.'])
    expect(refetch).not.toHaveBeenCalled()
    patch.mockResolvedValue(refused('“heavy” is not read as a weight.') as never)
    await expect(together.set('id of Ilo', { body: 'heavy' })).rejects.toThrow('not read as a weight')
    expect(patch.mock.lastCall![1]).toMatchObject({ params: { query: { version: 2 } } })
  })
})

describe('a walker', () => {
  const stub = () => ({
    give: vi.fn(async () => {}),
    share: vi.fn(async () => {}),
    set: vi.fn(async () => {}),
    takeOff: vi.fn(async () => {}),
    makeLink: vi.fn(async () => {}),
    revoke: vi.fn(async () => {}),
    addresses: ref<Record<string, string>>({ l1: 'http://host/shared/ab' }),
  })
  const card = (at: number, given = sheet()) => {
    const together = stub()
    return { together, wrapper: mounted(WalkerCard, { sheet: given, at, together }) }
  }

  it('stands with what they carry, what is shared first, and not with what stays home', () => {
    const { wrapper } = card(0)
    expect(wrapper.findAll('.what').map(textOf)).toEqual(['tentshared', 'bag × 2'])
    expect(textOf(card(1).wrapper)).toContain('pot')
    expect(card(1).wrapper.findAll('li b').map(textOf)).toEqual(['?'])
    const bodiless = sheet()
    bodiless.walkers[0]!.body_mg = null as never
    expect(textOf(card(0, bodiless).wrapper)).toContain('body weight not said')
  })

  it('gives to whoever walks beside, and the thing keeps the focus', async () => {
    const { wrapper, together } = card(0)
    const tent = wrapper.find<HTMLElement>('[data-thing="tent"]')
    await tent.trigger('keydown', { key: 'ArrowLeft' })
    expect(together.give).not.toHaveBeenCalled()
    await tent.trigger('keydown', { key: 'ArrowRight' })
    await flushPromises()
    expect(together.give.mock.calls[0]).toMatchObject([{ id: 'tent' }, { name: 'Vesper' }])
    expect(document.activeElement).toBe(tent.element)
  })

  it('takes what is dropped on them, once', () => {
    const { wrapper, together } = card(1)
    for (const text of ['tent', 'pot', 'nothing of this list']) {
      const event = new Event('drop', { cancelable: true })
      wrapper.element.dispatchEvent(Object.assign(event, { dataTransfer: { getData: () => text } }))
    }
    expect(together.give.mock.calls).toMatchObject([[{ id: 'tent' }, { name: 'Vesper' }]])
  })

  it('is named, weighed, invited and taken off by the owner, and left by nobody else', async () => {
    const { wrapper, together } = card(1)
    const press = (name: string) =>
      wrapper
        .findAll('button')
        .find((button) => textOf(button) === name)
        ?.trigger('click')
    await press('Link to join …')
    expect(together.makeLink.mock.calls[0]).toMatchObject([
      { walker: 'id of Vesper', days: 14 },
      expect.any(String),
    ])
    await press('Take off')
    expect(together.takeOff.mock.calls[0]).toMatchObject([{ name: 'Vesper' }, 'Vesper is off the list.'])
    const partner = card(0, { ...sheet(), role: 'walker', me: 1 } as unknown as Sheet)
    expect(textOf(partner.wrapper)).not.toContain('Take off')
    expect(partner.wrapper.findAll('[aria-label^="Name of"]')).toHaveLength(0)
  })

  it('has links that open for days or until they are revoked', async () => {
    const together = stub()
    const links = [
      { id: 'l1', made_at: '2026-09-01T10:00:00Z', expires_at: null, walker: null, shows_prices: true },
      {
        id: 'l2',
        made_at: '2026-09-01T10:00:00Z',
        expires_at: null,
        walker: 'id of Vesper',
        shows_prices: false,
      },
    ]
    const wrapper = mounted(LinksCard, { sheet: { ...sheet(), links } as never, together })
    expect(textOf(wrapper)).toContain('To read, with prices, made')
    expect(textOf(wrapper)).toContain('To join as Vesper, made')
    expect(wrapper.find<HTMLInputElement>('[aria-label="The link"]').element.value).toBe(
      'http://host/shared/ab',
    )
    const days = wrapper.find('[aria-label="Days it opens"]')
    await days.setValue('a week')
    await wrapper.find('form').trigger('submit')
    await vi.waitFor(() => expect(textOf(wrapper)).toContain('“a week” is not read as days.'))
    expect(together.makeLink).not.toHaveBeenCalled()
    await days.setValue('30')
    await wrapper.find('form').trigger('submit')
    await vi.waitFor(() =>
      expect(together.makeLink.mock.calls[0]).toMatchObject([
        { shows_prices: false, days: 30 },
        expect.any(String),
      ]),
    )
    await wrapper
      .findAll('button')
      .findLast((button) => textOf(button) === 'Revoke')!
      .trigger('click')
    expect(together.revoke).toHaveBeenCalledWith('l2')
  })
})
