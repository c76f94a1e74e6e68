import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterAll, afterEach, vi } from 'vitest'

/** No unit test asks a server: an answer is on its way for ever, unless the test stubs it, and nothing is tried again in the middle of another test. */
globalThis.fetch = () => new Promise(() => {})

/**
 * An element as text is its class, as in browsers. happy-dom writes all the HTML below it, and what places pop-ups asks each of its elements for
 * its text on every move: most of the time of the tests that open one.
 */
Element.prototype.toString = function () {
  return `[object ${this.constructor.name}]`
}

// Test files share a page and what is loaded: each leaves them as it found them.
disableAutoUnmount()
enableAutoUnmount(afterEach)
afterAll(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
  document.body.replaceChildren()
  localStorage.clear()
  sessionStorage.clear()
})
