import { vi } from 'vitest'

/** No unit test asks a server: one that needs an answer stubs `fetch` for itself. */
vi.stubGlobal('fetch', () => Promise.reject(new TypeError('A unit test asked for the server.')))
