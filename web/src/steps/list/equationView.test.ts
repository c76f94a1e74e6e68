import { describe, expect, it, vi } from 'vitest'
import { mounted, textOf } from '@/tests/mounted'
import { caution, sheetLine, sheetOf, trip } from '@/tests/sheet'
import CautionCards from './CautionCards.vue'
import CompareDrawer from './CompareDrawer.vue'
import Equation from './Equation.vue'
import WaysCard from './WaysCard.vue'

const lines = [
  sheetLine('tent', 1_200, { carried: 1 }),
  sheetLine('socks', 100, { carried: 2, worn: 1 }),
  sheetLine('gas', 300, { used_up: 1 }),
  sheetLine('axe', 500, { apart: 1 }),
  sheetLine('quilt', 600, { left: 1, weight: { unit_mg: 600_000, typed: '600 g', source: 'maker' } }),
  sheetLine('pouch', null, { carried: 1 }),
  sheetLine('hers', 900, { carried: 1, mine: false, walker: 1 }),
]
const equation = (sheet = sheetOf(lines)) => mounted(Equation, { sheet, chosen: null })
const rows = (wrapper: ReturnType<typeof equation>, column: string) =>
  wrapper.findAll(`${column} [data-block]`).map(textOf)

describe('the list as an equation', () => {
  it('has a column for each place, the heaviest on top, and nothing of what another carries', () => {
    const wrapper = equation()
    expect(rows(wrapper, '.on-back')).toEqual([
      'tent1 200 g, on my back',
      'socks × 2200 g, on my back',
      'pouchunknown? g, on my back',
    ])
    expect(rows(wrapper, '.on-used_up')).toEqual(['gas300 g, used up', 'quiltmaker’s600 g, stays home'])
    expect(rows(wrapper, '.on-worn')).toEqual(['socks100 g, on me', 'axe500 g, apart'])
    expect(wrapper.findAll('.sum').map(textOf)).toEqual([
      'On my back1.40 kg base',
      'Used up0.30 kg',
      'On me0.10 kg',
      'Everything1.80 kgApart0.00 kg axe',
    ])
  })

  it('moves all of a thing by its letter, one piece with Shift, and takes it off', async () => {
    const wrapper = equation()
    const socks = wrapper.find('.on-back [data-block="socks carried"]')
    for (const key of ['m', 'M', 'a', 'x', 'u', 'q']) await socks.trigger('keydown', { key })
    await socks.trigger('keydown', { key: 'Delete' })
    expect(wrapper.emitted('move')).toEqual([
      [lines[1], 'carried', 'worn', 2],
      [lines[1], 'carried', 'worn', 1],
      [lines[1], 'carried', 'apart', 2],
      [lines[1], 'carried', 'left', 2],
      [lines[1], 'carried', 'used_up', 2],
    ])
    expect(wrapper.emitted('remove')).toEqual([[lines[1]]])
  })

  it('moves nothing that is another’s, and walks between columns with arrows', async () => {
    const wrapper = equation(
      sheetOf([sheetLine('tent', 900, { carried: 1, mine: false }), sheetLine('hat', 40, { worn: 1 })]),
    )
    const tent = wrapper.find<HTMLElement>('[data-block="tent carried"]')
    await tent.trigger('keydown', { key: 'x' })
    expect(wrapper.emitted('move')).toBeUndefined()
    tent.element.focus()
    await tent.trigger('keydown', { key: 'ArrowRight' })
    expect(document.activeElement?.getAttribute('data-block')).toBe('hat worn')
    await wrapper.find('[data-block="hat worn"]').trigger('keydown', { key: 'ArrowLeft' })
    expect(document.activeElement?.getAttribute('data-block')).toBe('tent carried')
  })

  it('takes what is dropped on a column', async () => {
    const wrapper = equation()
    const drop = (text: string, shiftKey = false) => {
      const event = new Event('drop', { bubbles: true, cancelable: true })
      Object.assign(event, { dataTransfer: { getData: () => text }, shiftKey })
      wrapper.find('.on-worn').element.dispatchEvent(event)
    }
    drop('tent carried')
    drop('socks carried', true)
    drop('nothing of this list')
    expect(wrapper.emitted('move')).toEqual([
      [lines[0], 'carried', 'worn', 1],
      [lines[1], 'carried', 'worn', 1],
    ])
  })

  it('folds the light ones of many things', async () => {
    const many = Array.from({ length: 40 }, (_, at) => sheetLine(`thing ${at}`, 100 - at, { carried: 1 }))
    const wrapper = equation(sheetOf(many))
    expect(rows(wrapper, '.on-back')).toHaveLength(24)
    const fold = wrapper.findAll('.fold button').find((button) => textOf(button).startsWith('and 16'))!
    expect(textOf(fold)).toBe('and 16 of 76 g and less, 1 096 g together')
    await fold.trigger('click')
    expect(rows(wrapper, '.on-back')).toHaveLength(40)
  })
})

describe('beside the equation', () => {
  it('stand the ways of counting, each to be chosen', async () => {
    const totals = { base_mg: 1_000_000, pack_mg: 0, everything_mg: 0, apart_mg: 0, unknown: 0 }
    const sheet = sheetOf(lines, {
      ways: [
        { way: 'usual', ...totals },
        { way: 'Club', ...totals, base_mg: 900_000 },
      ],
    })
    sheet.list.ways = [{ key: 'Club', places: [] }]
    sheet.list.way = 'Club'
    const saveWays = vi.fn(async () => {})
    const wrapper = mounted(WaysCard, { sheet, canChange: true, saveWays })
    expect(wrapper.findAll('li').map(textOf)).toEqual([
      'As laid out1.40',
      'Count it this way: As most count1.00',
      'Count it this way: Club, for new things too×0.90',
    ])
    await wrapper.find('li:nth-child(2) button').trigger('click')
    expect(wrapper.emitted('count')).toEqual([['usual', 'As most count']])
    await wrapper.find('[aria-label="Remove the way Club"]').trigger('click')
    expect(saveWays).toHaveBeenCalledWith([])
    const shown = mounted(WaysCard, { sheet, canChange: false, saveWays })
    expect(shown.findAll('button')).toHaveLength(0)
  })

  it('stand cautions with what would quiet them, and what may be brought', async () => {
    const remedies = [
      { name: 'silk liner', gear: 'g1', unit_mg: 118_000, found: 10, gain: 30, quiets: false },
      { name: 'winter bag', gear: null, unit_mg: 1_500_000, found: -100, gain: 140, quiets: true },
    ]
    const cold = caution({
      id: 'cold_night',
      level: 'red',
      found: 40,
      against: -20,
      short: 60,
      limit: -15,
      of: [4],
      remedies,
    })
    const sheet = sheetOf(lines, {
      trip: { cautions: [cold, caution({ id: 'rules', level: 'note' })] } as never,
    })
    sheet.list.trip = trip()
    const wrapper = mounted(CautionCards, { sheet, canAdd: true })
    expect(textOf(wrapper.find('article h2'))).toBe('Serious: Cold night: 6 °C short')
    expect(textOf(wrapper.find('article p'))).toContain('Low −2 °C. quilt: comfort 4 °C, limit −1.5 °C.')
    expect(wrapper.findAll('li').map(textOf)).toEqual([
      'silk liner adds 3 °C Bring it',
      'winter bag (a candidate) adds 14 °C: enough for this figure',
    ])
    await wrapper.find('li button').trigger('click')
    expect(wrapper.emitted('bring')).toEqual([['g1', 'silk liner']])
    expect(textOf(wrapper.find('.notes'))).toContain('Local rules')
    const quiet = sheetOf(lines, { trip: { cautions: [] } as never })
    expect(wrapper.text()).not.toContain('No caution')
    expect(mounted(CautionCards, { sheet: quiet, canAdd: true }).text()).toContain(
      'No caution by these figures.',
    )
  })

  it('stands another list, thing by thing', () => {
    const differences = [{ name: 'tent', here: 1_200_000, there: null }]
    const wrapper = mounted(CompareDrawer, {
      modelValue: true,
      here: 'Week',
      there: 'as planned',
      differences,
    })
    expect(document.body.textContent?.replace(/\s+/g, ' ')).toContain('Week, and as planned')
    wrapper.unmount()
  })
})

describe('cautions that are known', () => {
  it('fold to a line, and are told again on demand; what is assumed is confirmed', async () => {
    const told = (more: object) => caution({ id: 'freezing', level: 'amber', of: [4], ...more })
    const cautions = [
      told({ key: 'freezing', known: true }),
      told({ id: 'room', key: 'room', found: 60_000, against: 50_000, short: 10_000 }),
      told({ id: 'assumed', level: 'note', key: 'assumed/load', job: 'load', found: 12_000 }),
    ]
    const sheet = sheetOf(lines, { trip: { cautions } as never })
    const wrapper = mounted(CautionCards, { sheet, canAdd: true, canKnow: true })
    expect(wrapper.findAll('article')).toHaveLength(1)
    expect(textOf(wrapper.find('[aria-label="What you know"]'))).toBe(
      'you know: The filter may freeze Tell it again',
    )
    await wrapper.find('[aria-label="What you know"] button').trigger('click')
    await wrapper.find('article button').trigger('click')
    const known = wrapper.emitted('know') as [{ key: string }, boolean][]
    expect(known.map(([one, is]) => [one.key, is])).toEqual([
      ['freezing', false],
      ['room', true],
    ])
    expect(textOf(wrapper.find('[aria-label="To bear in mind"]'))).toContain('such things usually have it')
  })
})
