import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { mounted, textOf } from '@/tests/mounted'
import DayLine from './DayLine.vue'
import Descent from './Descent.vue'
import Fan from './Fan.vue'
import GramRuler from './GramRuler.vue'

// Nothing has a size without a browser that lays out.
vi.mock('@vueuse/core', async (original) => ({
  ...(await original<object>()),
  useElementSize: () => ({ width: ref(1_008), height: ref(100) }),
}))

const kilograms = { unitMg: 1_000_000, unitName: 'kg', text: (mg: number) => `${mg / 1_000} g` }
const span = (name: string, system: string, mg: number) => ({ key: name, name, system, mg })

describe('the gram ruler', () => {
  const tent = span('tent', 'shelter', 5_000_000)
  const stakes = span('stakes', 'shelter', 1_000_000)
  const pot = span('pot', 'kitchen', 4_000_000)
  const systems = new Map([
    ['shelter', 'Shelter'],
    ['kitchen', 'Kitchen'],
  ])
  const ruler = (some = {}) =>
    mounted(GramRuler, { spans: [tent, stakes, pot], systems, ...kilograms, ...some })
  const places = (wrapper: ReturnType<typeof ruler>, y: string) =>
    wrapper
      .findAll('rect')
      .filter((rect) => rect.attributes('y') === y)
      .map((rect) => [Number(rect.attributes('x')), Number(rect.attributes('width'))])

  it('lays things end to end, each as long as it is heavy, a shade a system', () => {
    const wrapper = ruler()
    expect(places(wrapper, '16')).toEqual([
      [0, 499],
      [500, 99],
      [600, 399],
    ])
    expect(wrapper.findAll('.span rect').map((rect) => rect.classes()[0])).toEqual([
      'shade-0',
      'shade-0',
      'shade-1',
    ])
    expect(wrapper.findAll('.system').map(textOf)).toEqual(['Shelter', 'Kitchen'])
    expect(textOf(wrapper.find('table'))).toContain('tent5000 g')
  })

  it('holds another list against it on the same scale, and names it where there is room', () => {
    const other = { spans: [span('tarp', 'shelter', 2_000_000)], name: 'as planned, 8 kg shorter' }
    const wrapper = ruler({ other, target: 2_500_000 })
    expect(places(wrapper, '55')).toEqual([[0, 199]])
    expect(wrapper.find('.other').attributes('x')).toBe('208')
    expect(wrapper.find('line[stroke-dasharray]').attributes('x1')).toBe('250')
    expect(
      ruler({ other: { ...other, spans: [tent, stakes, pot] } })
        .find('.other')
        .exists(),
    ).toBe(false)
    expect(places(ruler({ other: { ...other, spans: [{ ...tent, mg: 20_000_000 }] } }), '16')[0]).toEqual([
      0, 249,
    ])
  })

  it('gives the thing that is pointed at', async () => {
    const wrapper = ruler({ chosen: 'pot' })
    await flushPromises()
    await wrapper.find('[data-span="stakes"] rect').trigger('click')
    await wrapper.find('svg').trigger('click')
    expect(wrapper.emitted('choose')).toEqual([['stakes']])
    expect(wrapper.find('.chosen').attributes('data-span')).toBe('pot')
  })
})

describe('the pack day by day', () => {
  const days = [9_000_000, 8_000_000, 10_000_000, 7_000_000]
  const limits = [{ name: 'a fifth of body weight', mg: 12_000_000 }]
  const drawn = (some = {}) => mounted(DayLine, { days, resupply: [3], limits, ...kilograms, ...some })

  it('is a step a day, higher the heavier, under its limits', () => {
    const wrapper = drawn()
    const path = wrapper.find('path').attributes('d')!
    const heights = [...path.matchAll(/[ML][\d.]+ ([\d.]+)H/g)].map((step) => Number(step[1]))
    expect(heights).toHaveLength(4)
    expect([...heights].sort((a, b) => b - a)).toEqual([heights[3], heights[1], heights[0], heights[2]])
    const limit = Number(wrapper.find('line[stroke="var(--lingonberry)"]').attributes('y1'))
    expect(limit).toBeLessThan(heights[2]!)
    expect(textOf(wrapper)).toContain('a fifth of body weight')
    expect(textOf(wrapper)).toContain('10000 g')
  })

  it('is one day, or many, without a figure that is none', () => {
    for (const many of [[9_000_000], Array.from({ length: 90 }, (_, at) => 9_000_000 - at * 10_000)]) {
      expect(drawn({ days: many, resupply: [], limits: [] }).html()).not.toMatch(/NaN|Infinity|undefined/)
    }
  })
})

describe('the fan', () => {
  const slope = (name: string, saving: number, net: number) => ({
    key: name,
    name,
    saving,
    net,
    inPlan: true,
  })
  const labels = (...swaps: ReturnType<typeof slope>[]) =>
    mounted(Fan, {
      swaps,
      unitMg: 1_000,
      minorPerMajor: 100,
      money: (figure: string) => `${figure} €`,
      reach: null,
      budget: null,
      selected: null,
    })
      .findAll('.label')
      .map(textOf)

  it('names a slope by what stands before the comma, and in full where two begin alike', () => {
    const [quilt, small, large] = [
      slope('Quilt, −2 °C', 500_000, 9_000),
      slope('Pack, 38 l', 1_200_000, 30_000),
      slope('Pack, 45 l', 900_000, 12_000),
    ]
    expect(labels(quilt, small)).toEqual(['Pack', 'Quilt'])
    expect(labels(quilt, small, large)).toEqual(['Pack, 38 l', 'Pack, 45 l', 'Quilt'])
  })
})

describe('the descent of a year', () => {
  it('is marked in whole units, whose longer name is not cut', () => {
    const descent = mounted(Descent, {
      points: [
        { net: 0, base: 260_000_000 },
        { net: 90_000, base: 160_000_000 },
      ],
      now: 268_000_000,
      plan: null,
      alone: null,
      band: [],
      sure: null,
      target: null,
      without: null,
      budget: null,
      unitMg: 1_000_000,
      unitName: 'kg nights',
      unitDecimals: 0,
      minorPerMajor: 100,
      money: (figure: string) => `${figure} €`,
      targetText: '',
      budgetText: '',
      walkedText: '',
      walked: null,
    })
    const texts = descent.findAll('text')
    const unit = texts.find((text) => textOf(text) === 'kg nights')!
    expect([unit.attributes('x'), unit.attributes('text-anchor')]).toEqual(['4', undefined])
    const marks = texts.filter((text) => text.attributes('text-anchor') === 'end').map(textOf)
    expect(marks).toContain('200')
    expect(marks.every((mark) => !mark.includes('.'))).toBe(true)
  })
})
