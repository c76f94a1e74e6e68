import { afterEach, describe, expect, it, vi } from 'vitest'
import { takesNewVersion } from './newVersion'

const reload = vi.fn()

/** A browser with so many pages of Kevyt open, and a version that waits or does not. */
function browser({ pages = 1, waits = true, takesOver = true } = {}) {
  const container = new EventTarget()
  const waiting = {
    postMessage: vi.fn(() => takesOver && container.dispatchEvent(new Event('controllerchange'))),
  }
  Object.assign(container, { getRegistration: async () => ({ waiting: waits ? waiting : null }) })
  const held = Array.from({ length: pages }, (_, at) => ({ name: 'kevyt-page', clientId: `page ${at}` }))
  vi.stubGlobal('navigator', {
    serviceWorker: container,
    locks: {
      request: (...[, , hold]: [string, object, () => unknown]) => Promise.resolve(hold()),
      query: async () => ({ held }),
    },
  })
  vi.stubGlobal('location', { reload })
  return waiting
}

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
  reload.mockClear()
})

describe('a newer version', () => {
  it('takes over as the page is opened', async () => {
    const waiting = browser()
    expect(await takesNewVersion()).toBe(true)
    expect(waiting.postMessage).toHaveBeenCalledWith({ type: 'SKIP_WAITING' })
    expect(reload).toHaveBeenCalledOnce()
  })

  it('leaves another open page what it has, where something may be half typed', async () => {
    const waiting = browser({ pages: 2 })
    expect(await takesNewVersion()).toBe(false)
    expect(waiting.postMessage).not.toHaveBeenCalled()
  })

  it('is none where the browser refuses to keep anything', async () => {
    browser()
    vi.stubGlobal('navigator', {
      ...navigator,
      locks: { request: () => Promise.reject(new Error('refused')) },
    })
    expect(await takesNewVersion()).toBe(false)
  })

  it('is not waited for where there is none, nor for long', async () => {
    browser({ waits: false })
    expect(await takesNewVersion()).toBe(false)
    vi.useFakeTimers()
    browser({ takesOver: false })
    const taken = takesNewVersion()
    await vi.advanceTimersByTimeAsync(3_000)
    expect(await taken).toBe(false)
    expect(reload).not.toHaveBeenCalled()
  })
})
