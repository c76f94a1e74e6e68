import { vi } from 'vitest'

/** No unit test asks a server: one that needs an answer stubs `fetch` for itself. */
vi.stubGlobal('fetch', () => Promise.reject(new TypeError('A unit test asked for the server.')))

/**
 * An element as text is its class, as in browsers. happy-dom writes all the HTML below it, and what places pop-ups asks each of its elements for
 * its text on every move: most of the time of the tests that open one.
 */
if (typeof Element !== 'undefined')
  Element.prototype.toString = function () {
    return `[object ${this.constructor.name}]`
  }
