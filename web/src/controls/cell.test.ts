import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { mounted, textOf } from '@/tests/mounted'
import EditableCell from '@/controls/EditableCell.vue'
import EditableFigure from '@/controls/EditableFigure.vue'
import { useMessages } from '@/controls/messages'

function cell(save = vi.fn<(typed: string) => Promise<void>>(async () => {}), numeric = true) {
  const wrapper = mounted(EditableCell, { label: 'Weight of mug', typed: '118 g', save, numeric })
  return { wrapper, save, field: () => wrapper.find('input'), shown: () => wrapper.find('[role=button]') }
}

describe('a cell that is changed in place', () => {
  it('says what it is of, opens with what was typed, and saves on Enter', async () => {
    const { wrapper, save, field, shown } = cell()
    expect(shown().attributes('aria-label')).toBe('Weight of mug: 118 g')
    await shown().trigger('click')
    expect(field().element.value).toBe('118 g')
    await field().setValue('4.2 oz')
    await field().trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(save).toHaveBeenCalledExactlyOnceWith('4.2 oz')
    expect(wrapper.find('input').exists()).toBe(false)
  })

  it('keeps what was refused, with the reason, and lets it go on Esc', async () => {
    const refused = vi.fn(async () => {
      throw new Error('"1,180 g" can be 1180 g or 1.18 g. Type 1180 or 1.18.')
    })
    const { wrapper, field, shown } = cell(refused)
    await shown().trigger('keydown', { key: 'Enter' })
    await field().setValue('1,180 g')
    await field().trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(field().element.value).toBe('1,180 g')
    expect(field().attributes('aria-invalid')).toBe('true')
    expect(textOf(wrapper.find('[role=alert]'))).toContain('can be 1180 g or 1.18 g')
    await field().trigger('keydown', { key: 'Escape' })
    expect(textOf(shown())).toBe('118 g')
  })

  it('says what was refused where its row is gone, or another thing’s, by then', async () => {
    const { messages } = useMessages()
    for (const leave of [
      async (wrapper: VueWrapper) => wrapper.unmount(),
      (wrapper: VueWrapper) => wrapper.setProps({ label: 'Weight of tent', typed: '1910 g' }),
    ]) {
      let refuse: (error: Error) => void = () => {}
      const late = vi.fn(() => new Promise<void>((_, reject) => (refuse = reject)))
      const { wrapper, field, shown } = cell(late)
      await shown().trigger('click')
      await field().setValue('1,180 g')
      await field().trigger('keydown', { key: 'Enter' })
      await leave(wrapper)
      refuse(new Error('It can be read two ways.'))
      await flushPromises()
      expect(messages.value.at(-1)?.text).toBe(
        'Weight of mug: “1,180 g” was not kept. It can be read two ways.',
      )
    }
  })

  it('saves nothing that was not changed', async () => {
    const { save, field, shown } = cell()
    await shown().trigger('click')
    await field().trigger('blur')
    await flushPromises()
    expect(save).not.toHaveBeenCalled()
    expect(shown().exists()).toBe(true)
  })

  it('takes a digit as the beginning of a figure, and no letter or shortcut', async () => {
    const { field, shown } = cell()
    await shown().trigger('keydown', { key: 'e' })
    await shown().trigger('keydown', { key: '1', ctrlKey: true })
    expect(field().exists()).toBe(false)
    await shown().trigger('keydown', { key: '7' })
    expect(field().element.value).toBe('7')
    const name = cell(undefined, false)
    await name.shown().trigger('keydown', { key: '7' })
    expect(name.field().exists()).toBe(false)
  })
})

describe('a figure that is changed by clicking it', () => {
  function figure(save = vi.fn<(typed: string) => Promise<void>>(async () => {})) {
    const props = { figure: '7.30', unit: 'kg', label: 'target', tone: 'chosen', typed: '7.3 kg', save }
    const wrapper = mounted(EditableFigure, props)
    return { wrapper, save, field: () => wrapper.find('input') }
  }

  it('opens with what was typed and saves what is typed over it', async () => {
    const { wrapper, save, field } = figure()
    await wrapper.find('button').trigger('click')
    expect(field().element.value).toBe('7.3 kg')
    await field().setValue('16 lb')
    await field().trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(save).toHaveBeenCalledExactlyOnceWith('16 lb')
    expect(textOf(wrapper)).toBe('target7.30kg target')
  })

  it('keeps what was refused, and lets it go on Esc', async () => {
    const refused = vi.fn(async () => {
      throw new Error('"7,300" can be 7300 or 7.3.')
    })
    const { wrapper, field } = figure(refused)
    await wrapper.find('button').trigger('click')
    await field().setValue('7,300')
    await field().trigger('blur')
    await flushPromises()
    expect([field().element.value, textOf(wrapper.find('[role=alert]'))]).toEqual([
      '7,300',
      '"7,300" can be 7300 or 7.3.',
    ])
    await field().trigger('keydown', { key: 'Escape' })
    expect(field().exists()).toBe(false)
  })

  it('never writes over what is typed by the time that the one before is refused', async () => {
    let refuse: (why: Error) => void = () => {}
    const { wrapper, field } = figure(vi.fn(() => new Promise<void>((_, reject) => (refuse = reject))))
    await wrapper.find('button').trigger('click')
    await field().setValue('7,300')
    await field().trigger('keydown', { key: 'Enter' })
    await flushPromises()
    await wrapper.find('button').trigger('click')
    await field().setValue('7.')
    refuse(new Error('"7,300" can be 7300 or 7.3.'))
    await flushPromises()
    expect([field().element.value, textOf(wrapper.find('[role=alert]'))]).toEqual([
      '7.',
      '“7,300” was not kept. "7,300" can be 7300 or 7.3.',
    ])
  })

  it('saves nothing that was not changed', async () => {
    const { wrapper, save, field } = figure()
    await wrapper.find('button').trigger('click')
    await field().setValue(' 7.3 kg ')
    await field().trigger('blur')
    await flushPromises()
    expect([save.mock.calls.length, field().exists()]).toEqual([0, false])
  })
})
