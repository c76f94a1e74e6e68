import type { QueryClient } from '@tanstack/vue-query'
import {
  persistQueryClientRestore,
  persistQueryClientSave,
  type PersistedClient,
} from '@tanstack/query-persist-client-core'
import { clear, createStore, get, set, type UseStore } from 'idb-keyval'

/**
 * What was read, kept on this device for when there is no network. It is of one account and is not encrypted: it goes when that signs out,
 * when its session has ended, and before another's comes.
 */
let opened: UseStore | undefined
const store = () => (opened ??= createStore('kevyt', 'kept'))
const read = async <T>(key: string) => get<T>(key, store())
const write = async (key: string, value: unknown) => set(key, value, store())
const empty = async () => clear(store())
const WHOSE = 'account'
const WHAT = 'queries'
/** Raised when what is kept could not be shown any more by a newer version. */
const FORM = '2'
const LONGEST_MS = 60 * 24 * 3_600_000
/** What changes is written after this long, all of it at once. */
const WRITTEN_MS = 2_000

/** Device storage may be forbidden or full: then nothing is kept, and all else goes on. */
const unless = <T>(work: Promise<T>) => work.catch(() => undefined)

/** What was shown stands, whatever came of asking for it once more. */
const asShown = (client: PersistedClient): PersistedClient => {
  const { queries } = client.clientState
  const shown = queries.map((query) => ({
    ...query,
    state: { ...query.state, status: 'success' as const, error: null, fetchFailureReason: null },
  }))
  return { ...client, clientState: { ...client.clientState, queries: shown } }
}

const options = (queryClient: QueryClient) => ({
  // Vue's client is one of these, though its types can't say so.
  queryClient: queryClient as unknown as Parameters<typeof persistQueryClientSave>[0]['queryClient'],
  buster: FORM,
  maxAge: LONGEST_MS,
  persister: {
    persistClient: (client: PersistedClient) => write(WHAT, asShown(client)),
    restoreClient: () => read<PersistedClient>(WHAT),
    removeClient: () => write(WHAT, undefined),
  },
  dehydrateOptions: {
    shouldDehydrateQuery: ({
      queryKey: [first],
      state,
    }: {
      queryKey: readonly unknown[]
      state: { data: unknown }
    }) => state.data !== undefined && ['account', 'vocabulary', 'mine'].includes(String(first)),
    shouldDehydrateMutation: () => false,
  },
})

/** Whose data are being kept, and how that ends. */
let keeping = ''
let stop = () => {}

/** Whose data are kept on this device, if anybody's. */
export const whoseIsKept = () => unless(read<string>(WHOSE))

/** Keeps what is read of an account from now on, and brings back what was kept of it; newer answers stay. Another's goes. */
export async function keepFor(queries: QueryClient, account: string) {
  if (keeping === account) return
  stop()
  keeping = account
  if ((await whoseIsKept()) === account) {
    await unless(persistQueryClientRestore(options(queries)))
    // However new it is, there may be something newer: it is asked for again as soon as it is shown.
    await queries.invalidateQueries({
      predicate: ({ queryKey: [first] }) => first === 'mine',
      refetchType: 'none',
    })
  } else await unless(empty().then(() => write(WHOSE, account)))
  if (keeping !== account) return
  let due: ReturnType<typeof setTimeout> | undefined
  let wait = WRITTEN_MS
  const save = () => {
    clearTimeout(due)
    due = undefined
    const began = performance.now()
    void unless(persistQueryClientSave(options(queries)))
    // Thousands of things take a moment to write: they are written the less often.
    wait = Math.max(WRITTEN_MS, (performance.now() - began) * 40)
  }
  const unsubscribe = queries.getQueryCache().subscribe(({ type }) => {
    if (type === 'updated' || type === 'removed') due ??= setTimeout(save, wait)
  })
  const hidden = () => due !== undefined && document.visibilityState === 'hidden' && save()
  document.addEventListener('visibilitychange', hidden)
  stop = () => {
    clearTimeout(due)
    unsubscribe()
    document.removeEventListener('visibilitychange', hidden)
    stop = () => {}
  }
}

/** Keeps nothing any more, and forgets what is kept. */
export async function keepNothing() {
  stop()
  keeping = ''
  await unless(empty())
}
