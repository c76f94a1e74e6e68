import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick, ref, watch, type Ref } from 'vue'
import { withLock, withLocks } from '@/api/lock'
import { used } from '@/tests/mounted'
import { useDraft } from './draft'

interface Mug {
  name: string
  weight: string
  tags: string[]
}
/** The thing as somebody else may change it. */
let there: { version: number; fields: Mug }
const drawer = () => used(() => useDraft<Mug>(() => ({ name: 'mug', ...there }))).given

beforeEach(() => {
  sessionStorage.clear()
  there = { version: 3, fields: { name: 'Mug', weight: '118 g', tags: ['old'] } }
})

describe('what is typed in a drawer', () => {
  it('is there again after closing, going back and loading the page, until it is saved or discarded', () => {
    const first = drawer()
    first.open()
    expect([first.isChanged.value, first.wasKept.value]).toEqual([false, false])
    first.draft.value.weight = '120 g'
    const later = drawer()
    later.open()
    expect([later.draft.value.weight, later.wasKept.value, later.version.value]).toEqual(['120 g', true, 3])
    later.discard()
    const last = drawer()
    last.open()
    expect([last.draft.value.weight, last.wasKept.value]).toEqual(['118 g', false])
  })

  it('is a copy: the thing itself stays as it is', () => {
    const one = drawer()
    one.open()
    one.draft.value.tags.push('new')
    expect(there.fields.tags).toEqual(['old'])
  })

  it('takes what somebody else changed, and keeps what was typed', () => {
    const one = drawer()
    one.open()
    one.draft.value.weight = '120 g'
    there = { version: 4, fields: { name: 'Steel mug', weight: '118 g', tags: ['old'] } }
    one.merge()
    expect(one.draft.value).toEqual({ name: 'Steel mug', weight: '120 g', tags: ['old'] })
    expect([one.version.value, one.clashes.value]).toEqual([4, []])
  })

  it('asks where both changed one field, and sends the version that was shown', () => {
    const one = drawer()
    one.open()
    one.draft.value.weight = '120 g'
    one.draft.value.name = 'Cup'
    there = { version: 4, fields: { name: 'Steel mug', weight: '119 g', tags: ['old'] } }
    // Also when the draft was kept from before.
    const later = drawer()
    later.open()
    expect(later.clashes.value.map(({ key, mine, theirs }) => [key, mine, theirs])).toEqual([
      ['name', 'Cup', 'Steel mug'],
      ['weight', '120 g', '119 g'],
    ])
    later.choose(later.clashes.value[0]!, 'theirs')
    later.choose(later.clashes.value[0]!, 'mine')
    expect(later.draft.value).toMatchObject({ name: 'Steel mug', weight: '120 g' })
    expect([later.clashes.value, later.version.value]).toEqual([[], 4])
  })
})

describe('a drawer that opens on a draft which was kept', () => {
  // As drawers do it: what they show opens them, and a version of it that is another brings it in.
  const opened = (thing: Ref<{ id: string; version: number; fields: Mug } | null>) =>
    used(() => {
      const one = useDraft<Mug>(() => thing.value && { ...thing.value, name: thing.value.id })
      watch(
        () => thing.value?.id,
        () => one.open(),
        { immediate: true },
      )
      watch(
        () => thing.value?.version,
        () => (one.isChanged.value ? one.merge() : one.open()),
      )
      return one
    }).given

  it('asks where both changed one field, and goes on asking until that is chosen', async () => {
    const thing = ref<{ id: string; version: number; fields: Mug } | null>(null)
    const one = opened(thing)
    thing.value = { id: 'mug', ...there }
    await nextTick()
    one.draft.value.name = 'Cup'
    thing.value = null
    await nextTick()
    const theirs = (version: number, name: string) => ({
      id: 'mug',
      version,
      fields: { ...there.fields, name },
    })
    thing.value = theirs(4, 'Steel mug')
    await nextTick()
    expect(one.clashes.value).toEqual([{ key: 'name', mine: 'Cup', theirs: 'Steel mug' }])
    // Changed once more by the other before it is chosen.
    thing.value = theirs(5, 'Titanium mug')
    await nextTick()
    expect(one.clashes.value).toEqual([{ key: 'name', mine: 'Cup', theirs: 'Titanium mug' }])
    expect(one.draft.value.name).toBe('Cup')
    one.choose(one.clashes.value[0]!, 'theirs')
    expect([one.draft.value.name, one.clashes.value, one.version.value]).toEqual(['Titanium mug', [], 5])
  })
})

describe('work on one thing', () => {
  it('waits for the work before it, however that ends', async () => {
    const order: string[] = []
    const work = (name: string, ms: number, fails = false) =>
      withLock('mug', async () => {
        await new Promise((resolve) => setTimeout(resolve, ms))
        order.push(name)
        if (fails) throw new Error(name)
      })
    const first = work('first', 20, true).catch((error: Error) => order.push(`caught ${error.message}`))
    const other = withLock('pot', () => Promise.resolve(order.push('pot')))
    await Promise.all([first, other, work('second', 1)])
    expect(order.filter((name) => name !== 'caught first')).toEqual(['pot', 'first', 'second'])
  })

  it('on several at once waits for the work on each, and is waited for', async () => {
    const order: string[] = []
    const work = (name: string, ms: number) => async () => {
      await new Promise((resolve) => setTimeout(resolve, ms))
      order.push(name)
    }
    const all = [
      withLock('mug', work('mug', 20)),
      withLocks(['mug', 'pot'], work('both', 5)),
      withLock('pot', work('pot', 1)),
      withLocks(['pot', 'pan'], work('others', 1)),
    ]
    await Promise.all(all)
    expect(order).toEqual(['mug', 'both', 'pot', 'others'])
    await expect(withLocks(['mug'], () => Promise.reject(new Error('refused')))).rejects.toThrow('refused')
    expect(await withLock('mug', () => Promise.resolve('after'))).toBe('after')
  })
})
