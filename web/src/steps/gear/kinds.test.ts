import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import type { Gear } from '@/api/client'
import { mounted, textOf } from '@/tests/mounted'
import KindsCard from './KindsCard.vue'

const thing = (id: string, name: string, proposed_kind?: string) =>
  ({ id, name, version: 1, kind: null, proposed_kind }) as Gear

describe('what things are', () => {
  it('is asked of those that nobody has said it of, named ones first, one by one or all at once', async () => {
    const change = vi.fn().mockResolvedValue(undefined)
    const changeSeveral = vi.fn().mockResolvedValue(undefined)
    const things = [thing('a', 'heirloom'), thing('b', 'quilt', 'quilt'), thing('c', 'mug', 'mug')]
    const card = mounted(KindsCard, { things, change, changeSeveral })
    expect(textOf(card.find('section'))).toContain('Of 3 things nobody has said what they are.')
    await card.find('button').trigger('click')
    expect(card.findAll('li b').map((name) => name.text())).toEqual(['quilt', 'mug', 'heirloom'])
    const answers = () => card.findAll('[data-yes]')
    expect(answers().map((button) => button.text())).toEqual(['Yes', 'Yes', 'None of these'])
    await answers()[1]!.trigger('click')
    await answers()[2]!.trigger('click')
    await flushPromises()
    expect(change.mock.calls.map(([one, said]) => [one.id, said])).toEqual([
      ['c', { kind: 'mug' }],
      ['a', { kind: 'none' }],
    ])
    await card
      .findAll('button')
      .find((button) => button.text().startsWith('Yes to all 2'))!
      .trigger('click')
    expect(changeSeveral).toHaveBeenCalledExactlyOnceWith([things[1], things[2]], {
      remove: false,
      take_kinds: true,
    })
  })
})
