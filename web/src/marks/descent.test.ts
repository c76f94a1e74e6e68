import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Descent from './Descent.vue'

const points = [
  { net: 0, base: 10_000_000 },
  { net: 10_000, base: 9_204_000 },
  { net: 30_000, base: 8_000_000 },
]
const descent = (some: object = {}) =>
  mount(Descent, {
    props: {
      points,
      now: 10_500_000,
      plan: points[1]!,
      alone: null,
      band: [],
      without: null,
      sure: null,
      target: 9_500_000,
      budget: 20_000,
      unitMg: 1_000_000,
      unitName: 'kg',
      minorPerMajor: 100,
      money: (figure: string) => `€${figure}`,
      targetText: '9.50 kg',
      budgetText: '€200',
      walkedText: '',
      walked: null,
      ...some,
    },
  })

describe('walking down', () => {
  it('starts at the plan and stays between the ends', async () => {
    const chart = descent()
    const walk = chart.get('[aria-label="Down the path"]')
    for (const key of ['ArrowRight', 'Home', 'End', 'PageDown', 'PageUp'])
      await walk.trigger('keydown', { key })
    expect(chart.emitted('update:walked')).toEqual([[2], [0], [2], [0]])
    await chart.setProps({ walked: 2 })
    await walk.trigger('keydown', { key: 'ArrowLeft' })
    expect(chart.emitted('update:walked')!.at(-1)).toEqual([1])
    await walk.trigger('keydown', { key: 'x' })
    expect(chart.emitted('update:walked')).toHaveLength(5)
  })

  it('puts the target at the point, in hundredths and no lighter; again keeps it, Esc puts it back', async () => {
    const chart = descent({ walked: 1 })
    const walk = chart.get('[aria-label="Down the path"]')
    await walk.trigger('keydown', { key: 'Enter' })
    expect(chart.emitted('drag')).toEqual([[{ target: 9_210_000 }]])
    await chart.setProps({ target: 9_210_000 })
    await walk.trigger('keydown', { key: 'Enter' })
    expect(chart.emitted('drop')).toHaveLength(1)
    await walk.trigger('keydown', { key: 'Escape' })
    expect([chart.emitted('cancel'), chart.emitted('update:walked')]).toEqual([[[]], [[null]]])
  })
})

describe('how sure the points are', () => {
  const sure = { net: 30_000, base: 8_000_000, name: '9 in 10' }
  const band = points.map(({ base }) => ({ low: base - 200_000, high: base + 300_000 }))

  it('is a band around the path, and a second flag', () => {
    const plain = descent()
    const drawn = descent({ band, sure })
    expect(drawn.findAll('path').length - plain.findAll('path').length).toBe(2)
    expect(drawn.text()).toContain('9 in 10')
    const [d] = drawn.findAll('path[opacity="0.18"]').map((path) => path.attributes('d')!)
    // Up over the heavy ends, and back along the light ones.
    expect(d!.match(/L/g)!.length).toBeGreaterThan(points.length * 2)
  })

  it('has no flag of its own where the plan is that sure, and no band that is not of these points', () => {
    const drawn = descent({ band: band.slice(1), sure: { ...points[1]!, name: '9 in 10' } })
    expect(drawn.text()).not.toContain('9 in 10')
    expect(drawn.find('path[opacity="0.18"]').exists()).toBe(false)
  })
})
