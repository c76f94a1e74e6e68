import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import type { Change, Gear, GearChange } from '@/api/client'
import { useUnits } from '@/domain/units'
import { longDay } from '@/quantities/dates'
import { mounted, textOf } from '@/tests/mounted'
import { about, byDay, nextSource, ORDERS, sourceName, type KnownJobs } from './gear'
import GearRow from './GearRow.vue'
import SeveralBar from './SeveralBar.vue'

const quilt: Gear = {
  id: 'q',
  version: 3,
  name: 'Quilt',
  system: 'sleep',
  count: 1,
  weight: { unit_mg: 510_000, typed: '18 oz', source: 'maker' },
  paid_low_minor: 15_000,
  paid_high_minor: 18_050,
  resale_minor: null,
  night_minor: 1_500,
  acquired: 'made',
  status: 'lent',
  kept_at: 'hall chest',
  tags: ['summer'],
  nights: 12,
  provides: { sleep_insulation: 1 },
  needs: { room: 6_000 },
  need: 'undecided',
  keep: false,
}
const known: KnownJobs = new Map([
  ['sleep_insulation', { key: 'sleep_insulation', name: 'sleep insulation', unit: 'count', safety: true }],
  ['room', { key: 'room', name: 'room in the pack', unit: 'ml', safety: false }],
] as never)

/** The row in a table, with the account's units as the table hands them on. */
function row(thing: Gear, change = vi.fn(async () => {}), kits?: string[]) {
  const table = defineComponent({
    setup(_, { attrs }) {
      const units = useUnits()
      return () =>
        h('table', h('tbody', h(GearRow, { thing, chosen: false, kits, known, units, change, ...attrs })))
    },
  })
  const wrapper = mounted(table, {})
  return { wrapper, row: wrapper.findComponent(GearRow), change }
}

describe('a thing in the table', () => {
  it('shows its figures, and in words what else there is to say', () => {
    const cells = row(quilt, undefined, ['Sleep set'])
      .row.findAll('td')
      .map((cell) => textOf(cell))
    expect(cells.slice(1, 9)).toEqual([
      'Quilt',
      '1',
      '510 g',
      'maker’s',
      '150–180.50 €',
      '',
      '15 €',
      'lent; made; in Sleep set; hall chest; #summer; sleep insulation; needs room in the pack 6 l',
    ])
  })

  it('is changed in place: a cleared figure is unknown, a count is a number', async () => {
    const { row: one, change } = row(quilt)
    const type = async (label: string, text: string) => {
      await one.find(`[role=button][aria-label^="${label}"]`).trigger('click')
      await one.find('.editing input').setValue(text)
      await one.find('.editing input').trigger('keydown', { key: 'Enter' })
      await flushPromises()
    }
    await type('Weight of Quilt', ' ')
    await type('Paid for Quilt', '160')
    await type('Count of Quilt', '2')
    expect(change.mock.calls.map((call) => (call as unknown[])[1] as GearChange)).toEqual([
      { weight: null },
      { paid: '160' },
      { count: 2 },
    ])
    await type('Count of Quilt', 'two')
    expect(textOf(one.find('[role=alert]'))).toContain('"two" is not read as a count.')
  })

  it('is chosen and opened from its row', async () => {
    const { row: one } = row(quilt)
    await one.find('input[type=checkbox]').setValue(true)
    await one.find('[aria-label^="About Quilt"]').trigger('click')
    expect(one.emitted('choose')).toEqual([['q', true]])
    expect(one.emitted('open')).toEqual([[quilt]])
  })

  it('goes from one source to the next', async () => {
    const of = (source: 'weighed' | 'maker' | 'estimate' | 'derived') => ({
      ...quilt,
      weight: { ...quilt.weight!, source },
    })
    expect((['weighed', 'maker', 'estimate', 'derived'] as const).map((s) => sourceName(of(s)))).toEqual([
      'weighed',
      'maker’s',
      'estimate',
      'calculated',
    ])
    expect((['weighed', 'maker', 'estimate', 'derived'] as const).map((s) => nextSource(of(s)))).toEqual([
      'maker',
      'estimate',
      'weighed',
      'weighed',
    ])
    const { row: one, change } = row(quilt)
    await one.find('.source button').trigger('click')
    expect(change).toHaveBeenCalledExactlyOnceWith(quilt, { source: 'estimate' })
  })

  it('says nothing where there is nothing to say', () => {
    const plain = {
      ...quilt,
      acquired: 'new',
      status: 'owned',
      kept_at: '',
      tags: [],
      provides: {},
      needs: {},
      need: 'undecided',
      keep: false,
    } as Gear
    expect(about(plain, undefined, known)).toBe('')
    expect(about({ ...plain, provides: { own_job: 2 } }, undefined, known)).toBe('own job × 2')
    expect(Object.keys(ORDERS)).toContain('heavy')
  })
})

describe('several things at once', () => {
  it('are tagged, and what is refused stays with its reason', async () => {
    const change = vi.fn(async () => {})
    const bar = mounted(SeveralBar, { things: [quilt, { ...quilt, id: 'r' }], vocabulary: undefined, change })
    expect(textOf(bar)).toContain('2 chosen')
    const tag = bar.find('input[aria-label="Tag the chosen"]')
    await tag.setValue('  ')
    await bar.find('form').trigger('submit')
    expect(change).not.toHaveBeenCalled()
    await tag.setValue('winter')
    await bar.find('form').trigger('submit')
    await flushPromises()
    expect(change).toHaveBeenCalledExactlyOnceWith(expect.anything(), { remove: false, add_tags: 'winter' })
    expect((tag.element as HTMLInputElement).value).toBe('')

    change.mockRejectedValueOnce(new Error('Quilt has been changed since.'))
    await tag.setValue('hut')
    await bar.find('form').trigger('submit')
    await flushPromises()
    expect(textOf(bar.find('[role=alert]'))).toBe('Quilt has been changed since.')
    expect((tag.element as HTMLInputElement).value).toBe('hut')
  })
})

describe('what was done', () => {
  it('is told by day, newest first', () => {
    const change = (at: string): Change => ({
      id: at,
      at,
      entry: { event: { code: 'sentence', text: at }, turn: 'done' },
      undone_at: null,
    })
    const days = byDay(
      ['2026-09-03T09:00:00', '2026-09-03T00:01:00', '2026-09-02T23:59:00', '2026-08-31T12:00:00'].map(
        change,
      ),
      new Date('2026-09-03T10:00:00'),
    )
    expect(days.map(({ name, changes }) => [name, changes.length])).toEqual([
      ['Today', 2],
      ['Yesterday', 1],
      [longDay(new Date('2026-08-31T12:00:00')), 1],
    ])
    expect(byDay([], new Date())).toEqual([])
  })
})
