import { describe, expect, it } from 'vitest'
import type { Gear } from '@/api/client'
import { mounted, textOf } from '@/tests/mounted'
import { sheetLine, sheetOf } from '@/tests/sheet'
import AddGear from './AddGear.vue'
import { alongWords } from './along'
import ComparedRuler from './ComparedRuler.vue'

const maker = { unit_mg: 600_000, typed: '600 g', source: 'maker' } as const
const words = (lines: ReturnType<typeof sheetLine>[], unknown = 0, likely = 0) => {
  const sheet = sheetOf(lines)
  const totals = { ...sheet.totals, unknown }
  const doubt = { ...sheet.doubt, likely_below_mg: likely, likely_above_mg: 0 }
  return alongWords({ ...sheet, totals, doubt }, (mg) => `${mg / 1_000} g`)
}

describe('how much comes along', () => {
  it('is nothing to say of an empty list', () => expect(words([])).toBe(''))

  it('counts things, what stays home, and weights that nobody weighed; not what another carries', () => {
    const tent = sheetLine('tent', 1_200, { carried: 1 })
    const hers = sheetLine('hers', 900, { carried: 1, walker: 1, weight: maker })
    expect(words([tent, hers])).toBe('1 thing comes along.')
    const home = sheetLine('chair', 500, { left: 1 })
    const quilt = sheetLine('quilt', 600, { carried: 1, weight: maker })
    expect(words([tent, home, quilt], 1)).toBe(
      '2 things come along, 1 stays home. 1 weight is the maker’s figure, one is unknown.',
    )
    const liner = sheetLine('liner', 90, { worn: 1, weight: maker })
    const two = [home, sheetLine('pillow', 60, { left: 1 })]
    expect(words([quilt, liner, ...two], 2)).toBe(
      '2 things come along, 2 stay home. 2 weights are makers’ figures, 2 are unknown.',
    )
  })

  it('says by how much the base weight is likely off, above half a gram', () => {
    const tent = sheetLine('tent', 1_200, { carried: 1 })
    expect(words([tent], 0, 500)).toBe('1 thing comes along.')
    expect(words([tent], 0, 12_000)).toBe('1 thing comes along. Base ±12 g or so.')
  })
})

describe('gear that is added by its name', () => {
  const thing = (name: string, grams?: number) =>
    ({ id: name, name, weight: grams ? { unit_mg: grams * 1_000 } : null }) as Gear
  const shelf = [thing('blue mug', 90), thing('steel mug'), thing('tent', 1_200)]

  it('is found by all its words, and Enter adds the first', async () => {
    const wrapper = mounted(AddGear, { shelf })
    const field = wrapper.find('input')
    await field.setValue('MUG')
    expect(wrapper.findAll('button').map(textOf)).toEqual(['blue mug 90 g', 'steel mug ?'])
    await field.setValue('mug steel')
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('add')).toEqual([[shelf[1]]])
    expect(field.element.value).toBe('')
    await wrapper.find('form').trigger('submit')
    expect(wrapper.emitted('add'), 'nothing is typed').toHaveLength(1)
  })

  it('is said to be none of what is there', async () => {
    const wrapper = mounted(AddGear, { shelf })
    await wrapper.find('input').setValue('quilt')
    expect(textOf(wrapper)).toContain('No gear matches “quilt”.')
  })
})

describe('the ruler of a list', () => {
  it('is held against the list before its last change, with what is another there', async () => {
    const before = [
      { key: 'tent', name: 'tent', system: 'shelter', mg: 1_200_000 },
      { key: 'mug', name: 'mug', system: 'kitchen', mg: 90_000 },
    ]
    const sheet = sheetOf([sheetLine('tent', 1_000, { carried: 1 })], { role: 'partner' })
    const wrapper = mounted(ComparedRuler, { sheet, before, chosen: null })
    await wrapper.vm.$nextTick()
    expect(textOf(wrapper.find('.compare'))).toContain('290 g heavier: tent +200 g, + mug 90 g')
    expect(textOf(wrapper.find('.compare'))).toContain('All differences (2)')
    await wrapper.setProps({ before: [{ ...before[0]!, mg: 1_000_000 }] })
    expect(textOf(wrapper.find('.compare'))).toContain('The same things.')
  })
})
