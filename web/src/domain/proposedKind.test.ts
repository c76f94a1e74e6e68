import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { api } from '@/api/client'
import { answered, mounted, refused, textOf, used } from '@/tests/mounted'
import { useProposedKind } from './proposedKind'
import TakenAs from './TakenAs.vue'

const quilt = { key: 'quilt', name: 'quilt', said: false, brings: [] }
const post = vi.spyOn(api, 'POST')
const reading = (kind: object | null) => answered({ chips: [], kind, source: null, ready: true }) as never

beforeEach(() => {
  vi.useFakeTimers()
  post.mockReset()
})
afterEach(() => vi.useRealTimers())

/** Until what was typed is read. */
async function settled() {
  await nextTick()
  await vi.advanceTimersByTimeAsync(300)
  await flushPromises()
}

describe('what a name is taken as', () => {
  it('is read once typing rests, as a name alone', async () => {
    post.mockResolvedValue(reading(quilt))
    const name = ref('')
    const { given: proposed } = used(() => useProposedKind(name))
    await settled()
    expect(post).not.toHaveBeenCalled()
    for (const typed of ['q', 'qui', 'quilt "the warm one"']) {
      name.value = typed
      await nextTick()
    }
    await settled()
    expect(post).toHaveBeenCalledExactlyOnceWith('/api/gear/read', {
      body: { line: '"quilt the warm one"', source: 'estimate' },
    })
    expect(proposed.value).toEqual(quilt)
  })

  it('is gone at once when another name is typed, or a kind is chosen', async () => {
    post.mockResolvedValue(reading(quilt))
    const [name, isOpen] = [ref('quilt'), ref(true)]
    const { given: proposed } = used(() => useProposedKind(name, isOpen))
    await settled()
    expect(proposed.value?.key).toBe('quilt')
    name.value = 'heirloom'
    await nextTick()
    expect(proposed.value).toBeNull()
    post.mockResolvedValue(reading(null))
    await settled()
    expect(proposed.value).toBeNull()
    post.mockResolvedValue(reading(quilt))
    name.value = 'quilt'
    isOpen.value = false
    await settled()
    expect(proposed.value, 'what is chosen needs no proposal').toBeNull()
  })

  it('is nothing where the server does not read it', async () => {
    post.mockResolvedValue(refused('A line has at most 400 characters.') as never)
    const { given: proposed } = used(() => useProposedKind(() => 'x'.repeat(500)))
    await settled()
    expect(proposed.value).toBeNull()
  })

  it('stands beside a name that is about to be added', async () => {
    post.mockResolvedValue(reading(quilt))
    const beside = mounted(TakenAs, { name: 'quilt' })
    expect(beside.find('span').exists()).toBe(false)
    await settled()
    expect(textOf(beside)).toBe('taken as quilt')
  })
})
