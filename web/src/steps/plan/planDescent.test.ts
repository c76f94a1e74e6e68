import { describe, expect, it } from 'vitest'
import type { PlanAnswer } from '@/api/client'
import type { ShownPlan } from '@/domain/question'
import { mounted, textOf } from '@/tests/mounted'
import PlanDescent from './PlanDescent.vue'

const answer = {
  list: { name: 'Week' },
  aim_mg: 6_000_000,
  swaps: [{ name: 'Tarp' }, { name: 'Thin quilt' }],
  frontier: [
    { net_minor: 0, base_mg: 6_000_000, swaps: [] },
    { net_minor: 9_000, base_mg: 5_400_000, swaps: [0] },
    { net_minor: 30_000, base_mg: 5_000_000, swaps: [0, 1] },
  ],
  ranking_alone: { net_minor: 9_000, base_mg: 5_400_000 },
  without_wants: { names: ['Chair'], target_mg: 5_700_000 },
  sure: null,
} as unknown as PlanAnswer
const plan = { hasPlan: true, net_minor: 9_000, base_mg: 5_400_000 } as ShownPlan
const descent = (some: object = {}) =>
  mounted(PlanDescent, {
    answer,
    plan,
    target: 5_500_000,
    left: 20_000,
    isDragged: false,
    sureLevel: 90,
    ...some,
  })
const keys = async (wrapper: ReturnType<typeof descent>, on: string, ...pressed: string[]) => {
  for (const key of pressed) await wrapper.find(on).trigger('keydown', { key })
}

describe('the descent of a plan', () => {
  it('is walked from the plan on, and says what each step takes; Enter puts the target there', async () => {
    const wrapper = descent()
    expect(textOf(wrapper.find('.walked'))).toContain('go down it with the arrow keys')
    await keys(wrapper, '.walk', 'ArrowRight')
    const step = '5.00 kg for 300 €. This step takes off 400 g for 210 €: Thin quilt in.'
    expect(textOf(wrapper.find('.walked'))).toBe(step)
    await keys(wrapper, '.walk', 'Enter', 'ArrowUp', 'Home', 'PageDown')
    expect(wrapper.emitted('drag')).toEqual([[{ target: 5_000_000, left: undefined }]])
    expect(textOf(wrapper.find('.walked')), 'ten further is the end').toBe(step)
    await wrapper.setProps({ target: 5_000_000 })
    await keys(wrapper, '.walk', 'Enter', 'Escape')
    expect([wrapper.emitted('drop')?.length, wrapper.emitted('cancel')?.length]).toEqual([1, 1])
  })

  it('has two lines that keys move, by hundredths of the unit and whole money', async () => {
    const wrapper = descent()
    await keys(wrapper, '.target', 'ArrowDown', 'PageUp', 'q')
    await keys(wrapper, '.budget', 'ArrowRight', 'Home', 'Enter')
    expect(wrapper.emitted('drag')).toEqual([
      [{ target: 5_490_000, left: undefined }],
      [{ target: 5_600_000, left: undefined }],
      [{ target: undefined, left: 20_100 }],
      [{ target: undefined, left: 0 }],
    ])
    expect(wrapper.emitted('drop')).toHaveLength(1)
  })

  it('shows what belongs to the plan as kept only while no line is on its way', async () => {
    const wrapper = descent()
    const kept = ['buying in rank order stops here', 'without Chair: 5.70 kg is enough']
    for (const text of kept) expect(textOf(wrapper)).toContain(text)
    await wrapper.setProps({ isDragged: true })
    for (const text of kept) expect(textOf(wrapper)).not.toContain(text)
    expect(textOf(wrapper)).toContain('Enter keeps a line that was moved with keys')
  })
})
