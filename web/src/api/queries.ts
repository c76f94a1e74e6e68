import { keepPreviousData, queryOptions, type QueryClient, type QueryKey } from '@tanstack/vue-query'
import {
  api,
  Problem,
  unwrap,
  type About,
  type Account,
  type Gear,
  type Lessons,
  type Outfits,
  type PlanAnswer,
} from './client'
import { keepFor, keepNothing, whoseIsKept } from './kept'
import { offlineSince } from './network'
import { openOutbox } from './outbox'

/** Keys: everything of an account's stands under `mine`, so that one change refreshes all that it may touch. */
export const keys = {
  account: ['account'] as const,
  vocabulary: ['vocabulary'] as const,
  mine: ['mine'] as const,
  gear: ['mine', 'gear'] as const,
  weigh: (list: string) => ['mine', 'weigh', list] as const,
  kits: ['mine', 'kits'] as const,
  changes: (gear: string) => ['mine', 'changes', gear] as const,
  weighings: (gear: string) => ['mine', 'weighings', gear] as const,
  lists: ['mine', 'lists'] as const,
  list: (id: string) => ['mine', 'list', id] as const,
  sheet: (id: string) => ['mine', 'sheet', id] as const,
  plan: (id: string) => ['mine', 'plan', id] as const,
  after: (id: string, swaps: string[]) => ['mine', 'after', id, ...swaps] as const,
  proposals: (id: string) => ['mine', 'proposals', id] as const,
  lighter: (id: string) => ['mine', 'lighter', id] as const,
  offers: (id: string) => ['mine', 'offers', id] as const,
  packing: (id: string) => ['mine', 'packing', id] as const,
  lessons: ['mine', 'lessons'] as const,
  trip: (id: string) => ['mine', 'trip', id] as const,
  history: (id: string) => ['mine', 'history', id] as const,
  year: ['mine', 'year'] as const,
  outfits: (ids: string[]) => ['mine', 'outfits', ...ids] as const,
  keptPlans: (id: string) => ['mine', 'kept plans', id] as const,
}

/** How long the server has to say who is signed in, before what is kept on the device is shown. */
const TIMEOUT_MS = 4_000

/** Who is signed in; null if nobody is. Without network it is the one who was when the server answered last on this device. */
export const accountQuery = queryOptions({
  queryKey: keys.account,
  queryFn: async ({ client }): Promise<Account | null> => {
    const kept = await whoseIsKept()
    try {
      // With something to show, nobody waits for a network that is hardly there.
      const signal = kept ? AbortSignal.timeout(TIMEOUT_MS) : undefined
      const account = await unwrap(api.GET('/api/account', { signal }))
      const before = client.getQueryData<Account | null>(keys.account)
      if (before && before.name !== account.name) client.removeQueries({ queryKey: keys.mine })
      await keepFor(client, account.name)
      openOutbox(account.name)
      return account
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      if (error.status === 401) {
        await keepNothing()
        client.removeQueries({ queryKey: keys.mine })
        return null
      }
      if (error.status === 0 && kept) {
        await keepFor(client, kept)
        const account = client.getQueryData<Account>(keys.account)
        if (account) {
          openOutbox(account.name)
          return account
        }
      }
      throw error
    }
  },
  staleTime: Infinity,
})

export const vocabularyQuery = queryOptions({
  queryKey: keys.vocabulary,
  queryFn: () => unwrap(api.GET('/api/vocabulary')),
  staleTime: Infinity,
})

const PAGE = 5000
/** What was read this long ago need not be read again to be kept. */
const AHEAD_MS = 600_000
/** What there are many of is forgotten after this long without being looked at. */
const PASSING_MS = 300_000

/** The beginning of today on the walker's clock. */
const startOfDay = () => new Date(new Date().setHours(0, 0, 0, 0)).toISOString()

/** What the Weigh step shows for a list; for all gear at hand if none is named. */
export const weighQuery = (list: string) =>
  queryOptions({
    queryKey: keys.weigh(list),
    queryFn: () =>
      unwrap(api.GET('/api/weigh', { params: { query: { list: list || undefined, since: startOfDay() } } })),
  })

export const kitsQuery = queryOptions({ queryKey: keys.kits, queryFn: () => unwrap(api.GET('/api/kits')) })

/** What was done to a thing, newest first. */
export const changesQuery = (gear: string) =>
  queryOptions({
    queryKey: keys.changes(gear),
    queryFn: () => unwrap(api.GET('/api/gear/{id}/changes', { params: { path: { id: gear } } })),
  })

/** Which changes of the history: of a list, about something, older than one; empty for all. */
export interface Which {
  list: string
  about: string
  before: string
}
/** Changes on a page of the history. */
export const CHANGES_A_PAGE = 100

/** What was done, newest first, a page of it. */
export const changesPageQuery = ({ list, about, before }: Which) =>
  queryOptions({
    queryKey: [...keys.changes(''), list, about, before] as const,
    queryFn: () =>
      unwrap(
        api.GET('/api/changes', {
          params: {
            query: {
              limit: CHANGES_A_PAGE,
              list: list || undefined,
              about: (about || undefined) as About | undefined,
              before: before || undefined,
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  })

export const weighingsQuery = (gear: string) =>
  queryOptions({
    queryKey: keys.weighings(gear),
    queryFn: () => unwrap(api.GET('/api/gear/{id}/weighings', { params: { path: { id: gear } } })),
  })

/** All gear, page by page. Shallow: things are replaced, never changed, and following each field of thousands is slow. */
export const gearQuery = queryOptions({
  queryKey: keys.gear,
  shallow: true,
  queryFn: async () => {
    const items: Gear[] = []
    for (;;) {
      const page = await unwrap(
        api.GET('/api/gear', { params: { query: { limit: PAGE, offset: items.length } } }),
      )
      items.push(...page.items)
      if (items.length >= page.total || page.items.length === 0) return items
    }
  },
})

export const listsQuery = queryOptions({ queryKey: keys.lists, queryFn: () => unwrap(api.GET('/api/lists')) })

export const listQuery = (id: string) =>
  queryOptions({
    queryKey: keys.list(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}', { params: { path: { id } } })),
  })

/** A list with all that is calculated of it; shallow, as the gear. */
export const sheetQuery = (id: string) =>
  queryOptions({
    queryKey: keys.sheet(id),
    shallow: true,
    queryFn: () => unwrap(api.GET('/api/lists/{id}/sheet', { params: { path: { id } } })),
  })

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: keys.plan(id),
    queryFn: async (): Promise<PlanAnswer> => {
      const plan = await unwrap(api.GET('/api/lists/{id}/plan', { params: { path: { id } } }))
      return { ...plan, near_misses: [], meet_costs: [], sure: null }
    },
  })

/** The near misses of a plan, which may take a second longer: asked for once it is there, and again with each plan of another revision. */
export const nearMissesQuery = (id: string, revision: number) =>
  queryOptions({
    queryKey: ['near misses', id, revision],
    gcTime: PASSING_MS,
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/lists/{id}/plan/near-misses', { params: { path: { id } }, signal })),
  })

/** Lists side by side, by weight, money and the rest. */
export const outfitsQuery = (ids: string[]) =>
  queryOptions({
    queryKey: keys.outfits(ids),
    queryFn: () => unwrap(api.GET('/api/outfits', { params: { query: { lists: ids.join(',') } } })),
    placeholderData: (old: Outfits | undefined) => old,
  })

/** The lists of the coming twelve months, planned together. */
export const yearQuery = queryOptions({
  queryKey: keys.year,
  // What is not waited for any more is not calculated any further.
  queryFn: ({ signal }) => unwrap(api.GET('/api/year', { signal })),
})

/** A list as it would stand after some of its swaps. */
export const afterQuery = (id: string, swaps: string[]) =>
  queryOptions({
    queryKey: keys.after(id, swaps),
    gcTime: PASSING_MS,
    queryFn: () => unwrap(api.POST('/api/lists/{id}/after', { params: { path: { id } }, body: { swaps } })),
  })

/** The prices that are followed for a list. */
export const offersQuery = (id: string) =>
  queryOptions({
    queryKey: keys.offers(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/offers', { params: { path: { id } } })),
  })

/** Where light is to be had on a list. */
export const lighterQuery = (id: string) =>
  queryOptions({
    queryKey: keys.lighter(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/lighter', { params: { path: { id } } })),
  })

/** What Kevyt proposes for a list. */
export const proposalsQuery = (id: string) =>
  queryOptions({
    queryKey: keys.proposals(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/proposals', { params: { path: { id } } })),
  })

export const keptPlansQuery = (id: string) =>
  queryOptions({
    queryKey: keys.keptPlans(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/kept-plans', { params: { path: { id } } })),
  })

/** A list as it is packed, and the scale's reading against it. */
export const packingQuery = (id: string) =>
  queryOptions({
    queryKey: keys.packing(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/packing', { params: { path: { id } } })),
  })

/** The trips of the account, and what they teach. */
export const lessonsQuery = queryOptions({
  queryKey: keys.lessons,
  queryFn: () => unwrap(api.GET('/api/lessons')),
})

export const tripQuery = (id: string) =>
  queryOptions({
    queryKey: keys.trip(id),
    queryFn: () => unwrap(api.GET('/api/trips/{id}', { params: { path: { id } } })),
  })

/** How the base weight of a list came to be what it is. */
export const historyQuery = (id: string) =>
  queryOptions({
    queryKey: keys.history(id),
    queryFn: () => unwrap(api.GET('/api/lists/{id}/history', { params: { path: { id } } })),
  })

/** Reads what the steps of a list show, one after the other, so that each opens where there is no network. */
export async function readAhead(queries: QueryClient, list: string) {
  const all = [
    sheetQuery(list),
    packingQuery(list),
    listQuery(list),
    gearQuery,
    weighQuery(list),
    kitsQuery,
    planQuery(list),
    proposalsQuery(list),
    lighterQuery(list),
    offersQuery(list),
    keptPlansQuery(list),
    lessonsQuery,
    historyQuery(list),
    yearQuery,
  ] as { queryKey: QueryKey; queryFn?: unknown }[]
  for (const query of all) {
    if (offlineSince.value) return
    await queries.prefetchQuery({ ...(query as typeof kitsQuery), staleTime: AHEAD_MS })
  }
  const walked = queries.getQueryData<Lessons>(keys.lessons)?.trips.findLast(({ trip }) => trip.kept_at)
  if (walked) await queries.prefetchQuery({ ...tripQuery(walked.trip.id), staleTime: AHEAD_MS })
}
